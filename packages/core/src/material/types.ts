import type { DecimalMark } from "../quantity";

/** How good a value is. */
export const EVIDENCE = ["measured", "standard", "data-sheet", "estimated"] as const;
export type Evidence = (typeof EVIDENCE)[number];

/** What a value means statistically. */
export const BASES = ["typical", "guaranteed-minimum", "mean", "characteristic", "unknown"] as const;
export type Basis = (typeof BASES)[number];

/** Where a carried-over value came from. */
export type Carried = { readonly name: string; readonly uid: string; readonly revision: number };

/** One value of a material: what was typed, beside its SI double. */
export type MaterialValue = {
	/** Made once, kept across revisions and copies: `density`, `tensile_strength~2`. */
	readonly id: string;
	readonly property: string;
	/** As typed, with its unit; never rewritten. */
	readonly entered: string;
	/** The decimal mark that settled an ambiguous number. */
	readonly mark?: DecimalMark;
	/** SI; equal for a single value, null where open. */
	readonly low: number | null;
	readonly high: number | null;
	readonly qualifier?: string;
	/** Temperature, thickness, direction ... in words. */
	readonly condition?: string;
	readonly evidence?: Evidence;
	readonly basis?: Basis;
	readonly source?: string;
	/** Taken along from a base and not yet confirmed. */
	readonly carried?: Carried;
};

export type Designation = { readonly system?: string; readonly text: string };
export type Price = { readonly amount: string; readonly currency: string; readonly date: string };

/** The content of a revision. Nothing in it is local: no database ids, times or revision numbers of its own. */
export type Material = {
	readonly schema: 1;
	readonly family: string | null;
	readonly condition: string;
	readonly productForm: string;
	readonly supplier: string;
	readonly designations: readonly Designation[];
	readonly description: string;
	readonly notes: string;
	/** Per kilogram. */
	readonly price: Price | null;
	/** Base colour of the look, `#rrggbb`. */
	readonly colour: string;
	readonly values: Readonly<Record<string, MaterialValue>>;
};

/** Fields beside the values that an edit can set. */
export const FIELDS = [
	"family",
	"condition",
	"productForm",
	"supplier",
	"designations",
	"description",
	"notes",
	"price",
	"colour",
] as const;
export type Field = (typeof FIELDS)[number];

/** A blank material: every field empty, nothing pre-filled that nobody chose. The colour is that of an undecided look. */
export const BLANK: Material = Object.freeze({
	schema: 1,
	family: null,
	condition: "",
	productForm: "",
	supplier: "",
	designations: [],
	description: "",
	notes: "",
	price: null,
	colour: "#9aa4a8",
	values: {},
});
