import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { BLANK, canonicalJson, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";

const root = fileURLToPath(new URL("../../../", import.meta.url));
const fixture = (name: string): string => join(root, "fixtures", name);
const dir = mkdtempSync(join(tmpdir(), "alvek-cli-"));
const read = <T>(name: string): T => JSON.parse(readFileSync(fixture(name), "utf8")) as T;

function alvek(...args: string[]): { code: number | null; out: string; err: string } {
	const run = spawnSync(process.execPath, [join(root, "packages/cli/dist/alvek.js"), ...args], { encoding: "utf8" });
	return { code: run.status, out: run.stdout, err: run.stderr };
}
function file(name: string, content: unknown): string {
	const path = join(dir, name);
	writeFileSync(path, typeof content === "string" ? content : JSON.stringify(content));
	return path;
}

describe("alvek page", () => {
	it("prints what the expected file says, entry by entry", () => {
		type Entry = Record<string, unknown> & { si_low: number | null; si_high: number | null };
		type Reply = { recognised: Entry[]; price: object; headings: number[]; must_ask: unknown[]; left_for_the_user: string[] };
		const expected = read<Reply>("page-paste.expected.json");
		const { code, out } = alvek("page", fixture("page-paste.txt"), "--json");
		const reply = JSON.parse(out) as Reply;
		expect(code).toBe(0);
		expect(reply.recognised).toHaveLength(expected.recognised.length);
		for (const [i, e] of expected.recognised.entries()) {
			const { si_low, si_high, ...words } = e;
			const mine = reply.recognised[i] as Entry;
			expect(mine).toMatchObject(words);
			for (const [a, b] of [
				[mine.si_low, si_low],
				[mine.si_high, si_high],
			] as const) {
				if (b === null) expect(a).toBeNull();
				else expect(Math.abs((a ?? Number.NaN) / b - 1)).toBeLessThan(1e-9);
			}
			expect(mine.unit).toBeTruthy();
		}
		const { price, headings, must_ask, left_for_the_user } = expected;
		expect(reply).toMatchObject({ price, headings, must_ask, left_for_the_user });
	});

	it("refuses what is too large with its limit, and a call without a file", () => {
		const { code, err } = alvek("page", file("huge.txt", "x".repeat(300_000)), "--json");
		expect([code, err]).toEqual([1, expect.stringContaining("at most 200000")]);
		expect(alvek("page").code).toBe(2);
	});
});

describe("alvek solver", () => {
	const expected = read<{
		si: Record<string, number>;
		sets: Record<string, { temperature_unit: string; values: Record<string, number> }>;
	}>("solver.expected.json");
	const texts = {
		density: "2700 kg/m3",
		youngs_modulus: "69.5 GPa",
		poissons_ratio: "0.33",
		thermal_expansion: "23.2e-6 /K",
		thermal_conductivity: "151 W/(m·K)",
		specific_heat: "897 J/(kg·K)",
		yield_strength: "262 MPa",
	};

	it.each(Object.keys(expected.sets))("gives the exact fractions in %s, every number with its unit", (set) => {
		const path = file("materials.json", {
			materials: [
				{ name: "From text", values: texts },
				{ name: "From SI", values: expected.si },
			],
		});
		const { code, out } = alvek("solver", path, "--use", "all", "--set", set, "--json");
		expect(code).toBe(0);
		const reply = JSON.parse(out) as {
			set: string;
			temperature_unit: string;
			materials: { values: Record<string, number>; units: Record<string, string>; doubts: string[] }[];
		};
		expect([reply.set, reply.temperature_unit]).toEqual([set, expected.sets[set]?.temperature_unit]);
		for (const material of reply.materials) {
			for (const [id, value] of Object.entries(expected.sets[set]?.values ?? {})) {
				expect(Math.abs((material.values[id] as number) / value - 1), id).toBeLessThan(1e-12);
				expect(material.units[id], id).toBeTruthy();
			}
		}
	});

	it("takes a material as the API gives it: a row, an export, a revision, a whole reply", () => {
		const made = makeValue("density", "8.78-8.91 g/cm3");
		if (!made.ok) throw new Error();
		const document = JSON.parse(canonicalJson({ ...BLANK, values: { density: made.value } })) as object;
		const shapes = [
			{ name: "export", document },
			{ row: { name: "sheet", document } },
			{ ok: true, value: { row: { name: "reply", document } } },
		];
		const { out } = alvek("solver", file("api.json", { materials: shapes }), "--use", "modal", "--set", "mm-t-s", "--json");
		const { materials } = JSON.parse(out) as {
			materials: { name: string; values: { density: number }; units: object; doubts: string[]; rules: object }[];
		};
		expect(materials.map((m) => m.name)).toEqual(["export", "sheet", "reply"]);
		for (const m of materials) {
			expect(m.values.density).toBeCloseTo(8.845e-9, 18);
			expect(m).toMatchObject({ units: { density: "t/mm3" }, rules: { density: "middle of 8.78e-9–8.91e-9" } });
			expect(m.doubts).toContain("missing: Young’s modulus");
		}
	});

	it("refuses what does not read, naming each value, and prints no half table", () => {
		const path = file("bad.json", { materials: [{ name: "x", values: { density: "8.8 GPa", colour: "red" } }] });
		const { code, out } = alvek("solver", path, "--use", "all", "--json");
		expect(code).toBe(1);
		const reply = JSON.parse(out) as { ok: boolean; issues: { code: string; path: string }[] };
		expect(reply.issues.map((i) => [i.code, i.path])).toEqual([
			["wrong-dimension", "materials[0].density"],
			["unknown-property", "materials[0].colour"],
		]);
		expect(alvek("solver", file("broken.json", "{"), "--json").code).toBe(1);
		expect(alvek("solver", path, "--set", "furlong").code).toBe(2);
	});
});

describe("alvek check", () => {
	it("prints what is refused and what looks wrong, with the slip", () => {
		const materials = [
			{ name: "light", family: "metal.aluminium", values: { density: "2.70 kg/m3", youngs_modulus: "69 GPa" } },
			{ name: "cold", family: "polymer", values: { service_temperature_min: "-40 K" } },
			{
				name: "sound",
				family: "metal.steel",
				values: { density: "7.85 g/cm3", yield_strength: ">= 355 MPa" },
				kinds: { yield_strength: "ReH" },
			},
		];
		const { code, out } = alvek("check", file("checked.json", { materials }), "--json");
		expect(code).toBe(1);
		const found = JSON.parse(out) as {
			name: string;
			refused: { path: string }[];
			checks: { code: string; slip?: { said: string } }[];
		}[];
		expect(found.map((m) => [m.name, m.refused.length, m.checks.map((c) => `${c.code} ${c.slip?.said ?? ""}`)])).toEqual([
			["light", 0, ["outside-band g/cm³ and kg/m³"]],
			["cold", 1, []],
			["sound", 0, []],
		]);
		expect(alvek("check", file("none.json", "{"), "--json").code).toBe(1);
		expect(alvek("check").code).toBe(2);
	});
});
