import type { Material, Readiness } from "@alvek/core/material";
import { FACTS_VERSION, type Facts, factsOf, MaterialTable, type TableFacts, type TableRow } from "@alvek/core/table";
import { LRUCache } from "lru-cache";
import { type Db, type Report, reportToConsole } from "../db";
import {
	allDrafts,
	countMaterials,
	type DraftRecord,
	documentsOf,
	draftDocument,
	draftsOn,
	type FactsRecord,
	factsByIds,
	factsPage,
	groupPath,
	imageRecord,
	listedMaterials,
	markedSince,
	NOTHING_OWN,
	newestMark,
	ownStamp,
	parseDocument,
	readLinks,
	storeFacts,
} from "../repo";
import { BESIDE, BesideRows } from "./beside";
import type { IndexSnapshot } from "./snapshot";

/** What a revision's bytes say. */
export type Parsed = { readonly document: Material; readonly readiness: readonly Readiness[] | null };

/** Bytes of documents whose parsed form is kept. */
const PARSED_BYTES = 32 * 1024 * 1024;
const PAGE = 5000;
/** With more changes than this at once, reading everything anew is quicker. */
const MOST_PATCHED = 20_000;
/** Names whose words are read before others are answered. */
const WARM = 500;

/**
 * The table of materials in memory. It is told of nothing: triggers note every change in `index_mark`, in the transaction
 * of the change itself, and the index reads the notes after each commit. So a write never fails or waits for it.
 */
export class MaterialIndex {
	readonly table = new MaterialTable();
	private readonly beside: BesideRows;
	private readonly parsed = new LRUCache<string, Parsed>({ maxSize: PARSED_BYTES, maxEntrySize: PARSED_BYTES / 8 });
	/** Drafts are applied once per version. */
	private readonly drafts = new Map<string, { version: number; document: Material; facts: Facts }>();
	/** Whose drafts of a material stand in the table. */
	private readonly drafters = new Map<string, Set<string>>();
	/** The table knows of all changes up to this note. */
	private seen = 0;
	/** Something was committed since the notes were read. */
	private stale = false;
	/** The notes are being read. */
	private reading = false;
	private ownStamp = "";
	/** Changes of the table one after the other: of two that read the same material, the later one has to be put last. */
	private turn: Promise<unknown> = Promise.resolve();
	private started: Promise<void> = Promise.resolve();
	private readonly stop: () => void;
	/** Facts that were made and are not kept yet: whoever looks for materials does not wait in the queue of writers. */
	private readonly unstored = new Map<string, { readonly facts: Facts; readonly stamp: string }>();
	private storing: Promise<void> = Promise.resolve();

	/** @param snapshot where the table is kept between two runs; null: nowhere */
	constructor(
		private readonly db: Db,
		private readonly snapshot: IndexSnapshot | null,
		private readonly report: Report = reportToConsole,
	) {
		this.beside = new BesideRows(db);
		this.stop = db.onCommit((tables) => {
			if (BESIDE.some((table) => tables.has(table))) this.beside.touch();
			// what was made from documents says nothing new
			if (this.stale || (tables.size === 1 && tables.has("facts"))) return;
			this.stale = true;
			this.inTurn(() => this.catchUp()).catch((cause) => this.report("the index could not be brought up to date", cause));
		});
	}

	/**
	 * Stands on the kept table where there is one, and reads everything otherwise. Nobody has to wait for it: rows by id are
	 * there at once, and whoever looks for materials meanwhile is answered when it is done.
	 */
	start(): Promise<void> {
		this.started = this.inTurn(async () => {
			const kept = (await this.snapshot?.take()) ?? null;
			if (kept === null) return this.loadAll();
			await this.besideNow();
			this.forget();
			this.table.restore(kept.table);
			for (const { id, person } of this.table.drafts()) this.drafter(id, person);
			this.seen = kept.seq;
			await this.patch();
		});
		return this.started;
	}

	/** Reads everything anew; facts are made again where they are missing or of another version. */
	load(): Promise<void> {
		return this.inTurn(() => this.loadAll());
	}

	/** The table stands, and knows of everything that was committed before this was asked. */
	async ready(): Promise<void> {
		await this.started;
		// still failing: what can be found is found, and it was reported
		if (this.stale || this.reading) await this.inTurn(() => this.catchUp()).catch(() => undefined);
	}

	/** Groups and own properties as they are now, for rows that are read by id. */
	async besideNow() {
		const beside = await this.beside.current();
		if (beside.ownStamp !== this.ownStamp) {
			// what materials are ready for goes with them
			this.ownStamp = beside.ownStamp;
			this.drafts.clear();
			this.parsed.clear();
		}
		return beside;
	}

	/** Keeps the table for the next start, when more than so many materials changed since it was kept. */
	keep(changes: number): Promise<void> {
		return this.inTurn(async () => {
			const behind = await this.snapshot?.behind();
			if (behind === undefined || (behind !== null && behind <= changes)) return;
			await this.patch();
			await this.snapshot?.keep(this.table, this.seen);
		});
	}

	/** Makes ready, bit by bit, what the first search that is off by a letter would have to wait for. */
	async warm(until: AbortSignal): Promise<void> {
		while (!until.aborted && this.table.readSomeNames(WARM)) await new Promise(setImmediate);
	}

	/** Listens no more; what has begun is finished. */
	async close(): Promise<void> {
		this.stop();
		await this.turn;
		await this.storing;
	}

	/** A revision, parsed once. @param readiness as stored with the facts, JSON; null where they are not made yet */
	read(revision: string, bytes: Buffer, readiness: string | null): Parsed {
		const known = this.parsed.get(revision);
		if (known !== undefined) return known;
		const made: Parsed = {
			document: parseDocument(bytes),
			readiness: readiness === null ? null : (JSON.parse(readiness) as readonly Readiness[]),
		};
		if (readiness !== null) this.parsed.set(revision, made, { size: bytes.length + readiness.length });
		return made;
	}

	/** A draft applied to what it stands on, once per version. */
	draftFacts(draft: DraftRecord, library: string): { readonly document: Material; readonly facts: Facts } {
		const known = this.drafts.get(draft.id);
		if (known?.version === draft.version) return known;
		const document = draftDocument(draft);
		const { properties, uses } = this.beside.now().own.get(library) ?? NOTHING_OWN;
		const facts = factsOf(document, properties, uses);
		const made = { version: draft.version, document, facts };
		this.drafts.set(draft.id, made);
		return made;
	}

	private inTurn<T>(work: () => Promise<T>): Promise<T> {
		const next = this.turn.then(work);
		this.turn = next.catch(() => undefined);
		return next;
	}

	private async catchUp(): Promise<void> {
		if (!this.stale) return;
		// whatever is committed from here on makes it stale again
		this.stale = false;
		this.reading = true;
		try {
			await this.patch();
		} catch (cause) {
			this.stale = true;
			throw cause;
		} finally {
			this.reading = false;
		}
	}

	/** Reads anew what was noted since. */
	private async patch(): Promise<void> {
		// whoever looks for materials waits for this: what does not depend on one another is asked at once
		const [image, { ids, newest }] = await Promise.all([imageRecord(this.db), markedSince(this.db, this.seen)]);
		// somebody else kept an image and took notes away that were not read here
		if ((image?.seq ?? 0) > this.seen || ids.length > MOST_PATCHED) return this.loadAll();
		for (let from = 0; from < ids.length; from += PAGE) await this.patchSome(ids.slice(from, from + PAGE));
		this.seen = Math.max(this.seen, newest);
	}

	private async patchSome(ids: readonly string[]): Promise<void> {
		// after the notes: what is changed from here on is noted again, with its rows to be made from newer groups
		const [records, drafts] = await Promise.all([
			factsByIds(this.db, FACTS_VERSION, ids),
			draftsOn(this.db, ids),
			this.besideNow(),
		]);
		const [facts, draftRows] = await Promise.all([this.factsFor(records), this.draftRows(drafts)]);
		const rows = records.map((record, i) => this.tableRow(record, null, facts[i] as TableFacts));
		rows.push(...draftRows);
		// from here on nothing is waited for: whoever asks finds them as they were or as they are
		this.table.beginLoad(0);
		for (const id of ids) {
			this.table.remove(id, null);
			for (const person of this.drafters.get(id) ?? []) this.table.remove(id, person);
			this.drafters.delete(id);
		}
		for (const row of rows) this.putRow(row);
		this.table.endLoad();
	}

	private async loadAll(): Promise<void> {
		const newest = await newestMark(this.db);
		await this.besideNow();
		this.forget();
		this.table.clear();
		this.table.beginLoad(await countMaterials(this.db));
		for (let after = ""; ; ) {
			const page = await factsPage(this.db, FACTS_VERSION, after, PAGE);
			const facts = await this.factsFor(page);
			for (const [i, record] of page.entries()) this.putRow(this.tableRow(record, null, facts[i] as TableFacts));
			// of a whole library no more than a page of them waits in memory
			await this.storing;
			if (page.length < PAGE) break;
			after = page.at(-1)?.id ?? after;
		}
		for (const row of await this.draftRows(await allDrafts(this.db))) this.putRow(row);
		this.table.endLoad();
		this.seen = newest;
	}

	private forget(): void {
		this.drafts.clear();
		this.parsed.clear();
		this.drafters.clear();
	}

	/** Facts of these records; the missing ones are made from their documents and kept. */
	private async factsFor(records: readonly FactsRecord[]): Promise<readonly TableFacts[]> {
		const missing = records.filter((r) => r.facts === null);
		const made = new Map<string, Facts>();
		if (missing.length > 0) {
			const documents = await documentsOf(
				this.db,
				missing.map((r) => r.revision_id),
			);
			const { own, ownStamp: stamp } = this.beside.now();
			for (const { revision_id, library_id } of missing) {
				const { properties, uses } = own.get(library_id) ?? NOTHING_OWN;
				made.set(revision_id, factsOf(documents.get(revision_id) as Material, properties, uses));
			}
			for (const [revision, facts] of made) this.unstored.set(revision, { facts, stamp });
			this.storing = this.storing.then(() => this.storeMade());
		}
		return records.map((r) => made.get(r.revision_id) ?? (JSON.parse((r.facts as Buffer).toString("utf8")) as TableFacts));
	}

	/** Facts that were made since are kept, but for those whose own properties changed meanwhile: they are made anew. */
	private async storeMade(): Promise<void> {
		if (this.unstored.size === 0) return;
		try {
			await this.db.transaction(async (sql) => {
				const some = [...this.unstored];
				this.unstored.clear();
				const now = await ownStamp(sql);
				const valid = some.filter(([, { stamp }]) => stamp === now).map(([revision, { facts }]) => [revision, facts] as const);
				if (valid.length > 0) await storeFacts(sql, FACTS_VERSION, new Map(valid));
				return { commit: true, value: null };
			});
		} catch (cause) {
			// without them the next reading only takes longer
			this.report("facts of materials could not be kept", cause);
		}
	}

	private tableRow(record: Omit<FactsRecord, "revision_id" | "facts">, person: string | null, facts: TableFacts): TableRow {
		const { groups, working } = this.beside.now();
		return {
			id: record.id,
			person,
			name: record.name,
			library: record.library_id,
			group: groupPath(record.group_id, groups),
			codes: [record.item_code, record.shop_name, ...readLinks(record.known_as).map((l) => l.name)].join("\n"),
			itemCode: record.item_code ?? "",
			offeredFor: JSON.parse(record.offered_for) as string[],
			marks: [...(working.has(record.id) ? ["working"] : []), ...(record.retired === 1 ? ["retired"] : [])],
			changedAt: Date.parse(record.changed_at),
			review: record.review_at,
			facts,
		};
	}

	private async draftRows(records: readonly DraftRecord[]): Promise<readonly TableRow[]> {
		if (records.length === 0) return [];
		const materials = await listedMaterials(this.db, [...new Set(records.map((d) => d.material_id))], "");
		const byId = new Map(materials.map((m) => [m.id, m]));
		return records.flatMap((draft) => {
			const record = byId.get(draft.material_id);
			if (record === undefined) return [];
			const changedAt = Math.max(Date.parse(draft.saved_at), Date.parse(record.changed_at));
			const { facts } = this.draftFacts(draft, record.library_id);
			return [{ ...this.tableRow(record, draft.person_id, facts), changedAt }];
		});
	}

	private putRow(row: TableRow): void {
		this.table.put(row);
		if (row.person !== null) this.drafter(row.id, row.person);
	}

	private drafter(id: string, person: string): void {
		this.drafters.set(id, (this.drafters.get(id) ?? new Set()).add(person));
	}
}
