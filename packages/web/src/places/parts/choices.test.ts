import type { PartView, ProjectView } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import { choicesOf, forPurpose, purposeOf, purposesOf } from "./choices";

const row = (id: string, offeredFor: readonly string[], more: object = {}) => ({
	id,
	name: `Material ${id}`,
	group: "",
	itemCode: "",
	shopName: "",
	knownAs: [],
	revision: 1,
	draftId: null,
	starred: false,
	working: false,
	retired: null,
	publishedDensity: null,
	offeredFor,
	document: { designations: [], values: {} },
	...more,
});
const on = (materialId: string | null) => ({ assignment: materialId === null ? null : { materialId } }) as unknown as PartView;
const project = { id: "p", parts: [on("bolt")] } as unknown as ProjectView;
const rows = [
	row("plain", []),
	row("bolt", ["fastener", "structure"]),
	row("wire", ["winding"], { starred: true }),
	row("plate", ["structure"]),
];
const choices = choicesOf(rows as never, project, "");

describe("choices for parts", () => {
	it("begin with what the project uses, then what is starred", () => {
		expect(choices.map((c) => c.row.id)).toEqual(["bolt", "wire", "plain", "plate"]);
		expect(choicesOf(rows as never, project, "plai").map((c) => c.row.id)).toEqual(["plain"]);
	});

	it("are steered by what the parts are for now; what says nothing fits everything", () => {
		expect(purposesOf(choices)).toEqual(["fastener", "structure", "winding"]);
		expect(purposeOf([on("bolt")], rows as never)).toBe("fastener");
		expect(purposeOf([on("bolt"), on("plate")], rows as never)).toBe("structure");
		expect([purposeOf([on("bolt"), on("wire")], rows as never), purposeOf([on(null)], rows as never)]).toEqual(["", ""]);
		expect(purposeOf([on("bolt"), on(null)], rows as never)).toBe("");
		const fitting = (purpose: string) => forPurpose(choices, purpose).map((c) => c.row.id);
		expect(fitting("fastener")).toEqual(["bolt", "plain"]);
		// offered for it comes before what says nothing, wherever it stood
		expect(fitting("structure")).toEqual(["bolt", "plate", "plain"]);
		expect(fitting("")).toHaveLength(4);
		// whoever types the name of another gets it, and no material of that name is made instead
		expect(forPurpose(choicesOf(rows as never, project, "wire"), "fastener").map((c) => c.row.id)).toEqual(["wire"]);
	});
});
