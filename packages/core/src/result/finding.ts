import { describeIssue } from "./describe";
import type { Issue } from "./issue";

/** How grave a finding is: wrong is not taken, asked waits for an answer, doubtful and note are taken and said. */
export type Severity = "wrong" | "asked" | "doubtful" | "note";

/** Where in what was read; numbers count from 1. */
export type Place = {
	readonly sheet?: string;
	/** A record of a table; `line` is the line of the file. */
	readonly row?: number;
	readonly column?: number;
	readonly line?: number;
	/** A file in an archive, an element of a tree. */
	readonly path?: string;
	readonly page?: number;
};

/** What a reader found on its way: an issue with its place and what a person can do about it. */
export type Finding = Issue & { readonly severity: Severity; readonly place: Place; readonly remedy: string };

export const finding = (where: Pick<Finding, "severity" | "place" | "remedy">, issue: Issue): Finding => ({ ...issue, ...where });

/** A place in words: `sheet “Steel”, row 3, column 2`; empty when nothing is known of it. */
export function placeText(place: Place): string {
	const { path, page, sheet, row, column, line } = place;
	return [
		path,
		page === undefined ? undefined : `page ${page}`,
		sheet === undefined ? undefined : `sheet “${sheet}”`,
		row === undefined ? undefined : `row ${row}`,
		column === undefined ? undefined : `column ${column}`,
		line === undefined ? undefined : `line ${line}`,
	]
		.filter((part) => part !== undefined)
		.join(", ");
}

/** What is wrong where, and what to do: one text, the same everywhere. */
export function describeFinding(found: Finding): string {
	const where = placeText(found.place);
	return `${where === "" ? "" : `${where}: `}${describeIssue(found)}${found.remedy === "" ? "" : ` ${found.remedy}`}`;
}

/** As findings stand in JSON: the place is text under `at`. */
export function findingJson({ place, ...rest }: Finding): Readonly<Record<string, unknown>> {
	return { ...rest, at: placeText(place) };
}

const GRAVITY: Readonly<Record<Severity, number>> = { wrong: 0, asked: 1, doubtful: 2, note: 3 };

/** The gravest first; of the same gravity in the order in which they were found. */
export const gravestFirst = <T extends { readonly severity: Severity }>(findings: readonly T[]): readonly T[] =>
	[...findings].sort((a, b) => GRAVITY[a.severity] - GRAVITY[b.severity]);
