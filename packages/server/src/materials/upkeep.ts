import type { Material } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { FACTS_VERSION, type Facts, factsOf, MaterialTable, type TableFacts, type TableRow } from "@alvek/core/table";
import type { Db, Sql } from "../db/connection";
import type { Keeper } from "./keeper";
import { readLinks } from "./namelinks";
import { ParsedRevisions } from "./parsed";
import {
	allDrafts,
	allGroups,
	type DraftRecord,
	documentsOf,
	draftDocument,
	draftsOn,
	type FactsRecord,
	factsByIds,
	factsPage,
	type GroupRecord,
	materialsByIds,
	storeFacts,
} from "./store";

/** What keeps the table of materials as the database is. */
export type Upkeep = {
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
};

/** The table with what rows are made with. */
export type Maintained = Upkeep & {
	readonly table: MaterialTable;
	/** Parsed once per revision. */
	readonly parsed: ParsedRevisions;
	/** The table stands. */
	readonly ready: () => Promise<void>;
	/** Groups and own properties are there. */
	readonly beside: () => Promise<void>;
	readonly groups: () => ReadonlyMap<string, GroupRecord>;
	readonly own: () => ReadonlyMap<string, readonly OwnProperty[]>;
	/** A draft applied to what it stands on, once per version. */
	readonly draftFacts: (draft: DraftRecord, library: string) => { readonly document: Material; readonly facts: Facts };
};

const PAGE = 5000;
/** With more changes owed than this, everything is read anew. */
const MOST_OWED = 100;
/** Names whose words are read before others are answered. */
const WARM = 500;

/** @param keeper where the table is kept between two runs; null: nowhere */
export function maintainedTable(db: Db, keeper: Keeper | null): Maintained {
	const table = new MaterialTable();
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
		const made = { version: draft.version, document, facts: factsOf(document, own.get(library) ?? []) };
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
			made.set(record.revision_id, factsOf(document, own.get(record.library_id) ?? []));
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
	/** Changes that failed after they were stored; the table is behind by them until they are made good. */
	let owed: (() => Promise<void>)[] = [];
	const makeGood = async (): Promise<void> => {
		const work = owed.length > MOST_OWED ? [loadAll] : owed;
		owed = [];
		for (const [i, one] of work.entries()) {
			try {
				await one();
			} catch (cause) {
				owed.unshift(...work.slice(i));
				throw cause;
			}
		}
	};
	/** A change of the table after what is owed; one that fails is owed itself. */
	const change = (work: () => Promise<void>): Promise<void> =>
		inTurn(async () => {
			owed.push(work);
			await makeGood();
		});

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

	return {
		table,
		parsed,
		draftFacts,
		async ready() {
			await ready;
			// still failing: what can be found is found, and it was reported
			if (owed.length > 0) await inTurn(makeGood).catch(() => undefined);
		},
		beside: () => beside,
		groups: () => groups,
		own: () => own,
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
			change(async () => {
				own = await ownByLibrary(db);
				drafts.clear();
				parsed.clear();
				await refreshAll(await idsWhere("library_id = $id", { id }));
			}),
		reloadGroups: () => {
			let before: ReadonlyMap<string, string> | null = null;
			return change(async () => {
				before ??= new Map([...groups.keys()].map((id) => [id, groupPath(id, groups)]));
				await loadBeside();
				// only what stands under another path than before
				const was = before;
				const moved = [...new Set([...was.keys(), ...groups.keys()])].filter((id) => was.get(id) !== groupPath(id, groups));
				await refreshAll(await idsWhere("group_id IN (SELECT value FROM json_each($moved))", { moved: JSON.stringify(moved) }));
			});
		},
		refresh: (ids) => change(() => refreshAll(ids)),
	};
}

async function ownByLibrary(sql: Sql): Promise<ReadonlyMap<string, readonly OwnProperty[]>> {
	const rows = await sql.all<{ library_id: string; content: string }>(
		"SELECT library_id, content FROM own_property ORDER BY uid",
	);
	const all = new Map<string, OwnProperty[]>();
	for (const row of rows) all.set(row.library_id, [...(all.get(row.library_id) ?? []), JSON.parse(row.content) as OwnProperty]);
	return all;
}

export function groupPath(id: string | null, groups: ReadonlyMap<string, GroupRecord>): string {
	const names: string[] = [];
	// groups that were stored as a loop end where it begins again
	const seen = new Set<string>();
	for (
		let at = id === null ? undefined : groups.get(id);
		at !== undefined && !seen.has(at.id);
		at = at.parent_id === null ? undefined : groups.get(at.parent_id)
	) {
		seen.add(at.id);
		names.unshift(at.name);
	}
	return names.join(" / ");
}
