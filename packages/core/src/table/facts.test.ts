import { describe, expect, it } from "vitest";
import { BLANK, type Material, makeValue } from "../material";
import { factsOf } from "./index";

describe("facts", () => {
	const value = (id: string, property: string, text: string, extra = {}) => {
		const made = makeValue({ id, property }, text, {}, extra);
		if (!made.ok) throw new Error(JSON.stringify(made.issues));
		return made.value;
	};

	it("hold the words that a text is looked for in, one line each, blank ones left out", () => {
		const material: Material = {
			...BLANK,
			family: "metal.steel",
			supplier: "Orsa Works",
			condition: "Annealed",
			productForm: " ",
			designations: [{ text: "Q 21" }, { system: "EN", text: "1.21" }] as never,
		};
		expect(
			factsOf(material, [])
				.words.split("\n")
				.map((w) => w.trim()),
		).toEqual(["orsa works", "annealed", "q 21", "en 1.21", "steel"]);
		expect(factsOf(BLANK, []).words).toBe("");
	});

	it("know the files that are attached by their purpose, names and notes", () => {
		const file = { name: "Heat 4471.pdf", note: "of the second plate", format: "PDF", hash: "0", bytes: 1, version: 1, date: "" };
		const attachments = {
			a: { ...file, purpose: "certificate" as const },
			b: { ...file, name: "x", note: " ", purpose: "other" as const },
		};
		const facts = factsOf({ ...BLANK, attachments }, []);
		expect(facts.carries).toEqual(["certificate"]);
		expect(facts.files).toBe("Heat 4471.pdf\nof the second plate\nx");
		expect(facts.words).toContain("heat 4471.pdf\nof the second plate");
		expect(facts.words).toContain("pdf");
	});

	it("hold every span, and the number that the first one works with", () => {
		const material: Material = {
			...BLANK,
			family: "metal.aluminium",
			price: { amount: "4.20", currency: "EUR", date: "2026-11-01" },
			values: {
				density: value("density", "density", "2700-2800 kg/m3", { evidence: "measured" }),
				yield_strength: value("yield_strength", "yield_strength", ">= 200 MPa", { basis: "guaranteed-minimum", source: "S" }),
				"yield_strength~2": value("yield_strength~2", "yield_strength", "240 MPa"),
			},
		};
		const facts = factsOf(material, []);
		expect(facts.spans).toEqual([
			["density", 2700, 2800, 2750, 0],
			["yield_strength", 200e6, null, 200e6, 4],
			["yield_strength", 240e6, 240e6, null, 4],
			["price:EUR", 4.2, 4.2, 4.2],
		]);
		expect(facts.family).toEqual(["metal", "metal.aluminium"]);
		expect(facts.ready).toContain("mass");
		expect(facts.evidence).toEqual(["measured", "none"]);
		expect(facts.basis).toEqual(["guaranteed-minimum", "none"]);
		expect(facts.open).toEqual(["no_source", "no_evidence"]);
	});
});
