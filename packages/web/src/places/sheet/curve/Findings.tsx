import { increasing, proofStress, steepest } from "@alvek/core/curve";
import { judge } from "@alvek/core/judge";
import { checkText, derivedForms, figureUnits, type Material, memberPoints, type SeriesValue } from "@alvek/core/material";
import type { UnitSetId } from "@alvek/core/property";
import { columnInfo } from "../../../shared/chart/columns";
import { useUnitSet } from "../../../stores/preferences";
import { inUnit, plainUnit } from "../../../ui/Quantity";
import { useSheet } from "../context";

/** Units of a modulus, for what is said about curves. */
export const MODULUS = { engineering: "GPa", base: "Pa", us: "Msi" } as const;

/** Checks about this curve; and what holds, said with its figures. */
export function Findings({ material, stored }: { material: Material; stored: SeriesValue | null }) {
	const unitSet = useUnitSet();
	const { beside } = useSheet();
	if (stored === null) return null;
	const checks = judge(material, beside).checks.filter((c) => c.values.includes(stored.id) && c.code !== "carried-over");
	const good = checks.some((c) => c.code.startsWith("flow")) ? [] : agreements(material, stored, unitSet);
	if (checks.length === 0 && good.length === 0) return null;
	return (
		<>
			<h2 className="font-bold mt-4 mb-1.5">Checks</h2>
			{checks.map((c) => (
				<div
					key={c.code}
					className={`border-l-3 px-2.5 py-1.5 mb-1.5 ${c.severity === "wrong" ? "border-wrong bg-wrong-soft" : "border-doubt bg-doubt-soft"}`}
				>
					<b className="block">{c.title}</b>
					<span className="text-sm leading-4 text-ink2">
						{checkText(c, (f) => `${inUnit(f.si, { units: figureUnits(f) }, unitSet)} ${plainUnit(figureUnits(f)[unitSet])}`)}
					</span>
				</div>
			))}
			{good.map(([title, detail]) => (
				<div key={title} className="border-l-3 border-primary bg-accent-soft px-2.5 py-1.5 mb-1.5">
					<b className="block">{title}</b>
					<span className="text-sm leading-4 text-ink2">{detail}</span>
				</div>
			))}
		</>
	);
}

function agreements(material: Material, value: SeriesValue, unitSet: UnitSetId): readonly (readonly [string, string])[] {
	if (value.property !== "stress_strain") return [];
	const stress = (si: number): string =>
		`${inUnit(si, columnInfo(value.property, "stress"), unitSet)} ${plainUnit(columnInfo(value.property, "stress").units[unitSet])}`;
	const out: (readonly [string, string])[] = [];
	const [derived] = derivedForms(material, value);
	if (derived?.flow == null) return out;
	const proof = proofStress(derived.flow);
	const held = Object.values(material.values).find((v) => v.property === "yield_strength" && v.kind === undefined);
	if (proof !== null && held !== undefined)
		out.push(["Agrees with the yield stress", `${stress(proof)} at 0.2 % plastic strain.`]);
	const raw = memberPoints(value, derived.member);
	const steep = steepest(increasing(raw.x, raw.y));
	if (steep !== null && value.header.strain?.startsWith("total"))
		out.push([
			"Nowhere steeper than E",
			`Its steepest piece is ${inUnit(steep.slope, { units: MODULUS }, unitSet)} ${plainUnit(MODULUS[unitSet])}${
				steep.slope > (derived.youngsModulus ?? 0) ? "; the last digits of its points explain the rest" : ""
			}.`,
		]);
	return out;
}
