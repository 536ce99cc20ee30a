import type { Sheet } from "@alvek/contract";
import { BLANK, type Material, type MaterialValue, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { factored } from "./factored";

function value(id: string, text: string, details: object = {}): MaterialValue {
	const made = makeValue({ id, property: id.split("~")[0] ?? id }, text, {}, { evidence: "measured", ...details });
	if (!made.ok) throw new Error(text);
	return made.value;
}
const material = (...values: MaterialValue[]): Material => ({
	...BLANK,
	values: Object.fromEntries(values.map((v) => [v.id, v])),
});
const bronze = material(
	value("yield_strength", ">= 125 MPa", { qualifier: "Rp0.2", basis: "guaranteed-minimum" }),
	value("tensile_strength", "260-310 MPa"),
	value("density", "8.8 g/cm3"),
);
const base = { name: "Bronze", revision: 2, document: bronze } as unknown as Sheet["base"];
const asked = { factor: "0.9", reason: "house rule 12" };

describe("a factor on the strengths of a variant", () => {
	it("lowers each from what the base says, keeps what it means, and says why", () => {
		const [yielding, tensile, ...rest] = factored(bronze, base, asked);
		expect(rest).toEqual([]);
		expect(yielding?.to).toMatchObject({
			entered: ">= 112.5 MPa",
			low: 112.5e6,
			qualifier: "Rp0.2",
			basis: "guaranteed-minimum",
			evidence: "estimated",
			source: "0.9 times >= 125 MPa of Bronze rev 2: house rule 12",
		});
		expect(tensile?.to).toMatchObject({ low: 234e6, high: 279e6 });
	});

	it("does not come on top of an earlier factor", () => {
		const once = { ...bronze, values: { ...bronze.values, yield_strength: value("yield_strength", ">= 112.5 MPa") } };
		expect(factored(once, base, asked)[0]?.to?.entered).toBe(">= 112.5 MPa");
		// without a base there is nothing but the value itself
		expect(factored(once, null, asked)[0]?.to?.entered).toBe(">= 101.25 MPa");
	});

	it("says what it cannot take", () => {
		const lines = factored(material(value("yield_strength", "5 specimens: 261 264 258 266 262 MPa")), null, asked);
		expect(lines[0]).toMatchObject({ to: null });
		expect(lines[0]?.why).not.toBe("");
		expect(factored(bronze, base, { ...asked, factor: "ninety" })[0]?.why).toContain("“ninety” is not a factor");
	});
});
