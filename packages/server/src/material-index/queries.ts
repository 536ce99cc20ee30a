import { createHash } from "node:crypto";
import type { MaterialPage, MaterialRow } from "@alvek/contract";
import { densityOf, type Likened, type Material, type Where, wordsOfName } from "@alvek/core/material";
import {
	alikePairs,
	alikeTo,
	type FacetId,
	type Facts,
	factsOf,
	type MaterialTable,
	packColumns,
	type TableAnswer,
	type TableQuery,
	type Viewer,
	withAbove,
} from "@alvek/core/table";
import type { Db } from "../db";
import {
	type DraftRecord,
	draftsOf,
	type GroupRecord,
	groupPath,
	type ListedRecord,
	listedMaterials,
	NOTHING_OWN,
	type Own,
	placeNames,
	readLinks,
	starsOf,
} from "../repo";
import type { MaterialIndex, Parsed } from "./material-index";
import { facetsOf, groupRuns, pick } from "./page";

export type FindQuery = {
	readonly text: string;
	/** Where nothing says the text, near names stand in for it. */
	readonly forgiving: boolean;
	readonly facets: Readonly<Partial<Record<FacetId, readonly string[]>>>;
	/** Spans that some value has to overlap. */
	readonly where: readonly Where[];
	/** Only starred ones. */
	readonly starred: boolean;
	/** The day on which it is asked. */
	readonly today: string;
	/** Only those whose review date is before today. */
	readonly reviewPassed: boolean;
	/** What is retired is left out, unless the marks ask for it. */
	readonly inUse: boolean;
	readonly sort: string;
	readonly descending: boolean;
	readonly offset: number;
	readonly limit: number;
	/** Only these properties are needed in the documents of the rows; null: everything. */
	readonly values: readonly string[] | null;
};

/** The one way to find materials. Rights come in as the places that may be seen; drafts are the asker's own. */
export type MaterialQueries = {
	find(query: FindQuery, viewer: Viewer): Promise<MaterialPage>;
	/** Columns of the rows that pass, packed for the browser, and a tag that changes when they may. */
	columns(query: FindQuery, properties: readonly string[], viewer: Viewer): Promise<{ bytes: () => Uint8Array; tag: string }>;
	/** Rows by id, in the order asked for; what the viewer may not see is left out. */
	rows(ids: readonly string[], viewer: Viewer): Promise<readonly MaterialRow[]>;
	/** Materials that may be the same as this one, by name or by numbers; the rule itself is asked of their documents. */
	alike(seed: Likened, viewer: Viewer): Promise<readonly string[]>;
	/** Pairs that may be the same, one of each in this library, the most alike first; null when it was ended. */
	duplicates(
		library: string,
		viewer: Viewer,
		/** Told how far it is between 0 and 1; false ends it. */
		go?: (progress: number) => boolean,
	): Promise<{ readonly pairs: readonly (readonly [string, string])[]; readonly complete: boolean } | null>;
	/** Rows whose names or codes answer what was typed, the best first. */
	search(text: string, most: number, viewer: Viewer): Promise<readonly { readonly row: MaterialRow; readonly rank: number }[]>;
};

/** Look-alikes whose documents are read. */
const MOST_ALIKE = 200;

export function materialQueries(db: Db, index: MaterialIndex): MaterialQueries {
	const { table } = index;
	/** Tells two runs of the server apart, whose versions both begin at nothing. */
	const run = Date.now().toString(36);

	const queries: MaterialQueries = {
		async find(query, viewer) {
			await index.ready();
			const [stars, libraries] = await Promise.all([starsOf(db, viewer.person), placeNames(db)]);
			const answer = inStarOrder(table, table.find(tableQuery(query, new Set(stars.keys()), true), viewer), query.sort, stars);
			const ids = [...answer.hits.subarray(query.offset, query.offset + query.limit)].map((row) => table.idOf(row));
			return {
				total: answer.hits.length,
				all: answer.all,
				near: answer.near,
				version: `${run}.${table.version}`,
				rows: pick(await queries.rows(ids, viewer), query.values),
				groups: query.sort === "group" ? groupRuns(table, answer) : [],
				facets: facetsOf(answer, libraries),
				starred: table.countIds(answer.hits, new Set(stars.keys())),
				reviewPassed: table.countOverdue(answer.hits, query.today),
			};
		},
		async columns(query, properties, viewer) {
			await index.ready();
			const stars = query.starred ? new Set((await starsOf(db, viewer.person)).keys()) : new Set<string>();
			const asked = tableQuery(query, stars, false);
			// all that the answer depends on beside the address: the table, the day, and who asks with what they may see and starred
			const of = [viewer.person, [...viewer.libraries].sort(), [...stars].sort(), query.reviewPassed ? query.today : ""];
			const tag = `${run}.${table.version}.${createHash("sha256").update(JSON.stringify(of)).digest("hex").slice(0, 32)}`;
			const evidence = new Map(query.where.flatMap((w) => (w.evidence === undefined ? [] : [[w.property, w.evidence] as const])));
			return { tag, bytes: () => packColumns(table, table.find(asked, viewer).hits, properties, evidence) };
		},
		async rows(ids, viewer) {
			const { groups, own } = await index.besideNow();
			const [found, drafted] = await Promise.all([listedMaterials(db, ids, viewer.person), draftsOf(db, ids, viewer.person)]);
			const records = new Map(found.map((r) => [r.id, r]));
			const mine = new Map(drafted.map((d) => [d.material_id, d]));
			return ids.flatMap((id) => {
				const record = records.get(id);
				if (record === undefined || !viewer.libraries.has(record.library_id)) return [];
				const draft = mine.get(id) ?? null;
				// a material never published is seen by its author only
				if (record.bytes === null && draft === null) return [];
				const { bytes, revision_id } = record;
				const published = bytes === null || revision_id === null ? null : index.read(revision_id, bytes, record.readiness);
				const facts = draft === null ? null : index.draftFacts(draft, record.library_id);
				return [materialRow({ record, draft, drafted: facts, published }, { groups, own })];
			});
		},
		async alike(seed, viewer) {
			await index.ready();
			const family = table.familyCode(withAbove(seed.material.family, "."));
			const found = alikeTo(table.alikeRows(viewer), { words: wordsOfName(seed.name), family, numbers: seed.numbers });
			// by name first: there may be many of one family with a few numbers in common
			return [...found.filter((f) => f.byName), ...found.filter((f) => !f.byName)]
				.slice(0, MOST_ALIKE)
				.map((f) => table.idOf(f.row));
		},
		async duplicates(library, viewer, go = () => true) {
			await index.ready();
			const mine = (row: number): boolean => table.libraryOf(row) === library;
			if (!go(0)) return null;
			const work = alikePairs(table.alikeRows(viewer), mine);
			let step = work.next();
			// others are answered in between; a row that changes meanwhile is judged by its document in the end
			for (; step.done !== true; step = work.next()) {
				if (!go(step.value)) return null;
				await new Promise(setImmediate);
			}
			const { pairs, complete } = step.value;
			return {
				complete,
				pairs: pairs.map(({ a, b }) => (mine(a) ? [table.idOf(a), table.idOf(b)] : [table.idOf(b), table.idOf(a)])),
			};
		},
		async search(text, most, viewer) {
			await index.ready();
			const ranked = table.search(text, most, viewer);
			const rows = await queries.rows(
				ranked.map((r) => table.idOf(r.row)),
				viewer,
			);
			const rankOf = new Map(ranked.map((r) => [table.idOf(r.row), r.rank]));
			return rows.map((row) => ({ row, rank: rankOf.get(row.id) as number }));
		},
	};
	return queries;
}

function tableQuery(query: FindQuery, stars: ReadonlySet<string>, counts: boolean): TableQuery {
	const only = query.starred ? { only: stars } : {};
	return {
		spans: query.where,
		facets: query.facets,
		text: query.text,
		...(query.forgiving ? { forgiving: true } : {}),
		...only,
		...(query.reviewPassed ? { reviewBefore: query.today } : {}),
		...(query.inUse ? { inUse: true } : {}),
		sort: query.sort === "star" ? "name" : query.sort,
		descending: query.descending,
		counts,
	};
}

/** Sorted by the asker's own order of stars, which the table does not know; what has no star comes last. */
function inStarOrder(table: MaterialTable, answer: TableAnswer, sort: string, stars: ReadonlyMap<string, number>): TableAnswer {
	if (sort !== "star") return answer;
	const place = (row: number): number => stars.get(table.idOf(row)) ?? Number.POSITIVE_INFINITY;
	return { ...answer, hits: answer.hits.slice().sort((a, b) => place(a) - place(b) || a - b) };
}

/** A material as its reader sees it: with their own draft, and with what is published. */
type ShownRecord = {
	readonly record: ListedRecord;
	readonly draft: DraftRecord | null;
	readonly drafted: { readonly document: Material; readonly facts: Facts } | null;
	readonly published: Parsed | null;
};
type Beside = {
	readonly groups: ReadonlyMap<string, GroupRecord>;
	readonly own: ReadonlyMap<string, Own>;
};

function materialRow({ record, draft, drafted, published }: ShownRecord, { groups, own }: Beside): MaterialRow {
	const document = drafted?.document ?? (published as Parsed).document;
	const added = own.get(record.library_id) ?? NOTHING_OWN;
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
		reviewAt: record.review_at,
		offeredFor: JSON.parse(record.offered_for) as string[],
		starred: record.star !== null,
		working: record.working === 1,
		retired:
			record.retired === 0
				? null
				: { successor: record.successor_id === null ? null : { id: record.successor_id, name: record.successor ?? "" } },
		publishedDensity: published === null ? null : densityOf(published.document),
		document,
		// without facts (they are being made) it is worked out here
		readiness: drafted?.facts.readiness ?? published?.readiness ?? factsOf(document, added.properties, added.uses).readiness,
	};
}
