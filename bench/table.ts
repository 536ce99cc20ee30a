import { factsOf, MaterialTable, packColumns, type TableQuery, type TableRow } from "@alvek/core/table";
import { CROWD_PROPERTIES, madeUp, random } from "./lib/crowd";

/**
 * Filters over 100,000 materials x 40 properties in the engine, beside a bare scan of the same columns in the same run:
 * five ranges over ten typed arrays and six counts over six code arrays, nothing else.
 */
const N = Number(process.env.ROWS ?? 100_000);
const next = random(1);
const memory = (): number => {
	const { heapUsed, arrayBuffers } = process.memoryUsage();
	return Math.round((heapUsed + arrayBuffers) / 1e6);
};
const before = memory();
// facts of a few hundred documents are made for real and then varied: computing 100,000 readinesses is another measurement
const made = Array.from({ length: 400 }, (_, i) => madeUp(i, next)).map((m) => ({ ...m, facts: factsOf(m.document, []) }));
const rowAt = (i: number): TableRow => {
	const { name, group, facts } = made[Math.floor(next() * made.length)] as (typeof made)[number];
	const spans = facts.spans.map(([p, low, high, working]) => {
		const k = 0.5 + next();
		const by = (x: number | null): number | null => (x === null ? null : x * k);
		return [p, by(low), by(high), by(working)] as const;
	});
	return {
		id: `m${i}`,
		person: null,
		name: `${name} ${i}`,
		library: `library ${i % 10}`,
		group,
		codes: `C-${i}`,
		itemCode: `C-${i}`,
		offeredFor: i % 3 === 0 ? ["structure"] : [],
		marks: [],
		changedAt: i,
		review: null,
		facts: { ...facts, spans },
	};
};
const table = new MaterialTable();
let loadMs = 0;
table.beginLoad(N);
for (let i = 0; i < N; i++) {
	const row = rowAt(i);
	const start = performance.now();
	table.put(row);
	loadMs += performance.now() - start;
}
const started = performance.now();
table.endLoad();
const sortMs = performance.now() - started;
loadMs += sortMs;

const viewer = { person: "local", libraries: new Set(Array.from({ length: 10 }, (_, i) => `library ${i}`)) };
const five = CROWD_PROPERTIES.slice(0, 5).map((p) => p.id);
const ranges = five.map((property) => {
	const working = [...(table.spansOf(property)?.working ?? [])].sort((a, b) => a - b);
	return {
		property,
		low: working[Math.floor(working.length * 0.05)] as number,
		high: working[Math.floor(working.length * 0.8)] as number,
	};
});
const ask: TableQuery = {
	spans: ranges,
	facets: { library: ["library 1", "library 2", "library 3"], ready: ["mass"] },
	text: "marine",
	sort: "group",
	descending: false,
	counts: true,
};

/** The bare scan: what any filter has to read at the least, over arrays of the same length. */
const columns = ranges.map((r) => ({
	...(table.spansOf(r.property) as NonNullable<ReturnType<typeof table.spansOf>>),
	from: r.low,
	to: r.high,
}));
const codes = Array.from({ length: 6 }, (_, f) => Uint32Array.from({ length: N }, (_, i) => (i * (f + 3)) % 50));
const bareFails = new Uint8Array(N);
// biome-ignore lint/complexity/useMaxParams: the bare loop that the engine is compared with
function scan(low: Float64Array, high: Float64Array, from: number, to: number, fails: Uint8Array): void {
	for (let i = 0; i < N; i++) fails[i] = (fails[i] as number) + (+((low[i] as number) > to) | +((high[i] as number) < from));
}
function tally(code: Uint32Array, fails: Uint8Array, count: Uint32Array): void {
	for (let i = 0; i < N; i++) if (fails[i] === 0) count[code[i] as number] = (count[code[i] as number] as number) + 1;
}
function bare(): number {
	bareFails.fill(0);
	for (const { low, high, from, to } of columns) scan(low, high, from, to, bareFails);
	for (const code of codes) tally(code, bareFails, new Uint32Array(50));
	let hits = 0;
	for (let i = 0; i < N; i++) hits += bareFails[i] === 0 ? 1 : 0;
	return hits;
}

const time = (work: () => unknown): number => {
	const start = performance.now();
	work();
	return performance.now() - start;
};
const median = (x: number[]): number => [...x].sort((a, b) => a - b)[Math.floor(x.length / 2)] ?? 0;
const rounds = { ours: [] as number[], bare: [] as number[] };
let hits = 0;
for (let i = 0; i < 60; i++) {
	rounds.ours.push(
		time(() => {
			hits = table.find(ask, viewer).hits.length;
		}),
	);
	rounds.bare.push(time(bare));
}
const [ours, plain] = [median(rounds.ours.slice(10)), median(rounds.bare.slice(10))];
const firstText = time(() => table.textMisses("annealed spring"));
const packed = time(() => packColumns(table, table.find({ ...ask, text: "", spans: [] }, viewer).hits, five.slice(0, 2)));
const bySort = time(() => table.find({ ...ask, sort: "density" }, viewer));
const patch = time(() =>
	table.put({
		id: "new",
		person: null,
		name: "New plate",
		library: "library 1",
		group: "metal.steel / bar",
		codes: "",
		itemCode: "",
		offeredFor: [],
		marks: [],
		changedAt: 1,
		review: null,
		facts: made[0]?.facts ?? factsOf(madeUp(1, next).document, []),
	}),
);
const afterPatch = time(() => table.find(ask, viewer));
console.log(
	JSON.stringify({
		bench: "table",
		rows: N,
		properties: CROWD_PROPERTIES.length,
		question: "five ranges, text (hits ready), two facets chosen, ten facets counted, in group order",
		hits,
		ours_ms: Number(ours.toFixed(2)),
		bare_scan_ms: Number(plain.toFixed(2)),
		ratio: Number((ours / plain).toFixed(2)),
		goal: "<= 3",
		load_ms: Math.round(loadMs),
		of_which_sorting_names_ms: Math.round(sortMs),
		first_text_ms: Number(firstText.toFixed(1)),
		sort_by_property_first_ms: Number(bySort.toFixed(1)),
		pack_two_columns_ms: Number(packed.toFixed(1)),
		put_one_ms: Number(patch.toFixed(2)),
		first_question_after_put_ms: Number(afterPatch.toFixed(1)),
		memory_mb: memory() - before,
	}),
);
