import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { exact, minus, plus, power, type Rational, rootToDouble, scaled, times, toDouble } from "./rational";

describe("exact fractions", () => {
	it("round to the nearest double, as the language's own reader of decimals does", () => {
		fc.assert(
			fc.property(fc.bigInt({ min: -(10n ** 20n), max: 10n ** 20n }), fc.integer({ min: -40, max: 40 }), (mantissa, e10) => {
				// Number("...e...") is correctly rounded by the language's definition; -0 never comes out of a fraction
				expect(toDouble(scaled(mantissa, e10))).toBe(Number(`${mantissa}e${e10}`) + 0);
			}),
			{ seed: 41, numRuns: 3000 },
		);
	});

	it("ties go to even: 2^53 + 1 has two nearest doubles", () => {
		expect(toDouble({ n: 2n ** 53n + 1n, d: 1n })).toBe(2 ** 53);
		expect(toDouble({ n: 2n ** 53n + 3n, d: 1n })).toBe(2 ** 53 + 4);
		expect(toDouble({ n: 2n ** 54n + 3n, d: 2n })).toBe(2 ** 53 + 2);
	});

	it("a fraction is the same whatever it is extended by", () => {
		fc.assert(
			fc.property(
				fc.bigInt({ min: 1n, max: 10n ** 18n }),
				fc.bigInt({ min: 1n, max: 10n ** 18n }),
				fc.bigInt({ min: 1n, max: 10n ** 9n }),
				(n, d, k) => {
					expect(toDouble({ n: n * k, d: d * k })).toBe(toDouble({ n, d }));
					expect(toDouble({ n: -n, d })).toBe(-toDouble({ n, d }));
				},
			),
			{ seed: 42 },
		);
	});

	it("square roots of squares are exact, others the nearest double", () => {
		fc.assert(
			fc.property(fc.bigInt({ min: 1n, max: 10n ** 12n }), fc.bigInt({ min: 1n, max: 10n ** 6n }), (n, d) => {
				expect(rootToDouble({ n: n * n, d: d * d })).toBe(toDouble({ n, d }));
			}),
			{ seed: 43 },
		);
		// Math.sqrt is correctly rounded (IEEE 754), and these arguments are exact doubles
		for (const x of [2, 3, 5, 7, 10, 0.0625, 1e-4 * 2 ** 40]) {
			const [n, d] = [BigInt(Math.round(x * 2 ** 60)), 2n ** 60n];
			if (Number(n) / 2 ** 60 === x) expect(rootToDouble({ n, d })).toBe(Math.sqrt(x));
		}
		expect(rootToDouble({ n: 0n, d: 1n })).toBe(0);
	});

	it("add, subtract, multiply and take powers without losing anything", () => {
		const third: Rational = { n: 1n, d: 3n };
		expect(toDouble(plus(plus(third, third), third))).toBe(1);
		expect(toDouble(minus(third, third))).toBe(0);
		expect(toDouble(times(third, scaled(3n, 0)))).toBe(1);
		expect(toDouble(power(exact("0.0254"), 3))).toBe(1.6387064e-5);
		expect(toDouble(power(exact("0.0254"), -1))).toBe(1 / 0.0254);
	});

	it("read the tables: decimals, exponents, chains of quotients", () => {
		expect(toDouble(exact("0.45359237"))).toBe(0.45359237);
		expect(toDouble(exact("1e-6"))).toBe(1e-6);
		// 1 psi, the quotient of the defined pound-force and inch: 6894.75729316836133... in decimals, by long division
		expect(toDouble(exact("4.4482216152605/0.0254/0.0254"))).toBe(Number("6894.75729316836133672"));
	});
});
