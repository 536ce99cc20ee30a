import { PRICE } from "../material";
import type { TableFacts } from "./facts";
import type { Numbers, StoredTable } from "./image";
import { blankSpans, extrasOf, type Further, grownSpans, type JudgedSpans, NO_EVIDENCE, setExtras } from "./spans";

const PARTS = [
	"low",
	"high",
	"working",
	"evidence",
	"extraEvidence",
	"extraRow",
	"extraLow",
	"extraHigh",
	"extraWorking",
] as const;
/** Those that have a place for every row. */
const BY_ROW: readonly string[] = PARTS.slice(0, 4);

/** The columns of all properties that some row has. */
export class SpanStore {
	private readonly columns = new Map<string, JudgedSpans>();
	/** Values of a property beside the first; laid out anew when next asked for. */
	private readonly further = new Map<string, Further>();
	private readonly stale = new Set<string>();

	/** The column of a property; undefined when no row has it. */
	get(property: string): JudgedSpans | undefined {
		const spans = this.columns.get(property);
		if (spans !== undefined && this.stale.delete(property)) setExtras(spans, this.furtherOf(property, spans));
		return spans;
	}

	/** What each property works with, by row; two that cost the same are not alike for that. */
	working(): ReadonlyMap<string, Float64Array> {
		return new Map([...this.columns].flatMap(([id, spans]) => (PRICE.test(id) ? [] : [[id, spans.working] as const])));
	}

	/** Prices by row, currency by currency. */
	prices(): readonly Float64Array[] {
		const ids = [...this.columns.keys()].filter((id) => PRICE.test(id)).sort();
		return ids.map((id) => (this.columns.get(id) as JudgedSpans).working);
	}

	/** @param capacity rows that a new column has room for */
	put(at: number, spans: TableFacts["spans"], capacity: number): void {
		const extra = new Map<string, [number, number, number, number][]>();
		for (const [property, low, high, working, evidence = NO_EVIDENCE] of spans) {
			const from = low ?? Number.NEGATIVE_INFINITY;
			const to = high ?? Number.POSITIVE_INFINITY;
			const extras = extra.get(property);
			if (extras !== undefined) {
				extras.push([from, to, working ?? Number.NaN, evidence]);
				continue;
			}
			extra.set(property, []);
			let column = this.columns.get(property);
			if (column === undefined) {
				column = blankSpans(capacity);
				this.columns.set(property, column);
			}
			column.low[at] = from;
			column.high[at] = to;
			column.working[at] = working ?? Number.NaN;
			column.evidence[at] = evidence;
		}
		for (const [property, ends] of extra) {
			if (ends.length === 0) continue;
			this.furtherOf(property, this.columns.get(property) as JudgedSpans).set(at, ends);
			this.stale.add(property);
		}
	}

	remove(at: number): void {
		for (const [property, spans] of this.columns) {
			spans.low[at] = Number.POSITIVE_INFINITY;
			spans.high[at] = Number.NEGATIVE_INFINITY;
			spans.working[at] = Number.NaN;
			spans.evidence[at] = NO_EVIDENCE;
			if (this.furtherOf(property, spans).delete(at)) this.stale.add(property);
		}
	}

	grow(capacity: number): void {
		for (const property of this.columns.keys())
			this.columns.set(property, grownSpans(this.get(property) as JudgedSpans, capacity));
	}

	/** @param room rows that are kept of each column */
	image(room: number): { readonly properties: readonly string[]; readonly numbers: readonly (readonly [string, Numbers])[] } {
		const properties = [...this.columns.keys()];
		const numbers = properties.flatMap((property) => {
			const spans = this.get(property) as JudgedSpans;
			return PARTS.map((part): [string, Numbers] => [
				`${part}.${property}`,
				BY_ROW.includes(part) ? spans[part].subarray(0, room) : spans[part],
			]);
		});
		return { properties, numbers };
	}

	static from(stored: StoredTable): SpanStore {
		const store = new SpanStore();
		for (const property of stored.strings("properties")) {
			const spans = Object.fromEntries(PARTS.map((part) => [part, stored.numbers.get(`${part}.${property}`)]));
			store.columns.set(property, spans as JudgedSpans);
		}
		return store;
	}

	/** Further values of a property by row; those that came with an image are read off its column. */
	private furtherOf(property: string, spans: JudgedSpans): Further {
		const known = this.further.get(property) ?? extrasOf(spans);
		this.further.set(property, known);
		return known;
	}
}
