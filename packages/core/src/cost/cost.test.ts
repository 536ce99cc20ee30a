import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type CostedPart, costOf, inCurrency, type Money, readMoney, rollUpCosts } from "./index";

const EUR: Money = { currency: "EUR", rates: [{ currency: "USD", rate: "0.92", date: "2026-11-02" }] };
const price = (amount: string, currency = "EUR") => ({ amount, currency, date: "2026-10-01" });
const part = (p: Partial<CostedPart>): CostedPart => ({ quantity: 1, mass_kg: 2, price: null, carbon: null, ...p });

describe("cost and carbon", () => {
	it("of a piece: by hand, 2 kg at 6.10 EUR/kg and 8.2 kg/kg", () => {
		const cost = costOf(part({ price: price("6.10"), carbon: 8.2 }), EUR);
		expect([cost.cost, cost.carbon_kg]).toEqual([12.2, 16.4]);
		// 5 USD/kg x 2 kg x 0.92 EUR/USD
		expect(costOf(part({ price: price("5", "USD") }), EUR).cost).toBeCloseTo(9.2, 12);
	});

	it("says why a piece has none", () => {
		expect(costOf(part({ mass_kg: null, price: price("1"), carbon: 1 }), EUR)).toMatchObject({
			costGap: "no-mass",
			carbonGap: "no-mass",
		});
		expect(costOf(part({}), EUR)).toMatchObject({ costGap: "no-price", carbonGap: "no-carbon" });
		expect(costOf(part({ price: price("9", "CHF") }), EUR)).toMatchObject({ cost: null, costGap: "no-rate" });
	});

	it("rolls up with coverage, and never adds a currency without a rate", () => {
		const totals = rollUpCosts(
			[
				part({ quantity: 3, price: price("6.10"), carbon: 8.2 }),
				part({ quantity: 2, mass_kg: 0.5, price: price("9", "CHF"), carbon: 1 }),
				part({ quantity: 4, mass_kg: null }),
			],
			EUR,
		);
		expect(totals).toMatchObject({ pieces: 9, piecesWithCost: 3, piecesWithCarbon: 5, ratesMissing: ["CHF"] });
		expect(totals.cost).toBeCloseTo(36.6, 12);
		expect(totals.carbon_kg).toBeCloseTo(3 * 16.4 + 2 * 0.5, 12);
		expect([totals.mass_kg, totals.massWithCost_kg, totals.massWithCarbon_kg]).toEqual([7, 6, 7]);
		expect(rollUpCosts([], EUR)).toMatchObject({ cost: null, carbon_kg: null, pieces: 0 });
	});

	it("is the plain sum over single pieces", () => {
		const some = fc.record({
			quantity: fc.integer({ min: 1, max: 5 }),
			mass_kg: fc.option(fc.double({ min: 0.01, max: 100, noNaN: true })),
			price: fc.option(fc.constantFrom(price("1.5"), price("3", "USD"), price("4", "CHF"))),
			carbon: fc.option(fc.double({ min: -1, max: 30, noNaN: true })),
		});
		fc.assert(
			fc.property(fc.array(some), (parts) => {
				const pieces = parts.flatMap((p) => Array.from({ length: p.quantity }, () => costOf(p, EUR)));
				const sum = (list: readonly (number | null)[]): number => list.reduce<number>((s, x) => s + (x ?? 0), 0);
				const totals = rollUpCosts(parts, EUR);
				expect(totals.cost ?? 0).toBeCloseTo(sum(pieces.map((p) => p.cost)), 6);
				expect(totals.carbon_kg ?? 0).toBeCloseTo(sum(pieces.map((p) => p.carbon_kg)), 6);
				expect(totals.piecesWithCost).toBe(pieces.filter((p) => p.cost !== null).length);
			}),
		);
	});

	it("refuses currencies, rates and dates that are none", () => {
		const codes = (money: Money): string[] => {
			const read = readMoney(money);
			return read.ok ? [] : read.issues.map((i) => i.code);
		};
		const rate = (r: object): Money => ({ currency: "EUR", rates: [{ currency: "USD", rate: "1", date: "2026-01-01", ...r }] });
		expect(codes(EUR)).toEqual([]);
		expect(codes({ currency: "euro", rates: [] })).toEqual(["not-a-currency"]);
		expect(codes(rate({ currency: "EUR" }))).toEqual(["rate-twice"]);
		for (const bad of ["0", "-1", "1e3", "x", ""]) expect(codes(rate({ rate: bad }))).toEqual(["not-a-rate"]);
		expect(codes(rate({ date: "2026-13-01" }))).toEqual(["not-a-date"]);
		expect(inCurrency(1, "GBP", EUR)).toBeNull();
	});
});
