import type { OwnProperty } from "../property";
import type { DecimalMark } from "../quantity";

/** How good a value is. */
export const EVIDENCE = ["measured", "standard", "data-sheet", "estimated"] as const;
export type Evidence = (typeof EVIDENCE)[number];
export const EVIDENCE_WORD: Readonly<Record<Evidence, string>> = {
	measured: "measured",
	standard: "standard",
	"data-sheet": "data sheet",
	estimated: "estimated",
};

/** What a value means statistically. */
export const BASES = ["typical", "guaranteed-minimum", "mean", "characteristic", "b-90-95", "a-99-95", "unknown"] as const;
export type Basis = (typeof BASES)[number];
export const BASIS_WORD: Readonly<Record<Basis, string>> = {
	typical: "typical",
	"guaranteed-minimum": "guaranteed minimum",
	mean: "mean",
	characteristic: "characteristic 5 %",
	"b-90-95": "B (90/95)",
	"a-99-95": "A (99/95)",
	unknown: "basis unknown",
};

/** What the half-width behind `±` means. */
export const SPREADS = ["tolerance", "standard-deviation", "expanded"] as const;
export type Spread = (typeof SPREADS)[number];

/** Where a carried-over or followed value came from. */
export type Carried = { readonly name: string; readonly uid: string; readonly revision: number };

/** Everything that a value of any kind says about itself. */
export type ValueHead = {
	/** Made once, kept across revisions and copies: `density`, `tensile_strength~2`. */
	readonly id: string;
	/** Of the catalogue, or `own:` and the uid of a library's own property. */
	readonly property: string;
	/** Content of an own property, so that a document says what its numbers mean wherever it goes. */
	readonly own?: OwnProperty;
	readonly qualifier?: string;
	/** Temperature, thickness, direction ... in words. */
	readonly condition?: string;
	readonly evidence?: Evidence;
	readonly basis?: Basis;
	/** A source in words, or the id of one of the material's source records. */
	readonly source?: string;
	readonly sourceId?: string;
	/** Taken along from a base and not yet confirmed. */
	readonly carried?: Carried;
	/** Stays equal to this revision of the base until somebody overrides it. */
	readonly follows?: Carried;
};

/** What may stand in for the rule of the working value, for all uses (`any`) or one: an end, the middle, or a typed number. */
export type Working = Readonly<Record<string, string>>;

export type Bases = { readonly low?: Basis; readonly high?: Basis; readonly working?: Basis };

/** A positive decimal, as typed, and why: `0.9`, "in-house reduction for castings". */
export type Factor = { readonly by: string; readonly reason: string };

type Numbers = ValueHead & {
	/** As typed, with its unit; never rewritten. */
	readonly entered: string;
	/** The decimal mark that settled an ambiguous number. */
	readonly mark?: DecimalMark;
	/** SI; equal for a single value, null where open. For readings the smallest and the largest. */
	readonly low: number | null;
	readonly high: number | null;
	readonly spread?: Spread;
	readonly working?: Working;
	/** What each end and the working number mean, where that differs: a guaranteed minimum beside a typical number. */
	readonly bases?: Bases;
	/** Multiplies the number that is worked with. */
	readonly factor?: Factor;
};

/** A scalar or a range: what was typed, beside its SI doubles. It has no `kind`, so older documents read unchanged. */
export type QuantityValue = Numbers & { readonly kind?: undefined };
/** Readings of n specimens; mean, s and n are derived. */
export type ReadingsValue = Numbers & {
	readonly kind: "readings";
	readonly readings: readonly number[];
	/** Heat, test or specimen of each reading, in step; an empty one says nothing. */
	readonly labels?: readonly string[];
};
export type NumberValue = QuantityValue | ReadingsValue;

/** One column of a table or a curve: every cell as typed, beside its SI double. */
export type SeriesColumn = {
	/** An axis, or `value` for the property of a table. */
	readonly of: string;
	readonly unit: string;
	readonly cells: readonly string[];
	readonly mark?: DecimalMark;
	readonly si: readonly number[];
	/** High ends, when some cell is a range; `si` then holds the low ends. */
	readonly high?: readonly number[];
};

export type Interpolation = "linear" | "pchip";

/**
 * A table over conditions (columns: one or two conditions, then `value`), or a curve (perhaps conditions, then x, then
 * y). All columns are of one length; rows stand as they were measured.
 */
export type SeriesValue = ValueHead & {
	readonly kind: "table" | "curve";
	readonly columns: readonly SeriesColumn[];
	readonly interpolation: Interpolation;
	/** What the curve says of itself; an absent entry is unknown. */
	readonly header: Readonly<Record<string, string>>;
};

/** One typed number inside a directional set or a model. */
export type Coefficient = {
	readonly entered: string;
	readonly mark?: DecimalMark;
	readonly low: number | null;
	readonly high: number | null;
};

export type SetValue = ValueHead & {
	readonly kind: "set";
	readonly symmetry: string;
	/** What the axes 1, 2, 3 are on the part. */
	readonly axes: readonly [string, string, string];
	readonly components: Readonly<Record<string, Coefficient>>;
};

export type ModelValue = ValueHead & {
	readonly kind: "model";
	readonly form: string;
	readonly coefficients: Readonly<Record<string, Coefficient>>;
	/** Range of validity, how it was fitted, what was left over; in words. */
	readonly validity?: string;
	readonly fitted?: string;
};

/** Unknown and does not apply are two things; neither is zero. */
export type MarkValue = ValueHead & { readonly kind: "unknown" | "not-applicable" };

/** What cannot be a number: a fire class, `see sheet 4`. */
export type TextValue = ValueHead & { readonly kind: "text"; readonly text: string };

export type MaterialValue = NumberValue | SeriesValue | SetValue | ModelValue | MarkValue | TextValue;

export const SOURCE_KINDS = ["document", "standard", "lab-report", "web", "person"] as const;
/** Where values come from; the content travels inside the document, so that history stays as it was. */
export type Source = {
	readonly kind: (typeof SOURCE_KINDS)[number];
	readonly title: string;
	readonly edition?: string;
	readonly address?: string;
	readonly date?: string;
	/** Conditions of the tests behind it. */
	readonly conditions?: string;
	/** The text that was pasted. */
	readonly text?: string;
};

/** A check that somebody has looked at; it holds while the values that it is about stay as they were. */
export type Acknowledgement = { readonly reason: string; readonly seen: string };

export type Constituent = { readonly name: string; readonly min: string; readonly max: string; readonly balance?: boolean };

export type Designation = { readonly system?: string; readonly text: string };
export type Price = { readonly amount: string; readonly currency: string; readonly date: string };

export const TEXTURES = ["brushed", "cast", "weave", "grain", "speckle"] as const;
export type Texture =
	/** Computed from a rule; one repeat is `size_mm` wide. */
	| {
			readonly kind: "procedural";
			readonly pattern: (typeof TEXTURES)[number];
			readonly size_mm: number;
			readonly strength: number;
	  }
	/** A picture stored with the record, laid on in its real size. */
	| {
			readonly kind: "picture";
			readonly hash: string;
			readonly name: string;
			readonly size_mm: readonly [number, number];
			readonly offset_mm: readonly [number, number];
	  };

export const HATCHES = ["lines", "pairs", "triples", "crossed", "dashes", "waves", "steps", "dots"] as const;
export type HatchPattern = (typeof HATCHES)[number];
export type Hatch = { readonly pattern: HatchPattern; readonly angle_deg: number; readonly spacing_mm: number };

/** How a part of it looks in a picture and in a section. Physics never reads it. */
export type Look = {
	/** What is seen where that is not the material itself: `painted light grey`. */
	readonly surface: string;
	/** 0 to 1 each, as in physically based rendering. */
	readonly metalness: number;
	readonly roughness: number;
	readonly transparency: number;
	readonly texture: Texture | null;
	/** Null: the pattern of its family. */
	readonly hatch: Hatch | null;
};

/** The look of a material for which nobody chose one. */
export const PLAIN_LOOK: Look = Object.freeze({
	surface: "",
	metalness: 0.05,
	roughness: 0.75,
	transparency: 0,
	texture: null,
	hatch: null,
});

export const PURPOSES = ["certificate", "test-report", "data-sheet", "drawing", "solver-file", "picture", "other"] as const;

/** A file that belongs to the record. It is data: stored, described and given back, never opened. */
export type Attachment = {
	readonly name: string;
	readonly purpose: (typeof PURPOSES)[number];
	readonly note: string;
	/** What its content looks like, whatever its name says: `PDF`, `HTML`, `unknown`. */
	readonly format: string;
	/** SHA-256, which is also its checksum. */
	readonly hash: string;
	readonly bytes: number;
	/** Counts up when a file replaces one of the same entry. */
	readonly version: number;
	readonly date: string;
};

/** The content of a revision. Nothing in it is local: no database ids, times or revision numbers of its own. */
export type Material = {
	readonly schema: 3;
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
	readonly look: Look;
	/** Which elastic data a use takes; what was entered for the other stays. */
	readonly elasticity: "isotropic" | "directional";
	readonly links: readonly string[];
	readonly composition: readonly Constituent[];
	readonly values: Readonly<Record<string, MaterialValue>>;
	readonly sources: Readonly<Record<string, Source>>;
	readonly attachments: Readonly<Record<string, Attachment>>;
	/** Fields taken along from a base and not yet confirmed. */
	readonly carriedFields: Readonly<Record<string, Carried>>;
	readonly acknowledged: Readonly<Record<string, Acknowledgement>>;
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
	"look",
	"elasticity",
	"links",
	"composition",
] as const;
export type Field = (typeof FIELDS)[number];

/** Fields that name a material or its offer: taken along from a base they are as suspect as a number. */
export const NAME_LIKE = [
	"designations",
	"supplier",
	"price",
	"links",
	"description",
	"colour",
	"look",
] as const satisfies readonly Field[];
const NAMES: ReadonlySet<string> = new Set(NAME_LIKE);
export const isNameLike = (field: string): field is (typeof NAME_LIKE)[number] => NAMES.has(field);

/** A blank material: every field empty, nothing pre-filled that nobody chose. The colour is that of an undecided look. */
export const BLANK: Material = Object.freeze({
	schema: 3,
	family: null,
	condition: "",
	productForm: "",
	supplier: "",
	designations: [],
	description: "",
	notes: "",
	price: null,
	colour: "#9aa4a8",
	look: PLAIN_LOOK,
	elasticity: "isotropic",
	links: [],
	composition: [],
	values: {},
	sources: {},
	attachments: {},
	carriedFields: {},
	acknowledged: {},
});
