import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decades, ticks } from "./ticks";

describe("ticks of a printed axis", () => {
	it("are round, inside, even and of about the wanted number", () => {
		const end = fc.double({ min: -1e6, max: 1e6, noNaN: true });
		fc.assert(
			fc.property(end, fc.double({ min: 1e-3, max: 1e6, noNaN: true }), (low, span) => {
				const all = ticks(low, low + span, 5);
				expect(all.length).toBeGreaterThanOrEqual(2);
				expect(all.length).toBeLessThanOrEqual(7);
				const step = (all[1] as number) - (all[0] as number);
				for (const [i, t] of all.entries()) {
					expect(t).toBeGreaterThanOrEqual(low - step * 1e-6);
					expect(t).toBeLessThanOrEqual(low + span + step * 1e-6);
					if (i > 0) expect(t - (all[i - 1] as number)).toBeCloseTo(step, 6);
				}
			}),
		);
		expect(ticks(0, 12, 5)).toEqual([0, 5, 10]);
		expect(ticks(3, 3, 5)).toEqual([3]);
		expect(decades(50, 2e6)).toEqual([100, 1e3, 1e4, 1e5, 1e6]);
	});
});
