import type { Where } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { evidenceInWords, readPriceSpan, spanInWords } from "./spanWords";

const NONE = new Map();
const text = (where: Where, set: "engineering" | "base" = "engineering") => spanInWords(where, NONE, set)?.text;
const span = (low: number | null, high: number | null, more = {}) => text({ property: "density", low, high, ...more });

describe("a filter on values in words", () => {
	it("has two ends, one, or none but a number; in the unit of the set", () => {
		expect([span(2600, 2800), span(null, 2800), span(2600, null), span(2700, 2700)]).toEqual([
			"2.6–2.8 g/cm³",
			"≤ 2.8 g/cm³",
			"≥ 2.6 g/cm³",
			"2.7 g/cm³",
		]);
		expect(text({ property: "density", low: 2600, high: null }, "base")).toBe("≥ 2600 kg/m³");
	});

	it("says when a range may reach into it, and what evidence counts; no blank where there is no unit", () => {
		expect(span(2600, null, { reach: true })).toBe("≥ 2.6 g/cm³, may reach");
		expect(span(null, 2800, { evidence: ["measured", "standard"] })).toBe("≤ 2.8 g/cm³, measured or standard");
		expect(span(null, null, { evidence: ["none"] })).toBe("without evidence");
		expect(evidenceInWords(["estimated", "measured"])).toBe("measured or estimated");
		expect(text({ property: "poissons_ratio", low: 0.3, high: 0.35 })).toBe("0.3–0.35");
	});

	it("names a price by its currency, and nothing that is not here", () => {
		expect(spanInWords({ property: "price:EUR", low: null, high: 4.5 }, NONE, "base")).toEqual({
			name: "Price",
			symbol: "",
			text: "≤ 4.5 EUR/kg",
		});
		expect(spanInWords({ property: "own:gone", low: 1, high: 2 }, NONE, "base")).toBeNull();
	});
});

describe("a span of prices as it is typed", () => {
	it.each([
		["2-5 EUR", "price:EUR", 2, 5],
		["<= 4,50 usd/kg", "price:USD", null, 4.5],
		[">= 3 CHF per kg", "price:CHF", 3, null],
	])("%s", (typed, property, low, high) => expect(readPriceSpan(typed)).toEqual({ ok: true, value: { property, low, high } }));

	it("needs its currency and a number", () => {
		expect(readPriceSpan("2-5")).toMatchObject({ ok: false, issues: [{ code: "not-a-currency" }] });
		expect(readPriceSpan("cheap EUR").ok).toBe(false);
		expect(readPriceSpan("-3 EUR").ok).toBe(false);
	});
});
