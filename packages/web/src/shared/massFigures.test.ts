import type { PartView, ProjectView } from "@alvek/contract";
import { describe, expect, it } from "vitest";
import {
	assembliesWith,
	columnDecimals,
	massColumnText,
	massPair,
	massText,
	massWith,
	rangeOf,
	signedMass,
	totalOf,
} from "./massFigures";

const density = (working: number) => ({ working, low: working, high: working });
const part = (id: string, quantity: number, rho: number | null): PartView =>
	({
		id,
		quantity,
		volume_m3: 1e-3,
		assignment: rho === null ? null : { density: density(rho) },
		mass_kg: rho === null ? null : { mass: rho * 1e-3, low: rho * 1e-3, high: rho * 1e-3 },
	}) as unknown as PartView;

describe("masses of a selection", () => {
	it("count every piece; one part without a mass leaves the whole without", () => {
		expect(massWith([part("a", 2, 2700), part("b", 1, 1000)])).toBeCloseTo(6.4, 12);
		expect(massWith([part("a", 2, 2700), part("b", 1, null)])).toBeNull();
		expect(massWith([part("a", 2, null)], density(8000))).toBeCloseTo(16, 12);
		expect(massWith([part("a", 2, 2700)], null)).toBeNull();
	});

	it("add up where the pieces stand, as the server does", () => {
		const unit = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
		const project = {
			parts: [part("a", 2, 1000)],
			solids: [
				{
					partId: "a",
					n: 0,
					name: "",
					volume_m3: 1e-3,
					area_m2: 0.06,
					centroid_m: [0, 0, 0],
					inertia_m5: [
						[0, 0, 0],
						[0, 0, 0],
						[0, 0, 0],
					],
				},
			],
			occurrences: [
				{ id: "1", partId: "a", matrix: unit },
				{ id: "2", partId: "a", matrix: [1, 0, 0, 2, 0, 1, 0, 0, 0, 0, 1, 0] },
			],
		} as unknown as ProjectView;
		const total = totalOf(project, project.parts);
		expect([total.mass?.mass, total.centreOfGravity]).toEqual([2, [1, 0, 0]]);
		// two masses of 1 kg, one metre from the middle: 2 kg m2 about y and z
		expect([total.inertia?.[0][0], total.inertia?.[1][1], total.inertia?.[2][2]]).toEqual([0, 2, 2]);
	});
});

describe("how masses are written", () => {
	it("with a range only where there is one, and enough digits to tell its ends apart", () => {
		expect(rangeOf({ mass: 5, low: 5, high: 5 }, "engineering")).toBeNull();
		expect(rangeOf({ mass: 13.225, low: 13.219, high: 13.232 }, "engineering")).toBe("13.219 to 13.232");
		expect(rangeOf({ mass: 5, low: 5, high: null }, "engineering")).toContain("only one end");
	});

	it("in a column to the gram, further where a part would show no two digits", () => {
		expect(columnDecimals([part("a", 1, 2700)], "engineering")).toBe(3);
		expect(columnDecimals([part("a", 1, 2)], "engineering")).toBe(4);
		expect(columnDecimals([], "engineering")).toBe(3);
		expect(massColumnText(1.44774, "engineering", 4)).toBe("1.4477");
		expect(massText(0.45359237, "us")).toBe("1.000");
	});
});

describe("two masses beside each other", () => {
	it("have as many digits as it takes to tell them apart, and no more than seven", () => {
		expect(massPair(1.2341, 1.2343, "engineering")).toEqual(["1.2341", "1.2343"]);
		expect(massPair(1, 2, "engineering")).toEqual(["1.000", "2.000"]);
		expect(massPair(null, 2, "engineering")).toEqual(["no mass", "2.000"]);
		expect(massPair(2, 2, "engineering")).toEqual(["2.000", "2.000"]);
		expect(massPair(1, 1 + 1e-12, "engineering")).toEqual(["1.000000", "1.000000"]);
	});

	it("differ by a signed mass, or not at all", () => {
		expect([signedMass(0, "engineering"), signedMass(0.25, "engineering")]).toEqual(["mass stays", "+0.250 kg"]);
		expect(signedMass(-0.25, "engineering")).toMatch(/^[−-]0\.250 kg$/);
	});
});

describe("assemblies above parts that are brought forward", () => {
	/** The whole holds two assemblies: one with part a twice, one with b; `then` is the density that a part would go to. */
	const made = (a: number | null, b: number | null) => {
		const forward = (p: PartView, then: number | null): PartView =>
			({
				...p,
				assignment: { ...p.assignment, behind: then === null ? null : { density: density(then) } },
			}) as unknown as PartView;
		const parts = [forward(part("a", 2, 1000), a), forward(part("b", 1, 2000), b)];
		const at = (id: string, parentId: string | null, partId: string | null = null) => ({
			id,
			name: `Assembly ${id}`,
			parentId,
			partId,
		});
		const occurrences = [
			at("top", null),
			at("A", "top"),
			at("B", "top"),
			at("1", "A", "a"),
			at("2", "A", "a"),
			at("3", "B", "b"),
		];
		return { parts, project: { parts, occurrences } as unknown as ProjectView };
	};

	it("are those that hold one of them, below the whole, each with every piece before and after", () => {
		const { project, parts } = made(1500, null);
		expect(assembliesWith(project, [parts[0] as PartView])).toEqual([{ id: "A", name: "Assembly A", before: 2, after: 3 }]);
		const both = made(1500, 1000);
		expect(assembliesWith(both.project, both.parts).map((x) => [x.id, x.before, x.after])).toEqual([
			["A", 2, 3],
			["B", 2, 1],
		]);
	});

	it("what has nothing to go to, and what is not chosen, keeps its mass", () => {
		const { project, parts } = made(null, 1000);
		expect(assembliesWith(project, [parts[0] as PartView])).toMatchObject([{ id: "A", before: 2, after: 2 }]);
		expect(assembliesWith(project, [])).toEqual([]);
	});
});
