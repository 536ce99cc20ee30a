import { readList, writeList } from "@alvek/contract";
import { PRICE, readWhere, type Where, writeWhere } from "@alvek/core/material";
import { propertyById } from "@alvek/core/property";
import { FACETS, type FacetId, WORD_COLUMNS } from "@alvek/core/table";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";

/** A column of the grid: a property or words about the material, perhaps in a unit and a width of its own. */
export type ColumnChoice = { readonly id: string; readonly unit: string | null; readonly width: number | null };
/** A strip: a property, perhaps with an axis that a person chose. */
export type StripChoice = { readonly id: string; readonly log: boolean | null };

/** Columns and strips of a first visit. */
const DEFAULT_COLUMNS = ["density", "youngs_modulus", "yield_strength", "thermal_conductivity"].map(plainColumn);
const DEFAULT_STRIPS = ["density", "youngs_modulus"].map((id): StripChoice => ({ id, log: null }));

export function plainColumn(id: string): ColumnChoice {
	return { id, unit: null, width: null };
}

export type GridView = {
	readonly text: string;
	readonly facets: Readonly<Record<FacetId, readonly string[]>>;
	readonly starred: boolean;
	/** Only materials whose review date has passed. */
	readonly reviewPassed: boolean;
	/** Spans of values, SI. */
	readonly where: readonly Where[];
	readonly strips: readonly StripChoice[];
	readonly sort: string;
	readonly dir: "asc" | "desc";
	readonly columns: readonly ColumnChoice[];
	/** Material in focus, shown in the brief. */
	readonly row: string | null;
	/** The form for a new material, blank (`blank`) or from a similar one (its id). */
	readonly create: string | null;
	/** Cells take typing and pasting. */
	readonly editing: boolean;
};

export type ViewChange = Partial<GridView>;
export type ChangeView = (change: ViewChange) => void;

const isProperty = (id: string): boolean => propertyById(id) !== undefined || id.startsWith("own:");
const isColumn = (id: string): boolean => isProperty(id) || WORD_COLUMNS.some((c) => c.id === id);

/** What an address says of the grid. */
export function readView(params: URLSearchParams): GridView {
	const columns = readList(params.get("columns")).map(readColumn);
	const strips = readList(params.get("strips")).map(readStrip);
	return {
		text: params.get("text") ?? "",
		facets: Object.fromEntries(FACETS.map((f) => [f.id, readList(params.get(f.id))])) as GridView["facets"],
		starred: params.get("starred") === "1",
		reviewPassed: params.get("review") === "passed",
		where: readWhere(params.get("where") ?? "").filter((w) => isProperty(w.property) || PRICE.test(w.property)),
		strips: params.has("strips") ? strips.filter((s) => isProperty(s.id)) : DEFAULT_STRIPS,
		sort: params.get("sort") ?? "group",
		dir: params.get("dir") === "desc" ? "desc" : "asc",
		columns: params.has("columns") ? columns.filter((c) => isColumn(c.id)) : DEFAULT_COLUMNS,
		row: params.get("row"),
		create: params.get("create"),
		editing: params.get("edit") === "1",
	};
}

/** `density@lb/in^3@120`: property, unit, width; the last two may be left out. */
function readColumn(text: string): ColumnChoice {
	const [id = "", unit = "", width = ""] = text.split("@");
	const pixels = Number(width);
	return { id, unit: unit === "" ? null : unit, width: width !== "" && pixels >= 48 && pixels <= 600 ? pixels : null };
}

function writeColumn({ id, unit, width }: ColumnChoice): string {
	return width !== null ? `${id}@${unit ?? ""}@${width}` : unit !== null ? `${id}@${unit}` : id;
}

/** `density@log`, `density@lin`, or without either by the spread of its numbers. */
function readStrip(text: string): StripChoice {
	const [id = "", kind] = text.split("@");
	return { id, log: kind === "log" ? true : kind === "lin" ? false : null };
}

/** The entries of an address that a change sets; null takes one away. */
export function writeChange(change: ViewChange): Readonly<Record<string, string | null>> {
	const entries: Record<string, string | null> = {};
	const put = (key: string, text: string | null | undefined, standard = ""): void => {
		entries[key] = text == null || text === standard ? null : text;
	};
	const { text, facets, starred, reviewPassed, where, strips, sort, dir, columns, row, create, editing } = change;
	if (text !== undefined) put("text", text);
	if (facets !== undefined) for (const { id } of FACETS) put(id, writeList(facets[id]));
	if (starred !== undefined) put("starred", starred ? "1" : "");
	if (reviewPassed !== undefined) put("review", reviewPassed ? "passed" : "");
	if (where !== undefined) put("where", writeWhere(where));
	if (sort !== undefined) put("sort", sort, "group");
	if (dir !== undefined) put("dir", dir, "asc");
	if (row !== undefined) put("row", row);
	if (create !== undefined) put("create", create);
	if (editing !== undefined) put("edit", editing ? "1" : "");
	// an empty list of columns or strips is a choice, not the default
	if (columns !== undefined) entries.columns = writeList(columns.map(writeColumn));
	if (strips !== undefined)
		entries.strips = writeList(strips.map((s) => (s.log === null ? s.id : `${s.id}@${s.log ? "log" : "lin"}`)));
	return entries;
}

// an empty list for each facet there is
const NO_FACETS = Object.fromEntries(FACETS.map((f) => [f.id, []])) as unknown as GridView["facets"];

/** Everything that narrows, taken away. */
export const UNFILTERED: ViewChange = { text: "", facets: NO_FACETS, starred: false, reviewPassed: false, where: [] };

export function isFiltered(view: GridView): boolean {
	const words = FACETS.some((f) => view.facets[f.id].length > 0);
	return words || view.text !== "" || view.starred || view.reviewPassed || view.where.length > 0;
}

/** What the view asks of the server, without paging. */
export function narrowingOf(view: GridView, text = view.text) {
	const facets = Object.fromEntries(FACETS.map((f) => [f.id, writeList(view.facets[f.id])]).filter(([, words]) => words !== ""));
	return {
		...(facets as Readonly<Partial<Record<FacetId, string>>>),
		...(text === "" ? {} : { text, near: "show" as const }),
		...(view.starred ? { starred: "1" as const } : {}),
		...(view.reviewPassed ? { review: "passed" as const } : {}),
		...(view.where.length === 0 ? {} : { where: writeWhere(view.where) }),
		retired: "hide" as const,
		sort: view.sort,
		dir: view.dir,
	};
}

/** Changes that somebody would take back by Back: what narrows and orders, not what is typed or looked at on the way. */
const STEPS = ["facets", "starred", "reviewPassed", "where", "sort", "dir"] as const;

/** Does this change deserve an entry of its own in the browser's history? */
export function isStep(before: Pick<GridView, "text">, change: ViewChange): boolean {
	const begins = change.text !== undefined && (change.text === "") !== (before.text === "");
	return begins || STEPS.some((key) => change[key] !== undefined);
}

/** The whole view stands in the address, so it can be sent to a colleague. */
export function useGridView(): readonly [GridView, ChangeView] {
	const [address, setAddress] = useSearchParams();
	// the router takes a moment to follow; what was clicked shows at once
	const [ahead, setAhead] = useState<URLSearchParams | null>(null);
	const params = ahead ?? address;
	const latest = useRef(params);
	latest.current = params;
	/** Addresses that were asked for and are still to come, in order. */
	const coming = useRef<string[]>([]);
	useEffect(() => {
		// one of ours catches up; any other is somebody's navigation, and counts
		coming.current = coming.current.slice(coming.current.indexOf(address.toString()) + 1 || coming.current.length);
		if (coming.current.length === 0) setAhead(null);
	}, [address]);
	const change: ChangeView = (wanted) => {
		const next = new URLSearchParams(latest.current);
		for (const [key, text] of Object.entries(writeChange(wanted))) {
			if (text === null) next.delete(key);
			else next.set(key, text);
		}
		if (next.toString() === latest.current.toString()) return;
		const before = readView(latest.current);
		latest.current = next;
		coming.current.push(next.toString());
		setAhead(next);
		// typing and walking rows would fill the history
		setAddress(next, { replace: !isStep(before, wanted) });
	};
	return [readView(params), change];
}
