import type { Dimension } from "./dimension";
import type { DecimalMark } from "./number";

/** What a field accepts. Everything a property says about its numbers; see `property/`. */
export type QuantitySpec = {
	readonly dimension: Dimension;
	/** SI unit, in our own spelling. */
	readonly siUnit: string;
	/** An absolute temperature: degrees have a zero. */
	readonly absoluteTemperature?: boolean;
	/** Also accepted as its reciprocal: a resistivity typed as a conductivity. */
	readonly reciprocal?: boolean;
	/** Hardness: the unit is the scale, and never converts. */
	readonly scales?: boolean;
	/** A bare number is complete (a ratio); otherwise a unit is needed. */
	readonly bareIsSi?: boolean;
	/** Shown in %: a % behind `±` is then of the quantity itself, elsewhere of its value. */
	readonly percent?: boolean;
	readonly min?: number;
	readonly max?: number;
	readonly minExclusive?: boolean;
};

export type ParseOptions = {
	/** The unit printed in the field: a bare number takes it. */
	readonly fieldUnit?: string;
	/** Known from the file or the person; settles `1,234`. */
	readonly decimalMark?: DecimalMark;
};

export type QuantityShape = "scalar" | "range" | "at-least" | "at-most" | "plus-minus" | "approximate";

/** A value field's text, read. `low` and `high` are SI, equal for a single value, null where the range is open. */
export type Quantity = {
	readonly shape: QuantityShape;
	readonly low: number | null;
	readonly high: number | null;
	readonly siUnit: string;
	/** The unit read, normalised; `1` for a ratio. */
	readonly unit: string;
	/** The unit of the second number, where it has another one than the first. */
	readonly secondUnit?: string;
	/** Digits as typed, decimal point normalised: centre and half-width for `plus-minus`, else the ends. */
	readonly digits: readonly string[];
	/** Decimal exponent typed beside the digits (`22.5e-6`: -6), one for each of them. */
	readonly exponents: readonly number[];
	/** Typed as the reciprocal quantity: ends are swapped, the working value is taken before turning over. */
	readonly reciprocal: boolean;
	/** The decimal mark that had to be assumed, to be kept with the text. */
	readonly mark: DecimalMark | null;
	/** The text with its unit, when the field supplied it. */
	readonly entered: string;
};
