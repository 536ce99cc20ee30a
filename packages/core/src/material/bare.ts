import { type PropertyRow, unitsFor, widestBand } from "../property";
import { type ParseOptions, parseQuantity, type Quantity } from "../quantity";
import { fail, type Result } from "../result";

/** At most so many readings are offered. */
const MOST_CHOICES = 4;

/**
 * A number typed without its unit takes the unit of the field, unless only another unit makes sense of its size: `18e-6`
 * in a field of 10^-6/K, `210000` in a field of GPa. Then both readings are asked, never guessed.
 * @returns what the reader says, or issue `unclear-number` with the readings, each a text that reads as itself
 */
export function readBare(text: string, spec: PropertyRow, options: ParseOptions): Result<Quantity> {
	const read = parseQuantity(text, spec, options);
	const { fieldUnit } = options;
	if (fieldUnit === undefined || spec.scales === true) return read;
	if (read.ok ? read.value.entered === text.trim() : read.issues[0]?.code !== "out-of-bounds") return read;
	const band = widestBand(spec.id);
	if (band === null) return read;
	const size = Math.max(Math.abs(band.low), Math.abs(band.high));
	const fits = (q: Quantity, slack: number): boolean =>
		[q.low, q.high].every(
			(si) =>
				si === null ||
				(si >= (band.low > 0 ? band.low / slack : band.low * slack) &&
					si <= band.high * slack &&
					Math.abs(si) >= LEAST_SHARE * size),
		);
	if (read.ok && fits(read.value, UNUSUAL)) return read;
	// a number in the field's own unit is only doubted for the base unit; an impossible one for every unit in use
	const units = read.ok ? [spec.units.base] : unitsFor(spec);
	const others = units
		.filter((unit) => unit !== fieldUnit)
		.flatMap((unit) => {
			const other = parseQuantity(text, spec, { ...options, fieldUnit: unit });
			return other.ok && other.value.entered !== text.trim() && fits(other.value, 1) ? [other.value] : [];
		});
	if (others.length === 0) return read;
	const choices = [...(read.ok ? [read.value] : []), ...distinct(others)].slice(0, MOST_CHOICES).map((q) => q.entered);
	return fail({ code: "unclear-number", actual: text.trim(), expected: "its size does not fit the unit of the field", choices });
}

/** So far outside the widest band a number is unusual, and still no slip of units. */
const UNUSUAL = 10;
/** Below this share of the widest band's end a number is not taken for granted, although a band may include zero. */
const LEAST_SHARE = 1e-6;

function distinct(quantities: readonly Quantity[]): readonly Quantity[] {
	return quantities.filter((q, i) => quantities.findIndex((o) => o.low === q.low && o.high === q.high) === i);
}
