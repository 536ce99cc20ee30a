import type { Basis } from "../material";
import type { DecimalMark } from "../quantity";

/** A value that a line proposes. SI; nothing is stored until the user takes it. */
export type Taken = {
	readonly property: string;
	readonly qualifier?: string;
	/** What is typed into the value: numbers as written, one unit behind them. */
	readonly text: string;
	readonly mark?: DecimalMark;
	readonly low: number | null;
	readonly high: number | null;
	readonly siUnit: string;
	/** The hardness scale, for a hardness. */
	readonly scale?: string;
	/** `20–200 °C`, `dry`, in words. */
	readonly condition?: string;
	readonly basis?: Basis;
	/** What the user has to say or check first; such a value is not ticked by itself. */
	readonly question?: string;
	/** What was understood that one might not expect. */
	readonly note?: string;
	/** A typical number inside a range: the working value. */
	readonly working?: string;
	readonly line: number;
};

/** A line that names a property but cannot be taken without an answer. */
export type Ask = {
	readonly line: number;
	readonly text: string;
	readonly property: string;
	readonly question: string;
	/** Readings that a person can pick from, each a text to type into the value. */
	readonly choices: readonly { readonly property: string; readonly text: string }[];
};

export type PagePrice = { readonly amount: string; readonly currency: string; readonly per: string; readonly line: number };

export type Page = {
	/** Every line as pasted, blank ones too; line 1 is the first. */
	readonly lines: readonly string[];
	readonly taken: readonly Taken[];
	readonly asks: readonly Ask[];
	readonly price: PagePrice | null;
	readonly headings: readonly number[];
	readonly left: readonly number[];
	readonly basis: Basis | null;
};
