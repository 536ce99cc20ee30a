import type { MaterialPage, MaterialRow } from "@alvek/contract";
import { densityOf, type Likened, type Material, type Where, wordsOfName } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import {
	alikePairs,
	alikeTo,
	FACTS_VERSION,
	type FacetId,
	type Facts,
	factsOf,
	MaterialTable,
	packColumns,
	type Seer,
	type TableAnswer,
	type TableFacts,
	type TableQuery,
	type TableRow,
	withAbove,
} from "@alvek/core/table";
import type { Db, Sql } from "../db/connection";
import type { Keeper } from "./keeper";
import { readLinks } from "./namelinks";
import { facetsOf, groupRuns, libraryNames, slim } from "./page";
import { type Parsed, ParsedRevisions } from "./parsed";
import {
	allDrafts,
	allGroups,
	type DraftRecord,
	documentsOf,
	draftDocument,
	draftsOf,
	draftsOn,
	type FactsRecord,
	factsByIds,
	factsPage,
	type GroupRecord,
	type ListedRecord,
	materialsByIds,
	storeFacts,
} from "./store";

export type FindQuery = {
	readonly text: string;
	readonly facets: Readonly<Partial<Record<FacetId, readonly string[]>>>;
	/** Spans that some value has to overlap. */
	readonly where: readonly Where[];
	/** Only starred ones. */
	readonly starred: boolean;
	/** The day on which it is asked. */
	readonly today: string;
	/** Only those whose review date is before today. */
	readonly reviewPassed: boolean;
	readonly sort: string;
	readonly descending: boolean;
	readonly offset: number;
	readonly limit: number;
	/** Only these properties are needed in the documents of the rows; null: everything. */
	readonly values: readonly string[] | null;
};

/** The one door to finding materials. Rights come in as the libraries that may be seen; drafts are the asker's own. */
export type Finding = {
	/**
	 * Stands on the kept table where there is one, and reads everything otherwise. Nobody has to wait for it: rows by id
	 * are there at once, and whoever looks for materials meanwhile is answered when it is done.
	 */
	start(): Promise<void>;
	/** Reads everything anew; `facts` are made again where they are missing or of another version. */
	load(): Promise<void>;
	/** Keeps the table for the next start, when more than so many materials changed since it was kept. */
	keep(changes: number): Promise<void>;
	/** Makes ready, bit by bit, what the first search that is off by a letter would have to wait for. */
	warm(until: AbortSignal): Promise<void>;
	/** Own properties of a library changed, and with them what its materials are ready for. */
	reloadLibrary(id: string): Promise<void>;
	/** Groups were renamed, moved or taken away: materials in them stand under other paths. */
	reloadGroups(): Promise<void>;
	/** Called after a commit that touched these materials or drafts of them. */
	refresh(ids: readonly string[]): Promise<void>;
	find(query: FindQuery, seer: Seer): Promise<MaterialPage>;
	/** Columns of the rows that pass, packed for the browser, and a tag that changes when they may. */
	columns(query: FindQuery, properties: readonly string[], seer: Seer): Promise<{ bytes: () => Uint8Array; tag: string }>;
	/** Rows by id, in the order asked for; what the seer may not see is left out. */
	rows(ids: readonly string[], seer: Seer): Promise<readonly MaterialRow[]>;
	/** Materials that may be the same as this one, by name or by numbers; the rule itself is asked of their documents. */
	alike(seed: Likened, seer: Seer): Promise<readonly string[]>;
	/** Pairs that may be the same, one of each in this library, the most alike first. */
	duplicates(
		library: string,
		seer: Seer,
	): Promise<{ readonly pairs: readonly (readonly [string, string])[]; readonly complete: boolean }>;
	/** Rows whose names or codes answer what was typed, the best first. */
	search(text: string, most: number, seer: Seer): Promise<readonly { readonly row: MaterialRow; readonly rank: number }[]>;
};

const PAGE = 5000;
/** Names whose words are read before others are answered. */
const WARM = 500;
/** Look-alikes whose documents are read. */
const MOST_ALIKE = 200;

/** @param keeper where the table is kept between two runs; null: nowhere */
export function tableFinding(db: Db, keeper: Keeper | null): Finding {
	const table = new MaterialTable();
	/** Tells two runs of the server apart, whose versions both begin at nothing. */
	const run = Date.now().toString(36);
	/** Drafts are applied once per version. */
	const parsed = new ParsedRevisions();
	const drafts = new Map<string, { version: number; document: Material; facts: Facts }>();
	/** Whose drafts of a material stand in the table. */
	const drafters = new Map<string, Set<string>>();
	let groups: ReadonlyMap<string, GroupRecord> = new Map();
	let working: ReadonlySet<string> = new Set();
	let own: ReadonlyMap<string, readonly OwnProperty[]> = new Map();

	/** What stands beside the rows and is small enough to be read whole: groups, and the working lists. */
	const loadBeside = async (): Promise<void> => {
		groups = new Map((await allGroups(db)).map((g) => [g.id, g]));
		working = new Set((await db.all<{ id: string }>("SELECT material_id AS id FROM working_list")).map((w) => w.id));
	};

	const draftFacts = (draft: DraftRecord, library: string): { document: Material; facts: Facts } => {
		const known = drafts.get(draft.id);
		if (known?.version === draft.version) return known;
		const document = draftDocument(draft);
		const made = { version: draft.version, document, facts: factsOf(document, own.get(library)) };
		drafts.set(draft.id, made);
		return made;
	};

	const tableRow = (
		record: Omit<FactsRecord, "at" | "revision_id" | "facts">,
		person: string | null,
		facts: TableFacts,
	): TableRow => ({
		id: record.id,
		person,
		name: record.name,
		library: record.library_id,
		group: groupPath(record.group_id, groups),
		codes: [record.item_code, record.shop_name, ...readLinks(record.known_as).map((l) => l.name)].join("\n"),
		offeredFor: JSON.parse(record.offered_for) as string[],
		marks: [...(working.has(record.id) ? ["working"] : []), ...(record.retired === 1 ? ["retired"] : [])],
		changedAt: Date.parse(record.changed_at),
		review: record.review_at,
		facts,
	});

	/** Facts of these records; the missing ones are made from their documents and kept. */
	const factsFor = async (records: readonly FactsRecord[]): Promise<readonly TableFacts[]> => {
		const missing = records.filter((r) => r.facts === null);
		const made = new Map<string, Facts>();
		const documents = await documentsOf(
			db,
			missing.map((r) => r.revision_id),
		);
		for (const record of missing) {
			const document = documents.get(record.revision_id) as Material;
			made.set(record.revision_id, factsOf(document, own.get(record.library_id)));
		}
		if (made.size > 0) {
			await db.transaction(async (sql) => {
				await storeFacts(sql, FACTS_VERSION, made);
				return { commit: true, value: null };
			});
		}
		return records.map((r) => made.get(r.revision_id) ?? (JSON.parse((r.facts as Buffer).toString("utf8")) as TableFacts));
	};

	const draftRows = async (records: readonly DraftRecord[]): Promise<readonly TableRow[]> => {
		const materials = await materialsByIds(db, [...new Set(records.map((d) => d.material_id))], "");
		const byId = new Map(materials.map((m) => [m.id, m]));
		return records.flatMap((draft) => {
			const record = byId.get(draft.material_id);
			if (record === undefined) return [];
			const changedAt = Math.max(Date.parse(draft.saved_at), Date.parse(record.changed_at));
			const { facts } = draftFacts(draft, record.library_id);
			return [{ ...tableRow(record, draft.person_id, facts), changedAt }];
		});
	};

	const putRow = (row: TableRow): void => {
		table.put(row);
		if (row.person !== null) drafters.set(row.id, (drafters.get(row.id) ?? new Set()).add(row.person));
	};

	/** Changes of the table one after the other: of two that read the same material, the later one has to be put last. */
	let turn: Promise<unknown> = Promise.resolve();
	const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
		const next = turn.then(work);
		turn = next.catch(() => undefined);
		return next;
	};

	const forget = (): void => {
		drafts.clear();
		parsed.clear();
		drafters.clear();
	};

	const loadAll = async (): Promise<void> => {
		await keeper?.begin();
		await loadBeside();
		own = await ownByLibrary(db);
		forget();
		table.clear();
		const count = await db.one<{ n: number }>("SELECT COUNT(*) AS n FROM material WHERE removed_at IS NULL");
		table.beginLoad(count?.n ?? 0);
		for (let after = 0; ; ) {
			const page = await factsPage(db, FACTS_VERSION, after, PAGE);
			const facts = await factsFor(page);
			for (const [i, record] of page.entries()) putRow(tableRow(record, null, facts[i] as TableFacts));
			if (page.length < PAGE) break;
			after = page.at(-1)?.at ?? after;
		}
		for (const row of await draftRows(await allDrafts(db))) putRow(row);
		table.endLoad();
	};

	const refreshSome = async (ids: readonly string[]): Promise<void> => {
		const records = await factsByIds(db, FACTS_VERSION, ids);
		const facts = await factsFor(records);
		const rows = records.map((record, i) => tableRow(record, null, facts[i] as TableFacts));
		rows.push(...(await draftRows(await draftsOn(db, ids))));
		// from here on nothing is waited for: whoever asks finds them as they were or as they are
		table.beginLoad(0);
		for (const id of ids) {
			table.remove(id, null);
			for (const person of drafters.get(id) ?? []) table.remove(id, person);
			drafters.delete(id);
		}
		for (const row of rows) putRow(row);
		table.endLoad();
	};

	const refreshAll = async (ids: readonly string[]): Promise<void> => {
		await loadBeside();
		for (let from = 0; from < ids.length; from += PAGE) await refreshSome(ids.slice(from, from + PAGE));
	};

	const idsWhere = async (condition: string, values: Record<string, string>): Promise<readonly string[]> =>
		(await db.all<{ id: string }>(`SELECT id FROM material WHERE removed_at IS NULL AND ${condition}`, values)).map((m) => m.id);

	/** What rows are made with, and the table. */
	let beside: Promise<void> = Promise.resolve();
	let ready: Promise<void> = Promise.resolve();

	const finding: Finding = {
		start() {
			beside = loadBeside().then(async () => {
				own = await ownByLibrary(db);
			});
			ready = inTurn(async () => {
				await beside;
				const kept = (await keeper?.take()) ?? null;
				if (kept === null) return loadAll();
				forget();
				table.restore(kept.table);
				for (const { id, person } of table.drafts()) drafters.set(id, (drafters.get(id) ?? new Set()).add(person));
				await refreshAll(kept.changed);
			});
			return ready;
		},
		load: () => inTurn(loadAll),
		keep: (changes) =>
			inTurn(async () => {
				const behind = await keeper?.behind();
				if (behind === undefined || (behind !== null && behind <= changes)) return;
				await keeper?.keep(table, refreshAll);
			}),
		async warm(until) {
			while (!until.aborted && table.readSomeNames(WARM)) await new Promise(setImmediate);
		},
		reloadLibrary: (id) =>
			inTurn(async () => {
				own = await ownByLibrary(db);
				drafts.clear();
				parsed.clear();
				await refreshAll(await idsWhere("library_id = $id", { id }));
			}),
		reloadGroups: () =>
			inTurn(async () => {
				const before = new Map([...groups.keys()].map((id) => [id, groupPath(id, groups)]));
				await loadBeside();
				// only what stands under another path than before
				const moved = [...new Set([...before.keys(), ...groups.keys()])].filter((id) => before.get(id) !== groupPath(id, groups));
				await refreshAll(await idsWhere("group_id IN (SELECT value FROM json_each($moved))", { moved: JSON.stringify(moved) }));
			}),
		refresh: (ids) => inTurn(() => refreshAll(ids)),
		async find(query, seer) {
			await ready;
			const [stars, libraries] = await Promise.all([starsOf(db, seer.person), libraryNames(db)]);
			const answer = inStarOrder(table, table.find(tableQuery(query, new Set(stars.keys()), true), seer), query.sort, stars);
			const ids = [...answer.hits.subarray(query.offset, query.offset + query.limit)].map((row) => table.idOf(row));
			return {
				total: answer.hits.length,
				all: answer.all,
				version: `${run}.${table.version}`,
				rows: slim(await finding.rows(ids, seer), query.values),
				groups: query.sort === "group" ? groupRuns(table, answer) : [],
				facets: facetsOf(answer, libraries),
				starred: table.countIds(answer.hits, new Set(stars.keys())),
				reviewPassed: table.countOverdue(answer.hits, query.today),
			};
		},
		async columns(query, properties, seer) {
			await ready;
			const tag = `${run}.${table.version}`;
			const asked = tableQuery(query, query.starred ? new Set((await starsOf(db, seer.person)).keys()) : new Set(), false);
			return { tag, bytes: () => packColumns(table, table.find(asked, seer).hits, properties) };
		},
		async rows(ids, seer) {
			await beside;
			const [found, drafted] = await Promise.all([materialsByIds(db, ids, seer.person), draftsOf(db, ids, seer.person)]);
			const records = new Map(found.map((r) => [r.id, r]));
			const mine = new Map(drafted.map((d) => [d.material_id, d]));
			return ids.flatMap((id) => {
				const record = records.get(id);
				if (record === undefined || !seer.libraries.has(record.library_id)) return [];
				const draft = mine.get(id) ?? null;
				// a material never published is seen by its author only
				if (record.bytes === null && draft === null) return [];
				const { bytes, revision_id } = record;
				const published = bytes === null || revision_id === null ? null : parsed.read(revision_id, bytes, record.readiness);
				const facts = draft === null ? null : draftFacts(draft, record.library_id);
				return [materialRow(record, draft, groups, facts, published, own)];
			});
		},
		async alike(seed, seer) {
			await ready;
			const family = table.familyCode(withAbove(seed.material.family, "."));
			const found = alikeTo(table.alikeRows(seer), { words: wordsOfName(seed.name), family, numbers: seed.numbers });
			// by name first: there may be many of one family with a few numbers in common
			return [...found.filter((f) => f.byName), ...found.filter((f) => !f.byName)]
				.slice(0, MOST_ALIKE)
				.map((f) => table.idOf(f.row));
		},
		async duplicates(library, seer) {
			await ready;
			const mine = (row: number): boolean => table.libraryOf(row) === library;
			const work = alikePairs(table.alikeRows(seer), mine);
			let step = work.next();
			// others are answered in between; a row that changes meanwhile is judged by its document in the end
			for (; step.done !== true; step = work.next()) await new Promise(setImmediate);
			const { pairs, complete } = step.value;
			return {
				complete,
				pairs: pairs.map(({ a, b }) => (mine(a) ? [table.idOf(a), table.idOf(b)] : [table.idOf(b), table.idOf(a)])),
			};
		},
		async search(text, most, seer) {
			await ready;
			const ranked = table.search(text, most, seer);
			const rows = await finding.rows(
				ranked.map((r) => table.idOf(r.row)),
				seer,
			);
			const rankOf = new Map(ranked.map((r) => [table.idOf(r.row), r.rank]));
			return rows.map((row) => ({ row, rank: rankOf.get(row.id) as number }));
		},
	};
	return finding;
}

function tableQuery(query: FindQuery, stars: ReadonlySet<string>, counts: boolean): TableQuery {
	const only = query.starred ? { only: stars } : {};
	return {
		spans: query.where,
		facets: query.facets,
		text: query.text,
		...only,
		...(query.reviewPassed ? { reviewBefore: query.today } : {}),
		sort: query.sort === "star" ? "name" : query.sort,
		descending: query.descending,
		counts,
	};
}

/** A person's stars with the order that they gave them. */
async function starsOf(sql: Sql, person: string): Promise<ReadonlyMap<string, number>> {
	const rows = await sql.all<{ material_id: string; ord: number }>(
		"SELECT material_id, ord FROM star WHERE person_id = $person",
		{
			person,
		},
	);
	return new Map(rows.map((r) => [r.material_id, r.ord]));
}

/** Sorted by the asker's own order of stars, which the table does not know; what has no star comes last. */
function inStarOrder(table: MaterialTable, answer: TableAnswer, sort: string, stars: ReadonlyMap<string, number>): TableAnswer {
	if (sort !== "star") return answer;
	const place = (row: number): number => stars.get(table.idOf(row)) ?? Number.POSITIVE_INFINITY;
	return { ...answer, hits: answer.hits.slice().sort((a, b) => place(a) - place(b) || a - b) };
}

async function ownByLibrary(sql: Sql): Promise<ReadonlyMap<string, readonly OwnProperty[]>> {
	const rows = await sql.all<{ library_id: string; content: string }>(
		"SELECT library_id, content FROM own_property ORDER BY uid",
	);
	const all = new Map<string, OwnProperty[]>();
	for (const row of rows) all.set(row.library_id, [...(all.get(row.library_id) ?? []), JSON.parse(row.content) as OwnProperty]);
	return all;
}

function materialRow(
	record: ListedRecord,
	draft: DraftRecord | null,
	groups: ReadonlyMap<string, GroupRecord>,
	drafted: { document: Material; facts: Facts } | null,
	published: Parsed | null,
	own: ReadonlyMap<string, readonly OwnProperty[]>,
): MaterialRow {
	const document = drafted?.document ?? (published as Parsed).document;
	return {
		id: record.id,
		name: record.name,
		libraryId: record.library_id,
		library: record.library,
		supplied: record.kind === "supplied",
		group: groupPath(record.group_id, groups),
		itemCode: record.item_code,
		shopName: record.shop_name,
		knownAs: readLinks(record.known_as),
		revision: record.revision_no ?? 0,
		revisionId: record.revision_id,
		draftId: draft?.id ?? null,
		draftVersion: draft?.version ?? 0,
		changedAt: draft !== null && draft.saved_at > record.changed_at ? draft.saved_at : record.changed_at,
		starred: record.star !== null,
		working: record.working === 1,
		retired:
			record.retired === 0
				? null
				: { successor: record.successor_id === null ? null : { id: record.successor_id, name: record.successor ?? "" } },
		publishedDensity: published === null ? null : densityOf(published.document),
		document,
		// without facts (they are being made) it is worked out here
		readiness: drafted?.facts.readiness ?? published?.readiness ?? factsOf(document, own.get(record.library_id)).readiness,
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
