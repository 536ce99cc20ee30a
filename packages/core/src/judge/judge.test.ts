import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, it } from "vitest";
import { BLANK, type Material, makeValue } from "../material";
import type { OwnProperty } from "../property";
import { ALONE, judge } from "./index";

function made(values: Readonly<Record<string, string>>): Material {
	const entries = Object.entries(values).map(([id, text]) => {
		const value = makeValue(id, text);
		if (!value.ok) throw new Error(`${id}: ${text}`);
		return [id, value.value];
	});
	return { ...BLANK, values: Object.fromEntries(entries) };
}

describe("judging a material beside what it stands in", () => {
	const bronze = made({ density: "7.6 g/cm3", youngs_modulus: "115 GPa", poissons_ratio: "0.33" });
	const codes = (m: Material, beside = ALONE): readonly string[] => judge(m, beside).checks.map((c) => c.code);

	it("a twin of its base is told only beside the base", () => {
		expect(codes(bronze)).not.toContain("same-as-base");
		expect(codes(bronze, { own: [], base: { name: "Bronze", document: bronze } })).toContain("same-as-base");
		const other = made({ density: "7.7 g/cm3", youngs_modulus: "115 GPa", poissons_ratio: "0.33" });
		expect(codes(other, { own: [], base: { name: "Bronze", document: bronze } })).not.toContain("same-as-base");
	});

	it("a base that moved on is told where something hangs on it", () => {
		const head = made({ density: "7.6 g/cm3", youngs_modulus: "110 GPa", poissons_ratio: "0.33" });
		const hanging = (how: object): Material => ({
			...bronze,
			values: Object.fromEntries(Object.entries(bronze.values).map(([id, v]) => [id, { ...v, ...how }])),
		});
		const follows = hanging({ follows: { name: "Bronze", uid: "b", revision: 1 } });
		const base = { name: "Bronze", document: bronze };
		const moved = (m: Material, beside: object) => {
			const check = judge(m, { own: [], base: { ...base, ...beside } }).checks.find((c) => c.code === "base-moved-on");
			return check?.values;
		};
		expect(moved(follows, { head })).toEqual(["youngs_modulus"]);
		expect(moved(follows, { head: bronze })).toBeUndefined();
		expect(moved(follows, {})).toBeUndefined();
		// what is one's own hangs on nothing, and what says the same already is forward
		expect(moved(bronze, { head })).toBeUndefined();
		const forward = { ...follows, values: { ...follows.values, youngs_modulus: head.values.youngs_modulus } } as Material;
		expect(moved(forward, { head })).toBeUndefined();
	});

	it("what a library's own property is needed for counts in the readiness beside that library only", () => {
		const own = { uid: "u1", name: "Water uptake", siUnit: "kg", unit: "g", neededFor: ["mass"] } as unknown as OwnProperty;
		const mass = (beside: typeof ALONE) => judge(bronze, beside).readiness.find((r) => r.use === "mass");
		expect(mass(ALONE)?.state).toBe("doubts");
		expect(mass({ own: [own], base: null })).toMatchObject({
			state: "not-ready",
			doubts: ["Water uptake, which the library asks for, is missing"],
		});
	});

	it("no other place judges by itself", () => {
		const root = fileURLToPath(new URL("../../../../", import.meta.url));
		const sources = ["packages", "demo", "bench", "e2e"].flatMap((folder) =>
			(readdirSync(join(root, folder), { recursive: true }) as string[])
				.filter((f) => /\.tsx?$/.test(f) && !/node_modules|dist|\.types|\.test\.|testing\.ts/.test(f))
				.map((f) => join(root, folder, f)),
		);
		expect(sources.length).toBeGreaterThan(400);
		const judging = sources.filter((f) => /\b(checkMaterial|readiness)\(/.test(readFileSync(f, "utf8")));
		expect(judging.map((f) => f.slice(root.length)).sort()).toEqual([
			"packages/core/src/judge/index.ts",
			"packages/core/src/material/checks.ts",
			"packages/core/src/material/readiness.ts",
		]);
	});
});
