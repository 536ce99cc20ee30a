import type { SourceView } from "@alvek/contract";
import { BLANK, type Material, type Source } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { provenanceOf } from "./EntryProvenance";

const source = (title: string): Source => ({ kind: "document", title });
const material: Material = { ...BLANK, sources: { s1: source("Certificate 7") } };
const kept = [{ id: "k1", version: 1, content: source("Supplier list") }] as unknown as readonly SourceView[];
const of = (text: string) => provenanceOf({ evidence: "measured", basis: "", source: text }, { material, kept });

describe("what the values of a line say of themselves", () => {
	it("is nothing where nothing is said", () => {
		const none = provenanceOf({ evidence: "", basis: "", source: "  " }, { material, kept });
		expect(none).toEqual({ details: {}, added: null });
	});

	it("names a record by its title, brings one of the library along, and keeps other words as words", () => {
		expect(of("Certificate 7")).toEqual({ details: { evidence: "measured", sourceId: "s1" }, added: null });
		expect(of("Supplier list")).toEqual({
			details: { evidence: "measured", sourceId: "k1" },
			added: { id: "k1", content: source("Supplier list") },
		});
		expect(of("a call with the mill")).toEqual({
			details: { evidence: "measured", source: "a call with the mill" },
			added: null,
		});
	});
});
