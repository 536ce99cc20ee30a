import type { Bases, Basis } from "../material";
import type { DecimalMark } from "../quantity";

/** What became of a run of digits: each has exactly one fate. */
export type Fate = "value" | "condition" | "axis" | "name" | "unit" | "standard" | "asked" | "price" | "composition" | "left";

/** A run of digits of a line, as pasted. */
export type NumberRun = { readonly line: number; readonly from: number; readonly to: number; readonly fate: Fate };

type Proposed = {
	readonly property: string;
	readonly qualifier?: string;
	/** One of the page's grades: nothing is taken before a grade is chosen. */
	readonly grade?: string;
	/** `20–200 °C`, `dry`, in words. */
	readonly condition?: string;
	readonly basis?: Basis;
	/** What the user has to say or check first; such a value is not ticked by itself. */
	readonly question?: string;
	/** What was understood that one might not expect. */
	readonly note?: string;
	/** From 0 to 1: how sure label, unit and layout are. Below 0.9 it is not ticked by itself. */
	readonly confidence: number;
	readonly line: number;
};

/** A value that a line proposes. SI; nothing is stored until the user takes it. */
export type Taken = Proposed & {
	/** What is typed into the value: numbers as written, one unit behind them. */
	readonly text: string;
	readonly mark?: DecimalMark;
	readonly low: number | null;
	readonly high: number | null;
	readonly siUnit: string;
	/** The hardness scale, for a hardness. */
	readonly scale?: string;
	/** A typical number or a result beside the limits: the working value, as a text. */
	readonly working?: string;
	/** What the ends and the working number mean, where the page says it of each. */
	readonly bases?: Bases;
	/** Single readings in SI, where the text is a list of them, each with its heat or specimen. */
	readonly readings?: readonly { readonly si: number; readonly label: string; readonly line: number }[];
};

/** A property over one condition: temperatures down the rows or over the columns, diameters of bolts. */
export type TakenTable = Proposed & {
	/** The id of an axis. */
	readonly axis: string;
	/** What is typed: each with its unit. */
	readonly points: readonly {
		readonly at: string;
		readonly atSi: number;
		readonly text: string;
		readonly low: number | null;
		readonly high: number | null;
		readonly line: number;
	}[];
	/** The columns as a table of the sheet holds them: numbers as written under one unit. */
	readonly units: readonly [axis: string, value: string];
	readonly cells: readonly (readonly [axis: string, value: string])[];
	readonly siUnit: string;
	readonly scale?: string;
	readonly mark?: DecimalMark;
};

/** A curve: loss over flux density with a column for each frequency, polarisation over field. */
export type TakenCurve = Proposed & {
	/** Axis ids of the columns, the last one is what is measured. */
	readonly columns: readonly string[];
	/** Units as written, one for each column. */
	readonly units: readonly string[];
	readonly header: Readonly<Record<string, string>>;
	readonly rows: readonly { readonly cells: readonly string[]; readonly si: readonly number[]; readonly line: number }[];
	readonly mark?: DecimalMark;
};

/** A line that names a property but cannot be taken without an answer. */
export type Ask = {
	readonly line: number;
	readonly text: string;
	readonly property: string;
	readonly question: string;
	readonly qualifier?: string;
	readonly condition?: string;
	readonly grade?: string;
	/** Readings that a person can pick from, each a text to type into the value. */
	readonly choices: readonly { readonly property: string; readonly text: string }[];
};

export type PagePrice = {
	readonly amount: string;
	readonly currency: string;
	readonly per: string;
	readonly line: number;
	/** Why it is not ticked by itself: another price or a quantity stands on its line. */
	readonly question?: string;
};

/** One constituent; shares of mass from 0 to 1. */
export type PageConstituent = {
	readonly element: string;
	readonly min: number | null;
	readonly max: number | null;
	readonly balance?: true;
	readonly line: number;
};
/** A composition; `label` names the heat where there are several. */
export type PageComposition = { readonly label: string; readonly elements: readonly PageConstituent[] };

export type Page = {
	/** Every line as pasted, blank ones too; line 1 is the first. */
	readonly lines: readonly string[];
	readonly taken: readonly Taken[];
	readonly tables: readonly TakenTable[];
	readonly curves: readonly TakenCurve[];
	readonly asks: readonly Ask[];
	/** Grades side by side, in their order; empty where the page is of one. */
	readonly grades: readonly string[];
	readonly compositions: readonly PageComposition[];
	readonly price: PagePrice | null;
	readonly headings: readonly number[];
	/** Lines of which nothing was understood. */
	readonly left: readonly number[];
	/** Lines that are the label or the unit of a value on another line. */
	readonly parts: readonly number[];
	/** Every run of digits with its fate. */
	readonly numbers: readonly NumberRun[];
	readonly basis: Basis | null;
};
