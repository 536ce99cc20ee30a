import type { QuantitySpec } from "../quantity";

export type Section = "general" | "elastic" | "strength" | "thermal" | "electrical";
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
