import { readFileSync } from "node:fs";
import { type MassItem, totalMass } from "@alvek/core/mass";
import { afterAll, describe, expect, it } from "vitest";
import { type Body, bodiesOf, createKernel } from "./index";

const root = new URL("../../../", import.meta.url);
const fixture = (name: string): Buffer => readFileSync(new URL(`fixtures/${name}`, root));
const kernel = createKernel({ workerUrl: new URL("packages/kernel/dist/worker.js", root) });
afterAll(() => kernel.close());

async function bodies(bytes: Uint8Array): Promise<readonly Body[]> {
	const read = await kernel.read({ bytes, mesh: false });
	if (!read.ok) throw new Error(JSON.stringify(read.issues));
	return bodiesOf(read.value);
}

type Expected = {
	path?: string;
	name: string;
	volume_mm3: number;
	area_mm2: number;
	centroid_mm: number[];
	inertia_mm5?: number[][];
};

/** The largest deviation: relative for volume and area, of the part's size for centroids, of the largest diagonal for moments. */
function deviation(body: Body, expected: Expected): number {
	const { volume, area, centroid, inertia } = body.solid;
	const size = Math.cbrt(expected.volume_mm3);
	const moments = expected.inertia_mm5 ?? [];
	const largest = Math.max(...moments.map((row, i) => row[i] ?? 0), 1e-300);
	return Math.max(
		Math.abs((volume * 1e9) / expected.volume_mm3 - 1),
		Math.abs((area * 1e6) / expected.area_mm2 - 1),
		...centroid.map((x, i) => Math.abs(x * 1e3 - (expected.centroid_mm[i] ?? 0)) / size),
		...moments.flatMap((row, i) => row.map((m, j) => Math.abs((inertia[i]?.[j] ?? 0) * 1e15 - m) / largest)),
	);
}

describe("exact properties of solids", () => {
	it("nine flat parts: within 1e-9 of closed forms and an independent kernel run", async () => {
		const expected = (JSON.parse(fixture("mount.expected.json").toString()) as { parts: Expected[] }).parts;
		const found = await bodies(fixture("mount.step"));
		expect(found.map((b) => b.name)).toEqual(expected.map((e) => e.name));
		for (const [i, body] of found.entries()) expect(deviation(body, expected[i] as Expected)).toBeLessThan(1e-9);
	});

	it("a nested assembly, turned about odd axes: volume, area, centroid, inertia of each occurrence and of the whole", async () => {
		const expected = JSON.parse(fixture("nested.expected.json").toString()) as {
			occurrences: Expected[];
			mass: {
				density_kg_m3_by_part_id: Record<string, number>;
				total_mass_kg: number;
				centroid_mm: number[];
				inertia_kg_m2_about_centroid: number[][];
			};
		};
		const found = await bodies(fixture("nested.step"));
		expect(found.map((b) => b.path)).toEqual(expected.occurrences.map((e) => e.path));
		for (const [i, body] of found.entries()) expect(deviation(body, expected.occurrences[i] as Expected)).toBeLessThan(1e-9);
		const { mass } = expected;
		const total = totalMass(
			found.map((b): MassItem => {
				const density = mass.density_kg_m3_by_part_id[b.productId] ?? 0;
				return { solid: b.solid, density: { working: density, low: density, high: density } };
			}),
		);
		expect(Math.abs((total.mass?.mass ?? 0) / mass.total_mass_kg - 1)).toBeLessThan(1e-9);
		const largest = mass.inertia_kg_m2_about_centroid[2]?.[2] ?? 1;
		for (const [i, row] of mass.inertia_kg_m2_about_centroid.entries()) {
			for (const [j, m] of row.entries())
				expect(Math.abs((total.inertia?.[i as 0]?.[j as 0] ?? 0) - m) / largest).toBeLessThan(1e-9);
		}
	});

	it("follows the unit of the file: the same numbers in metres weigh 10^9 times as much", async () => {
		const metres = fixture("nested.step").toString().replace("SI_UNIT(.MILLI.,.METRE.)", "SI_UNIT($,.METRE.)");
		const [mm, m] = [await bodies(fixture("nested.step")), await bodies(Buffer.from(metres))];
		for (const [i, body] of mm.entries()) {
			expect((m[i]?.solid.volume ?? 0) / body.solid.volume / 1e9).toBeCloseTo(1, 9);
			expect((m[i]?.solid.centroid[2] ?? 0) - body.solid.centroid[2] * 1e3).toBeCloseTo(0, 9);
		}
	});

	it("keeps its precision in survey coordinates: a thousand kilometres away", async () => {
		const moved = (by: number): Buffer =>
			Buffer.from(
				fixture("nested.step")
					.toString()
					.replace(
						/CARTESIAN_POINT\('',\((-?[\d.E+-]+),(-?[\d.E+-]+),(-?[\d.E+-]+)\)\)/g,
						(_, x, y, z) => `CARTESIAN_POINT('',(${Number(x) + by},${y},${Number(z) - by}))`,
					),
			);
		const here = await kernel.read({ bytes: fixture("nested.step"), mesh: false });
		for (const far_mm of [1e6, 1e8, 1e9]) {
			const there = await kernel.read({ bytes: moved(far_mm), mesh: false });
			if (!here.ok || !there.ok) throw new Error("not read");
			for (const [i, solid] of here.value.solids.entries()) {
				const other = there.value.solids[i]?.geometry;
				expect(Math.abs((other?.volume ?? 0) / solid.geometry.volume - 1)).toBeLessThan(1e-9);
				const largest = Math.max(...[0, 1, 2].map((k) => solid.geometry.inertia[k as 0][k as 0]));
				for (const r of [0, 1, 2] as const)
					for (const c of [0, 1, 2] as const)
						expect(Math.abs((other?.inertia[r][c] ?? 0) - solid.geometry.inertia[r][c]) / largest).toBeLessThan(1e-9);
				// it did stand there
				expect((other?.centroid[0] ?? 0) - solid.geometry.centroid[0]).toBeCloseTo(far_mm * 1e-3, 6);
			}
		}
	});

	it("a boundary that misses itself is a doubt with its gap; a sound one is none", async () => {
		const text = fixture("nested.step").toString();
		const doubts = async (file: string) => {
			const read = await kernel.read({ bytes: Buffer.from(file), mesh: false });
			return read.ok ? read.value.solids.map((s) => s.doubt) : read.issues.map((i) => i.code);
		};
		expect(await doubts(text)).toEqual([null, null, null, null, null]);
		const [, point] = /VERTEX_POINT\('',#(\d+)\)/.exec(text) as RegExpExecArray;
		const moved = text.replace(new RegExp(`#${point}=CARTESIAN_POINT\\('',\\(([^,]+),`), (all, x) =>
			all.replace(x, `${Number(x) + 5}.`),
		);
		const [first, ...rest] = await doubts(moved);
		expect(rest).toEqual([null, null, null, null]);
		expect(first).toMatchObject({ kind: "gap" });
		expect((first as { gap_m: number }).gap_m).toBeCloseTo(0.005, 6);
		// a radius that does not meet its edges
		const wide = text.replace("CYLINDRICAL_SURFACE('',#230,8.)", "CYLINDRICAL_SURFACE('',#230,10.4)");
		expect(wide).not.toBe(text);
		expect((await doubts(wide))[0]).toMatchObject({ kind: "gap" });
		expect(await doubts(text.replace("CYLINDRICAL_SURFACE('',#230,8.)", "CYLINDRICAL_SURFACE('',#230,0.)"))).toEqual([
			"bad-radius",
		]);
	});

	it("tessellates: the triangles enclose the same volume within one percent (divergence theorem)", async () => {
		const read = await kernel.read({ bytes: fixture("mount.step"), mesh: true });
		if (!read.ok) throw new Error();
		for (const solid of read.value.solids) {
			const { positions: p, triangles: t } = solid.mesh as NonNullable<typeof solid.mesh>;
			let six = 0;
			for (let i = 0; i < t.length; i += 3) {
				const [a, b, c] = [t[i], t[i + 1], t[i + 2]].map((v) => (v as number) * 3) as [number, number, number];
				const at = (k: number, d: number): number => p[k + d] as number;
				six +=
					at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) -
					at(a, 1) * (at(b, 0) * at(c, 2) - at(b, 2) * at(c, 0)) +
					at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0));
			}
			expect(Math.abs(six / 6 / solid.geometry.volume - 1)).toBeLessThan(0.01);
			expect(solid.mesh?.lines.length).toBeGreaterThan(0);
		}
	});

	it("agrees with another build of a kernel on the number and names of solids", async () => {
		// it ships no types
		const name = "occt-import-js";
		const { default: init } = (await import(name)) as unknown as {
			default: () => Promise<{ ReadStepFile(b: Uint8Array, o: null): { success: boolean; meshes: { name: string }[] } }>;
		};
		const other = (await init()).ReadStepFile(fixture("mount.step"), null);
		expect(other.success).toBe(true);
		expect((await bodies(fixture("mount.step"))).map((b) => b.name)).toEqual(other.meshes.map((m) => m.name));
	});
});

describe("the worker", () => {
	it("cancelled while it starts, or while it reads for somebody else, answers at once", async () => {
		const fresh = createKernel({ workerUrl: new URL("packages/kernel/dist/worker.js", root) });
		const soon = async (before: () => void): Promise<unknown> => {
			const controller = new AbortController();
			const reading = fresh.read({ bytes: fixture("mount.step"), mesh: true, signal: controller.signal });
			before();
			await new Promise((r) => setTimeout(r, 20));
			controller.abort();
			const answer = await Promise.race([reading, new Promise((r) => setTimeout(() => r("late"), 900))]);
			return answer;
		};
		const cancelled = { ok: false, issues: [{ code: "cancelled" }] };
		expect(await soon(() => undefined)).toEqual(cancelled);
		const other = fresh.read({ bytes: fixture("mount.step"), mesh: true });
		expect(await soon(() => undefined)).toEqual(cancelled);
		expect((await other).ok).toBe(true);
		await fresh.close();
	});

	it("frees what it makes: thirty files take no more memory than five", async () => {
		const memory = async (): Promise<number> => {
			globalThis.gc?.();
			await new Promise((r) => setTimeout(r, 50));
			return process.memoryUsage().rss;
		};
		const fresh = createKernel({ workerUrl: new URL("packages/kernel/dist/worker.js", root) });
		const read = async (times: number): Promise<void> => {
			for (let i = 0; i < times; i++) await fresh.read({ bytes: fixture("mount.step"), mesh: true });
		};
		await read(5);
		const after5 = await memory();
		await read(25);
		const after30 = await memory();
		await fresh.close();
		// the whole process, with its own garbage not yet collected; without freeing it was a tenth and more
		expect(after30 / after5).toBeLessThan(1.1);
	});

	it("reports progress, and a cancelled reading ends without an answer of its own", async () => {
		const seen: number[] = [];
		const read = await kernel.read({ bytes: fixture("nested.step"), mesh: false, onProgress: (done) => seen.push(done) });
		expect([read.ok, seen]).toEqual([true, [0, 1, 2, 3, 4, 5]]);
		const controller = new AbortController();
		const cancelled = kernel.read({
			bytes: fixture("mount.step"),
			mesh: true,
			signal: controller.signal,
			onProgress: () => controller.abort(),
		});
		expect(await cancelled).toEqual({ ok: false, issues: [{ code: "cancelled" }] });
		expect((await kernel.read({ bytes: fixture("nested.step"), mesh: false })).ok).toBe(true);
	});
});
