import type { QuantitySpec } from "../quantity";

export type Section = "general" | "elastic" | "strength" | "curves" | "thermal" | "electrical" | "magnetic";
export type UnitSetId = "engineering" | "base" | "us";
export type FamilyId = string;

/** One of several definitions of the same property: R_p0.2 or R_eH, a gauge length. */
export type Qualifier = { readonly id: string; readonly label: string; readonly symbol: string };

/** A property of the catalogue. `QuantitySpec` holds its dimension and hard bounds, in SI. */
export type PropertyRow = QuantitySpec & {
	readonly id: string;
	readonly name: string;
	/** `_` starts an index: `R_p0.2`. */
	readonly symbol: string;
	readonly section: Section;
	readonly units: Readonly<Record<UnitSetId, string>>;
	/** The end of a range that a calculation works with: the low one for strengths, the middle for density. */
	readonly safeEnd: "low" | "middle" | "high";
	readonly qualifiers?: readonly Qualifier[];
	readonly standard?: string;
	/** Shown only for these families; all when absent. */
	readonly families?: readonly FamilyId[];
	readonly explanation: string;
};

export type Band = { readonly low: number; readonly high: number; readonly source: string };

/** A quantity that a table or a curve has along one of its columns: temperature, strain, field strength. */
export type Axis = QuantitySpec & {
	readonly id: string;
	readonly name: string;
	readonly symbol: string;
	readonly units: Readonly<Record<UnitSetId, string>>;
};

/** One line of a curve's header. `options` are a choice; a plain text otherwise. `unknown` is always allowed. */
export type HeaderField = {
	readonly id: string;
	readonly name: string;
	readonly options?: readonly { readonly id: string; readonly name: string }[];
};

/** A curve: y over x, perhaps a family of them over one or two conditions. */
export type CurveForm = {
	readonly kind: "curve";
	readonly id: string;
	readonly name: string;
	readonly section: Section;
	readonly x: string;
	/** The first is the usual one; a core loss is per mass or per volume. */
	readonly y: readonly string[];
	readonly conditions: readonly string[];
	readonly headers: readonly HeaderField[];
	/** What happens beyond the last point. */
	readonly outside: "refuse" | "hold" | "vacuum-slope";
	readonly explanation: string;
};

/** A directional set: one number per direction, under named axes. */
export type SetForm = {
	readonly kind: "set";
	readonly id: string;
	readonly name: string;
	readonly section: Section;
	readonly symmetries: readonly { readonly id: string; readonly name: string; readonly components: readonly string[] }[];
	readonly components: Readonly<Record<string, Component>>;
	readonly explanation: string;
};

export type Component = QuantitySpec & {
	readonly symbol: string;
	readonly name: string;
	readonly units: Readonly<Record<UnitSetId, string>>;
};

/** A material model: its form is the expression, each coefficient says what it means. */
export type ModelForm = {
	readonly kind: "model";
	readonly id: string;
	readonly name: string;
	readonly section: Section;
	readonly forms: readonly {
		readonly id: string;
		readonly name: string;
		/** The expression, in the symbols of the coefficients. */
		readonly expression: string;
		readonly coefficients: Readonly<Record<string, Component>>;
		/** These may be left blank. */
		readonly optional?: readonly string[];
	}[];
	readonly explanation: string;
};

export type Form = CurveForm | SetForm | ModelForm;

/** A property that a library adds to the catalogue; its content travels with each value. */
export type OwnProperty = {
	readonly uid: string;
	readonly name: string;
	readonly symbol: string;
	/** Its SI unit says its dimension. */
	readonly siUnit: string;
	/** The unit shown. */
	readonly unit: string;
	/** Hard bounds, SI: refused outside. */
	readonly low: number | null;
	readonly high: number | null;
	/** Likely span, SI: a check outside. */
	readonly likelyLow?: number | null;
	readonly likelyHigh?: number | null;
	/** Uses that are not ready without it. */
	readonly neededFor?: readonly string[];
	readonly explanation: string;
};
