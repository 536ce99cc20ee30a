import { firstFall, increasing, type Points, proofStress, steepest } from "../curve";
import { type Axis, axisById } from "../property";
import { significant } from "../quantity";
import type { Check } from "./checks";
import { flowMembers, isWarm, memberTemperature, modulusAt } from "./flow";
import { MU0 } from "./reading";
import { memberPoints, members, roundingOf } from "./series";
import type { Material, SeriesValue } from "./types";
import { firstValue, isSeries } from "./value";

/** Checks of tables and curves. */
export function curveChecks(material: Material): Check[] {
	return Object.values(material.values)
		.filter(isSeries)
		.flatMap((value) => [
			...repeatChecks(value),
			...(value.property === "stress_strain" ? flowChecks(material, value) : []),
			...(value.property === "bh_curve" ? bhChecks(value) : []),
		]);
}

function check(
	value: SeriesValue,
	found: Pick<Check, "severity" | "code" | "title" | "detail"> & Partial<Pick<Check, "figures">>,
): Check {
	return { figures: [], ...found, values: [value.id] };
}

/** Repeated or unsorted conditions of a table. A measured curve may wander, so only tables are looked at. */
function repeatChecks(value: SeriesValue): Check[] {
	if (value.kind !== "table") return [];
	const keys = (value.columns[0]?.si ?? []).map((_, row) =>
		value.columns
			.slice(0, -1)
			.map((c) => c.si[row])
			.join(" "),
	);
	const checks: Check[] = [];
	const repeated = keys.findIndex((key, i) => keys.indexOf(key) !== i);
	if (repeated >= 0)
		checks.push(
			check(value, {
				severity: "doubtful",
				code: "table-repeats",
				title: "A condition stands twice in the table",
				detail: `Row ${repeated + 1} repeats the conditions of row ${keys.indexOf(keys[repeated] as string) + 1}; their numbers are averaged.`,
			}),
		);
	const x = value.columns[0]?.si ?? [];
	if (value.columns.length === 2 && x.some((t, i) => i > 0 && t < (x[i - 1] as number)))
		checks.push(
			check(value, {
				severity: "note",
				code: "table-unsorted",
				title: "The table is not sorted",
				detail: "It is read as if it were. Sort it in the curve editor.",
			}),
		);
	return checks;
}

function flowChecks(material: Material, value: SeriesValue): Check[] {
	const checks: Check[] = [];
	const { stress, strain } = value.header;
	if ((stress === "true") !== (strain ?? "").endsWith("true") && stress !== undefined && strain !== undefined) {
		checks.push(
			check(value, {
				severity: "doubtful",
				code: "forms-mixed",
				title: "True and engineering are mixed",
				detail: "Stress and strain of one curve are nearly always of the same form. Check both lines of the header.",
			}),
		);
	}
	const uniform = firstValue(material, "uniform_elongation");
	for (const member of members(value)) {
		const raw = memberPoints(value, member);
		// ln(1 + Agt) is where the bar necks; true forms hold up to there
		const neck = uniform?.high == null ? null : Math.log1p(uniform.high);
		const reach = Math.max(...raw.x);
		if (stress === "true" && neck !== null && reach > 1.02 * neck) {
			checks.push(
				check(value, {
					severity: "doubtful",
					code: "beyond-uniform",
					title: "True stress beyond uniform strain",
					detail: "The curve goes to {0}, the bar necks at {1}. Beyond, the true forms need a measured cross section.",
					figures: [
						{ si: reach, property: "strain" },
						{ si: neck, property: "strain" },
					],
				}),
			);
		}
		const total = strain?.startsWith("total") ?? false;
		const E = modulusAt(material, value, member);
		const steep = steepest(increasing(raw.x, raw.y));
		// a chord between rounded points can look steeper than the material is
		const [xr, yr] = [value.columns.at(-2), value.columns.at(-1)].map((c) =>
			c === undefined ? 0 : roundingOf(c, axisById(c.of) as Axis),
		);
		if (total && E !== null && steep !== null) {
			const points = increasing(raw.x, raw.y);
			const dx = (points.x[steep.at + 1] as number) - (points.x[steep.at] as number);
			const dy = (points.y[steep.at + 1] as number) - (points.y[steep.at] as number);
			const least = Math.max(0, dy - 2 * (yr ?? 0)) / (dx + 2 * (xr ?? 0));
			if (least > 1.02 * E) {
				checks.push(
					check(value, {
						severity: "doubtful",
						code: "steeper-than-e",
						title: "The curve is steeper than E",
						detail: "Its steepest piece is {0}, E is {1}. The strain may lack its elastic part, or its unit is off.",
						figures: [
							{ si: steep.slope, property: "youngs_modulus" },
							{ si: E, property: "youngs_modulus" },
						],
					}),
				);
			}
		}
	}
	for (const { member, points } of flowMembers(material, value)) {
		// the sheet's yield stress is that of room temperature unless it says otherwise
		const temperature = memberTemperature(value, member);
		checks.push(...flowAgainstSheet(material, value, points, temperature !== null && isWarm(temperature)));
	}
	return checks;
}

function flowAgainstSheet(material: Material, value: SeriesValue, flow: Points, warm: boolean): Check[] {
	const checks: Check[] = [];
	const fall = firstFall(flow.y);
	if (fall !== null)
		checks.push(
			check(value, {
				severity: "doubtful",
				code: "flow-falls",
				title: "The flow curve falls",
				detail: "At a plastic strain of {0} it drops to {1}. A flow curve of a solver has to rise.",
				figures: [
					{ si: flow.x[fall] as number, property: "strain" },
					{ si: flow.y[fall] as number, property: "stress" },
				],
			}),
		);
	const yieldStress = firstValue(material, "yield_strength");
	if (warm || yieldStress === null || yieldStress.qualifier === "ReH") return checks;
	const lower = yieldStress.qualifier === "ReL";
	const read = lower ? (flow.y[0] ?? null) : proofStress(flow, yieldStress.qualifier === "Rp1.0" ? 0.01 : 0.002);
	const [low, high] = [yieldStress.low ?? 0, yieldStress.high ?? Number.POSITIVE_INFINITY];
	if (read === null || (read >= 0.95 * low && read <= 1.05 * high)) return checks;
	checks.push(
		check(value, {
			severity: "doubtful",
			code: "flow-against-yield",
			title: "The curve and the yield stress disagree",
			detail: `The curve gives {0} at ${lower ? "the start of flow" : yieldStress.qualifier === "Rp1.0" ? "1 % plastic strain" : "0.2 % plastic strain"}, the sheet says {1}.`,
			figures: [
				{ si: read, property: "yield_strength" },
				{ si: read < low ? low : high, property: "yield_strength" },
			],
		}),
	);
	return checks;
}

/** B rises at least by mu0 H: a chord below that by more than the last printed digit explains is impossible. */
function bhChecks(value: SeriesValue): Check[] {
	if (value.header.quantity === "J") return [];
	const H = value.columns.at(-2);
	const B = value.columns.at(-1);
	if (H === undefined || B === undefined) return [];
	const slack = roundingOf(B, axisById(B.of) as Axis) * 2 + MU0 * roundingOf(H, axisById(H.of) as Axis) * 2;
	for (const member of members(value)) {
		const { x, y } = memberPoints(value, member);
		const points = increasing(x, y);
		for (let i = 1; i < points.x.length; i++) {
			const dH = (points.x[i] as number) - (points.x[i - 1] as number);
			const dB = (points.y[i] as number) - (points.y[i - 1] as number);
			if (dB >= MU0 * dH - slack) continue;
			return [
				check(value, {
					severity: "wrong",
					code: "below-vacuum",
					title: "B rises slower than in vacuum",
					detail: `Between {0} and {1} the slope is ${significant(dB / dH / MU0, 3)} µ₀; it cannot be below 1. If the curve is a polarisation J, say so in its header.`,
					figures: [
						{ si: points.x[i - 1] as number, property: "field" },
						{ si: points.x[i] as number, property: "field" },
					],
				}),
			];
		}
	}
	return [];
}
