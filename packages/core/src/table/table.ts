import type { EvidenceWord, Where } from "../material";
import { MOST_SPANS, wordsOfName } from "../material";
import type { AlikeRows } from "./alike";
import { blankFacets, countFacets, failFacets, failRetired } from "./facets";
import { withAbove } from "./facts";
import { FACETS } from "./filter.data";
import type { Numbers, StoredTable, TableImage } from "./image";
import { NameIndex, type RankedRow } from "./nameindex";
import { NameOrder, sortedBy, sortedByPath, sortedByPrice, sortedByWords } from "./order";
import type { TableAnswer, TableQuery, TableRow, Viewer } from "./query";
import { RowStore } from "./rows";
import { SetColumn } from "./sets";
import { failOutside, type Spans, withEvidence } from "./spans";
import { SpanStore } from "./spanstore";

/** In the mask of what a viewer does not see. */
const HIDDEN = 1;
/** Rows that stand in for a text that nothing says. */
const MOST_NEAR = 100;

/**
 * Materials as columns: every question about many of them is one pass over a few typed arrays. Rows are put, replaced
 * and taken away one by one; what depends on all rows is made when first asked for after a change.
 */
export class MaterialTable {
	/** Grows with every change; what was made for another version is out of date. */
	version = 0;
	private capacity = 0;
	private rows = new RowStore();
	/** Split when first asked for. */
	private nameWords: (readonly string[] | undefined)[] = [];
	private index = new NameIndex();
	private changed: Float64Array = new Float64Array(0);
	private spans = new SpanStore();
	private facets = blankFacets();
	private order = this.blankOrder();
	private readonly cache = new Map<string, { version: number; value: unknown }>();

	/** Takes in many rows at once. */
	load(rows: Iterable<TableRow>): void {
		this.beginLoad(0);
		for (const row of rows) this.put(row);
		this.endLoad();
	}

	/** Many rows are about to be put; their names are sorted once, at the end. Nothing may be asked in between. */
	beginLoad(expected: number): void {
		// room for new ones too, so that the next put need not move everything
		if (expected > this.capacity) this.grow(Math.ceil(expected * 1.25));
		this.order.pause();
	}

	endLoad(): void {
		this.order.resume();
	}

	/** Puts a row, in place of the one of the same material and person. */
	put(row: TableRow): void {
		this.remove(row.id, row.person);
		const at = this.rows.add(row);
		if (at >= this.capacity) this.grow(Math.max(64, this.capacity * 2));
		this.nameWords[at] = undefined;
		this.index.put(at, [row.name, row.codes, row.facts.files].filter((t) => t !== "").join("\n"));
		this.changed[at] = row.changedAt;
		const { facts } = row;
		this.facets.library.put(at, [row.library]);
		this.facets.group.put(at, withAbove(row.group, " / "));
		this.facets.family.put(at, facts.family);
		this.facets.supplier.put(at, facts.supplier);
		this.facets.ready.put(at, facts.ready);
		this.facets.carries.put(at, facts.carries);
		this.facets.evidence.put(at, facts.evidence);
		this.facets.basis.put(at, facts.basis);
		this.facets.offered.put(at, row.offeredFor);
		this.facets.marks.put(at, row.marks);
		this.facets.open.put(at, row.person === null ? facts.open : [...facts.open, "draft"]);
		this.spans.put(at, facts.spans, this.capacity);
		this.order.add(at);
		this.version++;
	}

	/** Takes a row away; nothing happens when there is none. */
	remove(id: string, person: string | null): void {
		const at = this.rows.slotOf(id, person);
		if (at === undefined) return;
		this.order.remove(at);
		this.rows.remove(at);
		this.index.remove(at);
		this.spans.remove(at);
		this.version++;
	}

	clear(): void {
		this.capacity = 0;
		this.rows = new RowStore();
		this.nameWords = [];
		this.index = new NameIndex();
		this.changed = new Float64Array(0);
		this.spans = new SpanStore();
		this.facets = blankFacets();
		this.order = this.blankOrder();
		this.version++;
	}

	private blankOrder(): NameOrder {
		return new NameOrder((row) => [this.rows.names[row], this.rows.ids[row]]);
	}

	/** Rows that are drafts of somebody. */
	drafts(): ReturnType<RowStore["drafts"]> {
		return this.rows.drafts();
	}

	/** Reads the words of some names ahead of the first search that is off by a letter; whether any are left. */
	readSomeNames(most: number): boolean {
		return this.index.readSome(most);
	}

	idOf(row: number): string {
		return this.rows.ids[row];
	}

	nameOf(row: number): string {
		return this.rows.names[row];
	}

	groupOf(row: number): string {
		return this.facets.group.sets[this.facets.group.codes[row]].at(-1) ?? "";
	}

	/** The column of a property, perhaps only its values of some evidence; undefined when no row has it. */
	spansOf(property: string, evidence?: readonly EvidenceWord[]): Spans | undefined {
		const spans = this.spans.get(property);
		if (spans === undefined || evidence === undefined) return spans;
		return this.cached(`evidence ${property} ${evidence.join(" ")}`, () => withEvidence(spans, evidence));
	}

	/** What the viewer does not see, one byte a row: 0 seen, 1 hidden. A mask of its own, which no count touches. */
	private hiddenFrom(viewer: Viewer): { readonly bytes: Uint8Array; readonly count: number } {
		return this.cached(`hidden ${viewer.person} ${[...viewer.libraries].sort().join(" ")}`, () => {
			const bytes = new Uint8Array(this.capacity).fill(HIDDEN);
			const readable = this.facets.library.passing([...viewer.libraries], false);
			const drafted = new Set(this.rows.drafts().flatMap((d) => (d.person === viewer.person ? [d.id] : [])));
			let count = 0;
			for (let i = 0; i < this.rows.size; i++) {
				const person = this.rows.persons[i];
				if (readable[this.facets.library.codes[i]] === 0 || (person !== "" && person !== viewer.person)) continue;
				// my own draft stands in place of what is published
				if (person === "" && drafted.has(this.rows.ids[i])) continue;
				bytes[i] = 0;
				count++;
			}
			return { bytes, count };
		});
	}

	find(query: TableQuery, viewer: Viewer): TableAnswer {
		const { size } = this.rows;
		const { bytes: hidden, count } = this.hiddenFrom(viewer);
		if (query.spans.length > MOST_SPANS)
			throw new Error(`a question of ${query.spans.length} spans; at most ${MOST_SPANS} are counted`);
		/** Tests that a row fails, one byte each: MOST_SPANS and the facets and texts are far below 256. */
		const fails = new Uint8Array(this.capacity);
		/** 1 + the facet that a row failed last; what matters only where it is the one test failed. */
		const which = new Uint8Array(this.capacity);
		for (const where of query.spans) this.failSpan(where, fails);
		const rows = { size, fails, which, hidden };
		failFacets(this.facets, query, rows);
		const retired = failRetired(this.facets, query, rows);
		const near = this.failTexts(query, fails, hidden);
		this.failOthers(query, fails);
		const passing = this.orderFor(query.sort, query.descending);
		const hits = new Int32Array(passing.length);
		let found = 0;
		for (let k = 0; k < passing.length; k++) {
			const row = passing[k];
			hits[found] = row;
			found += (fails[row] | hidden[row]) === 0 ? 1 : 0;
		}
		const answer = hits.subarray(0, found);
		return {
			all: count - retired,
			near,
			hits: answer,
			counts: query.counts ? countFacets(this.facets, query, { size, hits: answer, fails, which, hidden }) : {},
		};
	}

	/** How many of some rows bear one of these ids. */
	countIds(rows: Int32Array, ids: ReadonlySet<string>): number {
		if (ids.size === 0) return 0;
		let count = 0;
		for (const row of rows) count += +ids.has(this.rows.ids[row]);
		return count;
	}

	/** How many of some rows had to be reviewed before this day. */
	countOverdue(rows: Int32Array, before: string): number {
		let count = 0;
		for (const row of rows) {
			const review = this.rows.reviews[row];
			count += +(review !== "" && review < before);
		}
		return count;
	}

	/** The rows that the viewer sees whose names or codes answer best, exact ones first. */
	search(text: string, most: number, viewer: Viewer): readonly RankedRow[] {
		const { bytes } = this.hiddenFrom(viewer);
		return this.index.search(text, (row) => bytes[row] === 0, most);
	}

	/** What finding look-alikes needs of the rows that the viewer sees and that are in use. */
	alikeRows(viewer: Viewer): AlikeRows {
		const { bytes } = this.hiddenFrom(viewer);
		const { codes, sets } = this.facets.marks;
		const retired = sets.map((words) => words.includes("retired"));
		const rows: number[] = [];
		for (let i = 0; i < this.rows.size; i++) if (bytes[i] === 0 && !this.rows.isFree(i) && !retired[codes[i]]) rows.push(i);
		return {
			rows: Int32Array.from(rows),
			words: (row) => this.nameWordsOf(row),
			family: (row) => this.facets.family.codes[row],
			columns: this.spans.working(),
		};
	}

	private nameWordsOf(row: number): readonly string[] {
		const known = this.nameWords[row];
		if (known !== undefined) return known;
		const words = wordsOfName(this.rows.names[row]);
		this.nameWords[row] = words;
		return words;
	}

	/** The number of a family, as rows bear it; 0: none. */
	familyCode(family: readonly string[]): number {
		return family.length === 0 ? 0 : this.facets.family.codeOf(family);
	}

	libraryOf(row: number): string {
		return this.facets.library.sets[this.facets.library.codes[row]][0] ?? "";
	}

	private failSpan({ property, low, high, reach, evidence }: Where, fails: Uint8Array): void {
		const spans = this.spansOf(property, evidence);
		const [from, to] = [low ?? Number.NEGATIVE_INFINITY, high ?? Number.POSITIVE_INFINITY];
		if (spans !== undefined) failOutside(spans, this.rows.size, from, to, fails, reach);
		else for (let i = 0; i < this.rows.size; i++) fails[i] += 1;
	}

	/** @returns whether names a few slips away stand in for the text, because nothing that is seen says it */
	private failTexts({ text, forgiving }: TableQuery, fails: Uint8Array, hidden: Uint8Array): boolean {
		const misses = this.textMisses(text);
		if (misses === null) return false;
		let said = false;
		for (let i = 0; i < this.rows.size; i++) {
			fails[i] += misses[i];
			said ||= (misses[i] | hidden[i]) === 0;
		}
		if (said || forgiving !== true) return false;
		const near = this.index.search(text, (row) => hidden[row] === 0, MOST_NEAR);
		for (const { row } of near) fails[row] -= 1;
		return near.length > 0;
	}

	private failOthers(query: TableQuery, fails: Uint8Array): void {
		if (query.only !== undefined) for (let i = 0; i < this.rows.size; i++) fails[i] += query.only.has(this.rows.ids[i]) ? 0 : 1;
		if (query.reviewBefore !== undefined) {
			const { reviewBefore } = query;
			for (let i = 0; i < this.rows.size; i++) {
				const review = this.rows.reviews[i];
				fails[i] += review !== "" && review < reviewBefore ? 0 : 1;
			}
		}
	}

	/** One byte a row, 1 where the text is not found; null for no text. Kept until the table or the text changes. */
	textMisses(text: string): Uint8Array | null {
		const pieces = text
			.toLowerCase()
			.split(/\s+/)
			.filter((p) => p !== "");
		if (pieces.length === 0) return null;
		return this.cached(`text ${pieces.join(" ")}`, () => {
			const misses = new Uint8Array(this.capacity);
			const texts = this.rows.texts.all();
			for (let i = 0; i < this.rows.size; i++) misses[i] = pieces.every((p) => texts[i]?.includes(p)) ? 0 : 1;
			return misses;
		});
	}

	/** All rows in an order. Blanks stand last whichever way a property is sorted; equals stand by name. */
	private orderFor(sort: string, descending: boolean): Int32Array {
		return this.cached(`order ${sort} ${descending}`, () => {
			const byName = this.order.rows();
			if (sort === "name") return descending ? byName.slice().reverse() : byName;
			if (sort === "changed") return sortedBy(byName, this.changed, descending);
			if (sort === "group") {
				const { codes, sets } = this.facets.group;
				return sortedByPath(byName, { codes, paths: sets.map((s) => s.at(-1) ?? "") }, descending);
			}
			if (sort === "price") return sortedByPrice(byName, this.spans.prices(), descending);
			const wordOf = this.wordsOf(sort);
			if (wordOf !== null) return sortedByWords(byName, wordOf, descending);
			// of a property that no row has all are blank
			const spans = this.spans.get(sort);
			return spans === undefined ? byName : sortedBy(byName, spans.working, descending);
		});
	}

	/** What a row says in a column of words; null for a column that is none. */
	private wordsOf(sort: string): ((row: number) => string) | null {
		if (sort === "code") return (row) => this.rows.itemCodes[row] ?? "";
		if (sort === "condition") return (row) => this.rows.conditions[row] ?? "";
		if (sort === "review") return (row) => this.rows.reviews[row] ?? "";
		const { codes, sets } = this.facets.supplier;
		return sort === "supplier" ? (row) => sets[codes[row]]?.[0] ?? "" : null;
	}

	private grow(capacity: number): void {
		this.capacity = capacity;
		const changed = new Float64Array(capacity);
		changed.set(this.changed);
		this.changed = changed;
		for (const column of Object.values(this.facets)) column.grow(capacity);
		this.spans.grow(capacity);
	}

	/** All that the table holds, as lists that it shares; nothing may change it until they are written. */
	image(): TableImage {
		const { size } = this.rows;
		// room for new ones too, so that the first put after taking it back need not move everything
		const room = Math.min(this.capacity, size + Math.max(64, size >> 4));
		const rows = this.rows.image();
		const numbers = new Map<string, Numbers>(rows.numbers);
		const strings = new Map<string, readonly string[]>(rows.strings);
		numbers.set("changed", this.changed.subarray(0, room));
		numbers.set("order", this.order.rows());
		strings.set("folded", this.index.image(size));
		for (const [id, column] of Object.entries(this.facets)) {
			numbers.set(`facet.${id}`, column.codes.subarray(0, room));
			strings.set(
				`facet.${id}`,
				column.sets.map((words) => JSON.stringify(words)),
			);
		}
		const spans = this.spans.image(room);
		strings.set("properties", spans.properties);
		for (const [name, column] of spans.numbers) numbers.set(name, column);
		return { numbers, strings };
	}

	/** Takes the place of all that the table held. The image's columns become the table's own. */
	restore(stored: StoredTable): void {
		this.clear();
		const column = <T extends Numbers>(name: string): T => stored.numbers.get(name) as T;
		this.rows = RowStore.from(stored);
		this.changed = column("changed");
		this.capacity = this.changed.length;
		this.index.restore(() => stored.strings("folded"), this.rows.size);
		for (const { id } of FACETS) {
			const sets = stored.strings(`facet.${id}`).map((words) => JSON.parse(words) as string[]);
			this.facets[id] = SetColumn.from(column(`facet.${id}`), sets);
		}
		this.spans = SpanStore.from(stored);
		this.order.restore(column("order"));
	}

	/** Something made from all rows, kept while the table stays as it is. A handful of the latest is enough. */
	private cached<T>(key: string, make: () => T): T {
		const known = this.cache.get(key);
		if (known?.version === this.version) return known.value as T;
		const value = make();
		this.cache.delete(key);
		this.cache.set(key, { version: this.version, value });
		if (this.cache.size > 24) this.cache.delete(this.cache.keys().next().value as string);
		return value;
	}
}
