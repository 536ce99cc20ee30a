import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { backupName } from "./back-up";
import { madeAt, toDelete } from "./retention";

const day = (n: number): string => new Date(Date.UTC(2026, 0, 1, 3, 0, 0) + n * 86_400_000).toISOString();

describe("which backups stay", () => {
	it("a name tells its moment to the second, and no other file has one", () => {
		expect(madeAt(backupName("2026-11-26T01:02:03.456Z"))).toBe("2026-11-26T01:02:03.000Z");
		for (const other of ["alvek.sqlite", "alvek-2026-11-26.tar.gz", "alvek-2026-13-45T99-99-99Z.tar.gz", "notes.txt"])
			expect(madeAt(other)).toBeNull();
	});

	it("one a day for a year: seven days, then weeks, then months", () => {
		const names = Array.from({ length: 365 }, (_, n) => backupName(day(n)));
		const gone = new Set(toDelete(names, { days: 7, weeks: 4, months: 6 }));
		const kept = names.filter((n) => !gone.has(n)).map((n) => madeAt(n)?.slice(0, 10));
		// 2026-12-31 is a Thursday; weeks begin on Monday, so their newest days are the Sundays 27, 20 and 13 December
		expect(kept).toEqual([
			"2026-07-31",
			"2026-08-31",
			"2026-09-30",
			"2026-10-31",
			"2026-11-30",
			"2026-12-13",
			"2026-12-20",
			...["25", "26", "27", "28", "29", "30", "31"].map((d) => `2026-12-${d}`),
		]);
	});

	it("never the newest one, never a file of somebody else, and asking again deletes nothing more", () => {
		const moment = fc.integer({ min: 0, max: 400 * 24 }).map((h) => new Date(Date.UTC(2026, 0, 1) + h * 3_600_000).toISOString());
		const small = fc.integer({ min: 0, max: 9 });
		fc.assert(
			fc.property(
				fc.uniqueArray(moment, { minLength: 1, maxLength: 60 }),
				small,
				small,
				small,
				(moments, days, weeks, months) => {
					const names = [...moments.map(backupName), "thesis.tar.gz"];
					const gone = toDelete(names, { days, weeks, months });
					const newest = backupName([...moments].sort().at(-1) as string);
					expect(gone).not.toContain(newest);
					expect(gone).not.toContain("thesis.tar.gz");
					const left = names.filter((n) => !gone.includes(n));
					expect(left.length - 1).toBeLessThanOrEqual(Math.max(1, days + weeks + months));
					expect(toDelete(left, { days, weeks, months })).toEqual([]);
				},
			),
		);
	});
});
