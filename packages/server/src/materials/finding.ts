import type { Facet, MaterialPage, MaterialRow } from "@alvek/contract";
import { densityOf, firstValue, type Material, type Readiness, readiness, USES, workingValue } from "@alvek/core/material";
import { familyName, propertyById } from "@alvek/core/property";
import type { Sql } from "../db/connection";
import {
	allGroups,
	allMaterials,
	type DraftRecord,
	draftDocument,
	draftsOf,
	type GroupRecord,
	type MaterialRecord,
	materialById,
	parseDocument,
} from "./store";

export type FindQuery = {
	readonly text: string;
	readonly library: readonly string[];
	readonly group: readonly string[];
	readonly ready: readonly string[];
	readonly sort: string;
	readonly descending: boolean;
	readonly offset: number;
	readonly limit: number;
};

/** The one door to finding materials. Rights come in as the libraries that may be seen; drafts as the asker's own. */
export type Finding = {
	load(): Promise<void>;
	/** Called after a commit that touched this material. */
	refresh(id: string): Promise<void>;
	find(query: FindQuery, libraries: ReadonlySet<string>, person: string): Promise<MaterialPage>;
	row(id: string, person: string): Promise<MaterialRow | null>;
};

type Entry = { readonly row: MaterialRow; readonly haystack: string };

/** A plain filter over what is held in memory: enough for a few thousand rows. */
export function plainFinding(sql: Sql): Finding {
	const published = new Map<string, Entry>();
	/** Drafts are applied once per version. */
	const draftCache = new Map<string, { version: number; document: Material; readiness: readonly Readiness[] }>();
	let groups = new Map<string, GroupRecord>();

	const loadGroups = async (): Promise<void> => {
		groups = new Map((await allGroups(sql)).map((g) => [g.id, g]));
	};
	const entryOf = (record: MaterialRecord, draft: DraftRecord | null): Entry => entry(rowOf(record, draft, groups, draftCache));

	/** Published facts plus my drafts. */
	const rowsFor = async (person: string): Promise<Entry[]> => {
		const mine = await draftsOf(sql, person);
		if (mine.length === 0) return [...published.values()];
		const rows = new Map(published);
		for (const draft of mine) {
			const record = await materialById(sql, draft.material_id);
			if (record !== null && record.removed_at === null) rows.set(record.id, entryOf(record, draft));
		}
		return [...rows.values()];
	};

	return {
		async load() {
			await loadGroups();
			published.clear();
			for (const record of await allMaterials(sql)) if (record.bytes !== null) published.set(record.id, entryOf(record, null));
		},
		async refresh(id) {
			await loadGroups();
			const record = await materialById(sql, id);
			if (record === null || record.bytes === null || record.removed_at !== null) published.delete(id);
			else published.set(id, entryOf(record, null));
		},
		async find(query, libraries, person) {
			const visible = (await rowsFor(person)).filter((e) => libraries.has(e.row.libraryId));
			return page(visible, query);
		},
		async row(id, person) {
			const record = await materialById(sql, id);
			if (record === null) return null;
			const draft = (await draftsOf(sql, person)).find((d) => d.material_id === id) ?? null;
			if (record.bytes === null && draft === null) return null;
			await loadGroups();
			return rowOf(record, draft, groups, draftCache);
		},
	};
}

function rowOf(
	record: MaterialRecord,
	draft: DraftRecord | null,
	groups: ReadonlyMap<string, GroupRecord>,
	cache: Map<string, { version: number; document: Material; readiness: readonly Readiness[] }>,
): MaterialRow {
	let facts: { document: Material; readiness: readonly Readiness[] };
	if (draft !== null) {
		const cached = cache.get(draft.id);
		if (cached?.version === draft.version) facts = cached;
		else {
			const document = draftDocument(draft);
			facts = { document, readiness: readiness(document) };
			cache.set(draft.id, { version: draft.version, ...facts });
		}
	} else {
		const document = parseDocument(record.bytes as Buffer);
		facts = { document, readiness: readiness(document) };
	}
	return {
		id: record.id,
		name: record.name,
		libraryId: record.library_id,
		library: record.library,
		supplied: record.kind === "supplied",
		group: groupPath(record.group_id, groups),
		itemCode: record.item_code,
		shopName: record.shop_name,
		revision: record.revision_no ?? 0,
		revisionId: record.revision_id,
		draftId: draft?.id ?? null,
		draftVersion: draft?.version ?? 0,
		changedAt: draft !== null && draft.saved_at > record.changed_at ? draft.saved_at : record.changed_at,
		publishedDensity: record.bytes === null ? null : densityOf(parseDocument(record.bytes)),
		document: facts.document,
		readiness: facts.readiness,
	};
}

export function groupPath(id: string | null, groups: ReadonlyMap<string, GroupRecord>): string {
	const names: string[] = [];
	for (
		let at = id === null ? undefined : groups.get(id);
		at !== undefined;
		at = at.parent_id === null ? undefined : groups.get(at.parent_id)
	) {
		names.unshift(at.name);
	}
	return names.join(" / ");
}

function entry(row: MaterialRow): Entry {
	const { document } = row;
	const words = [
		row.name,
		row.group,
		row.itemCode,
		row.shopName,
		document.supplier,
		document.condition,
		document.description,
		...document.designations.map((d) => `${d.system ?? ""} ${d.text}`),
		document.family === null ? "" : (familyName(document.family) ?? ""),
	];
	return { row, haystack: words.join("\n").toLowerCase() };
}

type Test = (entry: Entry) => boolean;

function page(entries: readonly Entry[], query: FindQuery): MaterialPage {
	const words = query.text
		.toLowerCase()
		.split(/\s+/)
		.filter((w) => w !== "");
	const inGroup = (group: string): boolean => query.group.some((g) => group === g || group.startsWith(`${g} / `));
	const tests: Record<"text" | "library" | "group" | "ready", Test> = {
		text: (e) => words.every((w) => e.haystack.includes(w)),
		library: (e) => query.library.length === 0 || query.library.includes(e.row.libraryId),
		group: (e) => query.group.length === 0 || inGroup(e.row.group),
		ready: (e) => query.ready.every((use) => isReady(e.row, use)),
	};
	const passing = (except: string): readonly Entry[] =>
		entries.filter((e) => Object.entries(tests).every(([name, test]) => name === except || test(e)));
	const found = passing("").map((e) => e.row);
	found.sort(order(query));
	return {
		total: found.length,
		all: entries.length,
		rows: found.slice(query.offset, query.offset + query.limit),
		facets: {
			library: count(passing("library"), (r) => [{ key: r.libraryId, label: r.library }]),
			group: count(passing("group"), (r) => (r.group === "" ? [] : [{ key: r.group, label: r.group }])),
			// readiness narrows with each tick, so its counts go with all other ticks
			ready: readyFacet(passing("")),
		},
	};
}

/** Ready, with or without doubts: what can be computed with. */
function isReady(row: MaterialRow, use: string): boolean {
	return row.readiness.some((r) => r.use === use && r.state !== "not-ready");
}

function readyFacet(entries: readonly Entry[]): readonly Facet[] {
	return USES.map((use) => ({ key: use.id, label: use.name, count: entries.filter((e) => isReady(e.row, use.id)).length }));
}

function count(
	entries: readonly Entry[],
	keys: (row: MaterialRow) => readonly { key: string; label: string }[],
): readonly Facet[] {
	const counts = new Map<string, Facet>();
	for (const e of entries) {
		for (const { key, label } of keys(e.row)) counts.set(key, { key, label, count: (counts.get(key)?.count ?? 0) + 1 });
	}
	return [...counts.values()].sort((a, b) => collator.compare(a.label, b.label));
}

const collator = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

function order(query: FindQuery): (a: MaterialRow, b: MaterialRow) => number {
	const sign = query.descending ? -1 : 1;
	const byName = (a: MaterialRow, b: MaterialRow): number => collator.compare(a.name, b.name) || (a.id < b.id ? -1 : 1);
	if (query.sort === "name") return (a, b) => sign * byName(a, b);
	if (query.sort === "changed")
		return (a, b) => sign * (a.changedAt < b.changedAt ? -1 : a.changedAt > b.changedAt ? 1 : 0) || byName(a, b);
	const property = propertyById(query.sort);
	if (property === undefined) return (a, b) => sign * collator.compare(a.group, b.group) || byName(a, b);
	const number = (row: MaterialRow): number | null => {
		const value = firstValue(row.document, property.id);
		return value === null ? null : (workingValue(value) ?? value.low ?? value.high);
	};
	return (a, b) => {
		const [x, y] = [number(a), number(b)];
		// blanks stand last whichever way the column is sorted
		if (x === null || y === null) return x === y ? byName(a, b) : x === null ? 1 : -1;
		return sign * (x - y) || byName(a, b);
	};
}
