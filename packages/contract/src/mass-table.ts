import { costedPart, costOf } from "@alvek/core/cost";
import { MASS_UNITS, type MassTotal, type SolidGeometry, showComputed, totalMass } from "@alvek/core/mass";
import type { UnitSetId } from "@alvek/core/property";
import { csvText } from "./csv";
import type { ProjectView } from "./wire";

/**
 * The mass table of a project: one row a part, one for the total; units in the header, the revision in the row.
 * @param separator `,` for a file (cells quoted where needed), a tab for the clipboard
 */
export function massTable(project: ProjectView, unitSet: UnitSetId, separator: "," | "\t"): string {
	const unit = MASS_UNITS[unitSet];
	const head = [
		"Part",
		"Quantity",
		"Material",
		"Revision",
		`Volume each [${unit.volume}]`,
		`Mass each [${unit.mass}]`,
		`Mass [${unit.mass}]`,
		`Mass low [${unit.mass}]`,
		`Mass high [${unit.mass}]`,
		`Material cost [${project.money.currency}]`,
		`Carbon [${unit.mass} CO2e]`,
		...AXES.map((axis) => `Centre ${axis} [${unit.length}]`),
		...MOMENTS.map((axes) => `I${axes} [${unit.inertia}]`),
		"State",
	];
	const solids = new Map<string, SolidGeometry[]>();
	for (const { partId, volume_m3, area_m2, centroid_m, inertia_m5 } of project.solids)
		solids.set(partId, [
			...(solids.get(partId) ?? []),
			{ volume: volume_m3, area: area_m2, centroid: centroid_m, inertia: inertia_m5 as SolidGeometry["inertia"] },
		]);
	const mass = (kg: number | null | undefined): string => (kg == null ? "" : showComputed(kg, "mass", unitSet, 9));
	const money = (amount: number | null): string => (amount === null ? "" : String(Number(amount.toPrecision(9))));
	const rows = project.parts.map((p) => {
		const a = p.assignment;
		const cost = costOf(costedPart(p), project.money);
		const states = [
			a === null ? "no material, no mass" : p.mass_kg === null ? "no density, no mass" : "",
			a?.draft ? "draft" : "",
			a?.behind ? `behind revision ${a.behind.revision}` : "",
			a?.densityCarried ? "density carried over" : "",
			cost.costGap === "no-rate" ? `price in ${a?.price?.currency} without a rate, no cost` : "",
			a?.densityRule ? `weighs with ${a.densityRule} of its density, chosen` : "",
		];
		const times = (kg: number | null | undefined): number | null => (kg == null ? null : kg * p.quantity);
		return [
			p.name,
			String(p.quantity),
			a?.material ?? "",
			a === null ? "" : a.draft ? "draft" : String(a.revision),
			showComputed(p.volume_m3, "volume", unitSet, 9),
			mass(p.mass_kg?.mass),
			mass(times(p.mass_kg?.mass)),
			mass(times(p.mass_kg?.low)),
			mass(times(p.mass_kg?.high)),
			money(times(cost.cost)),
			mass(times(cost.carbon_kg)),
			...momentCells(totalMass(solids.get(p.id)?.map((solid) => ({ solid, density: a?.density ?? null })) ?? []), unitSet),
			states.filter((s) => s !== "").join("; "),
		];
	});
	const { totals } = project;
	const total = [
		"Total",
		String(totals.parts),
		"",
		"",
		showComputed(totals.volume_m3, "volume", unitSet, 9),
		"",
		mass(totals.mass_kg?.mass),
		mass(totals.mass_kg?.low),
		mass(totals.mass_kg?.high),
		money(totals.costs.cost),
		mass(totals.costs.carbon_kg),
		...momentCells({ centreOfGravity: totals.centreOfGravity_m, inertia: totals.inertia_kg_m2 as MassTotal["inertia"] }, unitSet),
		`${totals.partsWithMass} of ${totals.parts} parts`,
	];
	return csvText([head, ...rows, total, [CONVENTION]], separator);
}

const AXES = ["x", "y", "z"] as const;
const MOMENTS = ["xx", "yy", "zz", "xy", "xz", "yz"] as const;

/** How the moments of the table are meant; it stands below them. */
const CONVENTION =
	"Centres are from the origin of the part (total: of the assembly), moments are those of one piece about its own centre of gravity (total: of everything), along the axes of the part (total: of the assembly). Off-diagonals are the negative products: Ixy = -integral of x y dm.";

/** Centre and moments as cells; blank where nothing has a mass. */
function momentCells(of: Pick<MassTotal, "centreOfGravity" | "inertia">, unitSet: UnitSetId): readonly string[] {
	const at = (axis: string | undefined): 0 | 1 | 2 => (axis === "x" ? 0 : axis === "y" ? 1 : 2);
	const { centreOfGravity: centre, inertia } = of;
	return [
		...AXES.map((axis) => (centre === null ? "" : showComputed(centre[at(axis)], "length", unitSet, 9))),
		...MOMENTS.map(([a, b]) => (inertia === null ? "" : showComputed(inertia[at(a)][at(b)], "inertia", unitSet, 9))),
	];
}
