import { describe, expect, it } from "vitest";
import { BLANK, decodeMaterial, type Material, type MaterialValue, makeValue, PLAIN_LOOK } from "./index";
import { must, number, series } from "./testing";

/** A document in which everything is filled in, so that every field can be broken by itself. */
const HASH = "a".repeat(64);
const CARRIED = { name: "Base 7", uid: "U-7", revision: 3 };
const OWN = {
	uid: "u-abrasion",
	name: "Abrasion index",
	symbol: "I_a",
	siUnit: "m^2",
	unit: "mm^2",
	low: 0,
	high: 1,
	likelyLow: 1e-9,
	likelyHigh: 1e-8,
	neededFor: ["strength"],
	explanation: "by drum",
};

const readings = must(makeValue("tensile_strength", "624; 631; 618 MPa", {}, { evidence: "measured" })) as MaterialValue & {
	readings: readonly number[];
};
const FULL: Material = {
	...BLANK,
	family: "metal.steel",
	condition: "annealed",
	description: "for shafts",
	notes: "seen",
	designations: [{ system: "EN", text: "Q 21" }],
	supplier: "Orsa",
	price: { amount: "4.20", currency: "EUR", date: "2026-11-25" },
	links: ["https://example.org/q21"],
	composition: [
		{ name: "C", min: "0.17", max: "0.24", balance: false },
		{ name: "Fe", min: "", max: "", balance: true },
	] as never,
	elasticity: "isotropic",
	look: {
		...PLAIN_LOOK,
		surface: "ground",
		texture: { kind: "picture", hash: HASH, name: "grain.png", size_mm: [10, 20], offset_mm: [0, 0] },
		hatch: { pattern: "lines", angle_deg: 45, spacing_mm: 3 },
	},
	values: {
		density: number("density", ">= 7.8 g/cm3", {
			condition: "at 20 °C",
			basis: "typical",
			source: "sheet",
			sourceId: "s1",
			working: { any: "middle" },
			bases: { low: "guaranteed-minimum", working: "typical" },
			factor: { by: "0.9", reason: "castings" },
			carried: CARRIED,
			spread: "tolerance",
		}),
		tensile_strength: { ...readings, labels: ["a", "b", "c"], follows: CARRIED } as MaterialValue,
		own: must(makeValue({ id: "own", property: `own:${OWN.uid}` }, "5 mm^2", {}, { own: OWN })),
		youngs_modulus: series("youngs_modulus", "table", [
			["temperature", "°C", "20 100"],
			["value", "GPa", "210 200-205"],
		]),
		yield_strength: number("yield_strength", "355 MPa", { qualifier: "Rp0.2" }),
		specific_heat: { id: "specific_heat", property: "specific_heat", kind: "not-applicable" } as MaterialValue,
		stress_strain: series("stress_strain", "curve", [
			["strain", "%", "0.2 1"],
			["stress", "MPa", "300 350"],
		]),
	},
	carriedFields: { price: CARRIED } as never,
	sources: {
		s1: {
			kind: "document",
			title: "Sheet Q",
			edition: "2",
			address: "https://example.org",
			date: "2026-11",
			conditions: "dry",
			text: "p. 3",
		} as never,
	},
	attachments: {
		a1: {
			name: "sheet.pdf",
			purpose: "other",
			note: "all",
			format: "PDF",
			hash: HASH,
			bytes: 3,
			version: 1,
			date: "2026-11-25",
		} as never,
	},
	acknowledged: { "density-low": { reason: "it is so", seen: "7800" } },
};

type Path = readonly (string | number)[];
/** Every place in a document, leaves and what holds them. */
function places(x: unknown, path: Path = []): readonly Path[] {
	const inside =
		typeof x !== "object" || x === null
			? []
			: Object.keys(x).flatMap((k) => places((x as Record<string, unknown>)[k], [...path, k]));
	return path.length === 0 ? inside : [path, ...inside];
}
function withAt(path: Path, to: unknown): unknown {
	const copy = structuredClone(FULL) as unknown as Record<string, unknown>;
	const holder = path.slice(0, -1).reduce((o, k) => o[k] as Record<string, unknown>, copy);
	const key = path.at(-1) as string;
	if (to === undefined) delete holder[key];
	else holder[key] = to;
	return copy;
}

describe("a document from outside", () => {
	it("is taken whole as it is", () => {
		expect(must(decodeMaterial(structuredClone(FULL)))).toEqual(FULL);
	});

	it("is refused with anything in it of another type", () => {
		const taken: string[] = [];
		for (const path of places(FULL)) {
			const now = path.reduce<unknown>((o, k) => (o as Record<string, unknown>)[k], FULL);
			const kind = (x: unknown): string => (x === null ? "null" : Array.isArray(x) ? "list" : typeof x);
			for (const probe of [null, true, 7.5, "words", {}, []])
				if (kind(probe) !== kind(now) && decodeMaterial(withAt(path, probe)).ok)
					taken.push(`${path.join(".")} ${JSON.stringify(probe)}`);
		}
		// what may be left open
		expect(taken).toEqual(
			[
				"family",
				"price",
				"look.texture",
				"look.hatch",
				...["low", "high", "likelyLow", "likelyHigh"].map((b) => `values.own.own.${b}`),
			].map((place) => `${place} null`),
		);
	});

	it("is refused with a key that nobody knows, anywhere", () => {
		for (const path of places(FULL)) {
			const holder = path.reduce<unknown>((o, k) => (o as Record<string, unknown>)[k], FULL);
			if (typeof holder !== "object" || holder === null || Array.isArray(holder)) continue;
			for (const key of ["unheard", "__proto__x", "constructor"])
				expect([path.join("."), key, decodeMaterial(withAt([...path, key], 1)).ok]).toEqual([path.join("."), key, false]);
		}
	});
});
