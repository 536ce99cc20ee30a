import { dimension } from "./dimension";
import { significant } from "./format";
import { normaliseText } from "./normalise";
import { parseQuantity } from "./parse";
import type { QuantitySpec } from "./types";
import { fromSi, readUnit } from "./unit";

/** A quantity as it was asked for and in the other unit: `35 ksi`, `241.32 MPa`. */
export type Converted = { readonly from: string; readonly to: string; readonly unit: string };

const ASKED = /^(.*\S)\s+(?:in|to|as|into)\s+(\S.*)$/i;
const TEMPERATURE = dimension(0, 0, 0, 1);
/** Digits of a converted number, at least: a pocket calculator's, not those of the typed number alone. */
const DIGITS = 6;

/**
 * Answers `35 ksi in MPa`, `20-25 °C to °F`, `7850 kg/m3 in lb/in3`. Units of temperature alone are degrees on their
 * scales, not differences.
 * @returns null where the text asks no such thing: no unit on either side, or units of two quantities
 */
export function convertText(text: string): Converted | null {
	if (text.length > 200) return null;
	const asked = ASKED.exec(normaliseText(text));
	if (asked === null) return null;
	const [, from = "", wanted = ""] = asked;
	const plain = readUnit(wanted, []);
	if (plain === null) return null;
	// `lb` may be a force: the other side tells
	for (const dimensionOf of [plain.unit.dimension, readUnit(wanted, [FORCE])?.unit.dimension]) {
		if (dimensionOf === undefined) continue;
		const spec: QuantitySpec = { dimension: dimensionOf, siUnit: "1", absoluteTemperature: dimensionOf === TEMPERATURE };
		const read = parseQuantity(from, spec);
		const unit = readUnit(wanted, [dimensionOf])?.unit;
		if (!read.ok || unit === undefined || unit.dimension !== dimensionOf) continue;
		const { low, high, shape } = read.value;
		if (shape === "plus-minus" || read.value.unit === "") return null;
		const number = (si: number | null): string | null =>
			si === null ? null : String(Number(significant(fromSi(si, unit), DIGITS)));
		const [a, b] = [number(low), number(high)];
		// what was only about right stays so
		const about = shape === "approximate" ? "~ " : "";
		const ends = a === null ? `≤ ${b}` : b === null ? `≥ ${a}` : a === b ? a : `${a}–${b}`;
		return { from, to: about + ends, unit: wanted };
	}
	return null;
}

const FORCE = dimension(1, 1, -2);
