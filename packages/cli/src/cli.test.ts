import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";

const root = fileURLToPath(new URL("../../../", import.meta.url));
const fixture = (name: string): string => join(root, "fixtures", name);
const dir = mkdtempSync(join(tmpdir(), "alvek-cli-"));

function alvek(...args: string[]): { code: number | null; out: string; json: () => Record<string, never> } {
	const run = spawnSync(process.execPath, [join(root, "packages/cli/dist/alvek.js"), ...args], { encoding: "utf8" });
	return { code: run.status, out: run.stdout, json: () => JSON.parse(run.stdout) as Record<string, never> };
}

describe("alvek quantity", () => {
	it("answers one JSON object, and only that", () => {
		const { code, json } = alvek("quantity", "512 lb/ft3", "--property", "density", "--json");
		expect(code).toBe(0);
		expect(json()).toMatchObject({
			ok: true,
			low: 8201.45324746759,
			high: 8201.45324746759,
			si_unit: "kg/m^3",
			entered: "512 lb/ft3",
		});
	});

	it("refuses with a code and exit 1; a bare number has no unit", () => {
		const { code, json } = alvek("quantity", "8940", "--property", "density", "--json");
		expect(code).toBe(1);
		expect(json()).toMatchObject({ ok: false, issues: [{ code: "unit-missing" }] });
		expect(alvek("quantity", "1 m", "--property", "__proto__", "--json").json()).toMatchObject({
			issues: [{ code: "unknown-property" }],
		});
		expect(alvek("quantity", "-2 kg/m3", "--property", "density").out).toContain("impossible");
	});

	it("reads a batch, one line a row, in order", () => {
		const rows = Papa.parse<Record<string, string>>(readFileSync(fixture("quantities.csv"), "utf8"), {
			header: true,
			skipEmptyLines: true,
		}).data;
		const lines = alvek("quantity", "--batch", fixture("quantities.csv"), "--json")
			.out.trim()
			.split("\n")
			.map((l) => JSON.parse(l) as { ok: boolean; issues: { code: string }[] });
		expect(lines.length).toBe(rows.length);
		expect(lines.map((l) => (l.ok ? "" : l.issues[0]?.code))).toEqual(rows.map((r) => r.error));
	});

	it("explains itself, and fails with 2 when it is called wrongly", () => {
		expect(alvek("--help")).toMatchObject({ code: 0 });
		expect(alvek("--help").out).toContain("alvek mass FILE.step");
		expect([alvek("quantity").code, alvek("weigh").code, alvek("mass", "x.step").code]).toEqual([2, 2, 2]);
	});
});

describe("alvek mass", () => {
	it("weighs every solid of every occurrence with the densities of a map", () => {
		const expected = JSON.parse(readFileSync(fixture("nested.expected.json"), "utf8")) as {
			occurrences: { path: string }[];
			mass: { density_kg_m3_by_part_id: Record<string, number>; total_mass_kg: number; mass_kg_by_occurrence: number[] };
		};
		const map = Object.fromEntries(Object.entries(expected.mass.density_kg_m3_by_part_id).map(([k, v]) => [k, `${v} kg/m3`]));
		const file = join(dir, "map.json");
		writeFileSync(file, JSON.stringify(map));
		const result = alvek("mass", fixture("nested.step"), "--materials", file, "--json").json() as unknown as {
			solids: { path: string; mass_kg: number }[];
			total: { mass_kg: number };
		};
		expect(result.solids.map((s) => s.path)).toEqual(expected.occurrences.map((o) => o.path));
		for (const [i, s] of result.solids.entries())
			expect(s.mass_kg / (expected.mass.mass_kg_by_occurrence[i] ?? 1)).toBeCloseTo(1, 9);
		expect(result.total.mass_kg / expected.mass.total_mass_kg).toBeCloseTo(1, 12);
	});

	it("names what has no density, and carries a range", () => {
		const file = join(dir, "some.json");
		writeFileSync(file, JSON.stringify({ Cheek: "2.66-2.70 g/cm3" }));
		const result = alvek("mass", fixture("nested.step"), "--materials", file, "--json").json() as unknown as {
			total: Record<string, number>;
			issues: { code: string; path: string }[];
			solids: { mass_kg: number | null }[];
		};
		expect(result.total).toMatchObject({ solids: 9, solids_with_mass: 2 });
		expect((result.total.mass_high_kg ?? 0) / (result.total.mass_low_kg ?? 1)).toBeCloseTo(2.7 / 2.66, 12);
		expect(result.issues.length).toBe(7);
		expect(result.solids[2]?.mass_kg).toBeNull();
	});

	it("refuses a bad file and a bad density with exit 1 and issues", () => {
		const bad = join(dir, "bad.step");
		writeFileSync(bad, "hello");
		for (const [args, code] of [
			[["mass", bad, "--density", "1 g/cm3", "--json"], "not-step"],
			[["mass", join(dir, "none.step"), "--density", "1 g/cm3", "--json"], "not-found"],
			[["mass", fixture("nested.step"), "--density", "2710", "--json"], "unit-missing"],
		] as const) {
			const run = alvek(...args);
			expect([run.code, run.json()]).toMatchObject([1, { ok: false, issues: [{ code }] }]);
		}
	});
});
