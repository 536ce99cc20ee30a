import { isFamily, property } from "../property";
import type { Check } from "./checks";
import { explainingSlip } from "./slips";
import type { Material, NumberValue } from "./types";
import { firstValue, quantityOf, workingValue } from "./value";

/** Two properties of which the first cannot be above the second. */
type Order = {
	readonly below: string;
	readonly above: string;
	readonly code: string;
	readonly title: string;
	readonly detail: string;
	/** Definitions of the lower one for which the order only usually holds. */
	readonly loose?: readonly string[];
};

const MIXED = "{0} against {1}. The two may be interchanged, or one has another unit.";
const ORDERS: readonly Order[] = [
	{
		below: "yield_strength",
		above: "tensile_strength",
		code: "yield-above-tensile",
		title: "Yield lies above tensile strength",
		detail: MIXED,
		loose: ["ReH"],
	},
	{
		below: "fatigue_limit",
		above: "tensile_strength",
		code: "fatigue-above-tensile",
		title: "Fatigue limit lies above tensile strength",
		detail: MIXED,
	},
	{
		below: "proof_load_stress",
		above: "tensile_strength",
		code: "proof-above-tensile",
		title: "Proof load stress lies above tensile strength",
		detail: MIXED,
	},
	{
		below: "uniform_elongation",
		above: "elongation",
		code: "uniform-above-total",
		title: "Uniform elongation lies above total elongation",
		detail: MIXED,
	},
	{
		below: "solidus_temperature",
		above: "liquidus_temperature",
		code: "solidus-above-liquidus",
		title: "Solidus lies above liquidus",
		detail: MIXED,
	},
	{
		below: "service_temperature_min",
		above: "service_temperature_max",
		code: "service-reversed",
		title: "Lowest service temperature lies above the highest",
		detail: MIXED,
	},
	{
		below: "coercivity_b",
		above: "coercivity_j",
		code: "coercivity-reversed",
		title: "H_cB lies above H_cJ",
		detail: "{0} against {1}; the polarisation outlasts the flux density. The two may be interchanged.",
	},
];

/** Values that stand in the wrong order; two minima (or two maxima) are compared by their given ends. */
export function orderChecks(material: Material): Check[] {
	return ORDERS.flatMap((order): Check[] => {
		const [below, above] = [firstValue(material, order.below), firstValue(material, order.above)];
		if (below === null || above === null || (below.condition ?? "") !== (above.condition ?? "")) return [];
		const ends = compared(below, above);
		if (ends === null || ends[0] <= ends[1]) return [];
		const certain = below.low !== null && above.high !== null && below.low > above.high;
		const loose = below.qualifier !== undefined && order.loose?.includes(below.qualifier) === true;
		const slip = explainedBy(below, above, ends) ?? explainedBy(above, below, [ends[1], ends[0]]);
		return [
			{
				code: order.code,
				severity: certain && !loose ? "wrong" : "doubtful",
				title: order.title,
				detail: slip === null ? order.detail : `${order.detail} Perhaps ${slip.said} were mixed up.`,
				figures: [
					{ si: ends[0], property: order.below },
					{ si: ends[1], property: order.above },
				],
				values: [below.id, above.id],
				...(slip === null ? {} : { slip }),
			},
		];
	});
}

/** The end of each that counts: the least of the lower against the most of the upper, or the given ends of two limits. */
function compared(below: NumberValue, above: NumberValue): readonly [number, number] | null {
	if (below.low !== null && above.high !== null) return [below.low, above.high];
	if (below.low !== null && above.low !== null && above.high === null) return [below.low, above.low];
	if (below.high !== null && above.high !== null && below.low === null) return [below.high, above.high];
	return null;
}

/** Would a slip of units bring one value near the other, on the right side of it? */
function explainedBy(odd: NumberValue, other: NumberValue, [x, y]: readonly [number, number]) {
	const spec = property(odd.property);
	if (spec.absoluteTemperature === true || y <= 0) return null;
	const isLower = x > y;
	const band = isLower ? { low: y / 4, high: y, source: "" } : { low: y, high: y * 4, source: "" };
	const slip = explainingSlip(spec, { typed: odd, si: x }, band);
	return slip === null || other.id === odd.id ? null : { ratio: slip.ratio, said: slip.said };
}

/** Where each hardness scale is defined. ISO 6506-1, 6508-1, 868 and 48-2 as general knowledge: engineering judgement. */
const SCALES: Readonly<Record<string, readonly [number, number]>> = {
	HRC: [20, 70],
	HRB: [10, 100],
	HRA: [20, 95],
	HBW: [3, 650],
	"Shore A": [5, 100],
	"Shore D": [5, 100],
	IRHD: [5, 100],
};

export function scaleChecks(material: Material): Check[] {
	return Object.values(material.values).flatMap((value): Check[] => {
		if (value.property !== "hardness" || (value.kind !== undefined && value.kind !== "readings")) return [];
		const { unit } = quantityOf(value);
		const scale = Object.hasOwn(SCALES, unit) ? SCALES[unit] : undefined;
		const [low, high] = [value.low ?? value.high, value.high ?? value.low];
		if (scale === undefined || low === null || high === null || (low >= scale[0] && high <= scale[1])) return [];
		return [
			{
				code: "outside-scale",
				severity: "doubtful",
				title: `${unit} does not reach so far`,
				detail: `The scale is used from ${scale[0]} to ${scale[1]}; the number may belong to another scale.`,
				figures: [],
				values: [value.id],
			},
		];
	});
}

/** 0 °C in K: numbers typed in K below it are often degrees Celsius. */
const ZERO_CELSIUS = 273.15;
const WARM: readonly string[] = [
	"melting_temperature",
	"solidus_temperature",
	"liquidus_temperature",
	"heat_deflection",
	"service_temperature_max",
	"glass_transition",
];

export function kelvinChecks(material: Material): Check[] {
	return WARM.flatMap((id): Check[] => {
		const value = firstValue(material, id);
		if (value === null || value.kind === "readings" || quantityOf(value).unit !== "K") return [];
		const working = workingValue(value) ?? value.low ?? value.high;
		const cold = id === "glass_transition" && (material.family === null || isFamily(material.family, "elastomer"));
		if (working === null || working >= ZERO_CELSIUS || cold) return [];
		return [
			{
				code: "celsius-as-kelvin",
				severity: "doubtful",
				title: `${property(id).name} lies below 0 °C`,
				detail: "{0} was typed in K. Perhaps the number is in °C.",
				figures: [{ si: working, property: id }],
				values: [value.id],
			},
		];
	});
}
