import {
	BLANK,
	type Check,
	checkMaterial,
	type Material,
	type MaterialValue,
	makeSeries,
	makeValue,
	type Readiness,
	readiness,
	type SeriesValue,
} from "./index";

/** Makers that tests share; nothing else imports this. */
export function must<T>(result: { ok: true; value: T } | { ok: false; issues: readonly unknown[] }): T {
	if (!result.ok) throw new Error(JSON.stringify(result.issues));
	return result.value;
}

export const number = (id: string, text: string, details: object = {}): MaterialValue =>
	must(makeValue(id, text, {}, { evidence: "measured", ...details }));

export const material = (...values: MaterialValue[]): Material => ({
	...BLANK,
	values: Object.fromEntries(values.map((v) => [v.id, v])),
});

export const series = (
	id: string,
	kind: "table" | "curve",
	columns: readonly [string, string, string][],
	header = {},
): SeriesValue =>
	must(
		makeSeries(
			{ id, property: id, evidence: "measured" },
			{
				kind,
				columns: columns.map(([of, unit, cells]) => ({ of, unit, cells: cells.split(" ") })),
				interpolation: "pchip",
				header,
			},
		),
	);

/** Checks and readiness of a material by itself: no library, no base. */
export function checksOf(m: Material): readonly Check[] {
	return checkMaterial(m, { own: [], base: null });
}
export function readinessOf(m: Material): readonly Readiness[] {
	return readiness(m, checksOf(m), []);
}
