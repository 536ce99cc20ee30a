import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EVIDENCE_WORDS, MOST_SPANS } from "../material";
import {
	compareNames,
	type FacetId,
	failOutside,
	foldName,
	lettersOf,
	MaterialTable,
	nearWords,
	packColumns,
	rankName,
	stripAxis,
	type TableQuery,
	type TableRow,
	unpackColumns,
	wordsOf,
} from "./index";
import { ASK, row, VIEWER } from "./testing";

const PROPERTIES = ["p", "q"] as const;
const number = fc.integer({ min: -4, max: 4 });
const span = fc
	.tuple(fc.constantFrom(...PROPERTIES), fc.option(number), fc.option(number), fc.option(number), fc.nat(4))
	.map(([property, x, y, working, evidence]): TableRow["facts"]["spans"][number] => {
		const [low, high] = x !== null && y !== null && x > y ? [y, x] : [x, y];
		return [property, low, high, working, evidence];
	});
const randomRow = fc
	.record({
		id: fc.constantFrom("m1", "m2", "m3", "m4", "m5", "m6", "m7", "m8"),
		person: fc.constantFrom(null, "ann", "bob"),
		name: fc.constantFrom("Alpha 2", "alpha 10", "Beta", "Gamma"),
		library: fc.constantFrom("a", "b", "hidden"),
		group: fc.constantFrom("", "Metals", "Metals / Bronze", "Polymers"),
		changedAt: number,
		review: fc.constantFrom(null, "2026-01-01", "2026-06-01", "2027-01-01"),
		itemCode: fc.constantFrom("", "C-2", "c-10", "D"),
		price: fc.option(fc.tuple(fc.constantFrom("EUR", "CHF"), fc.nat(3))),
		spans: fc.array(span, { maxLength: 5 }),
		ready: fc.subarray(["mass", "modal", "thermal"]),
	})
	.map(({ spans, ready, price, ...rest }) => {
		const priced = price === null ? [] : [[`price:${price[0]}`, price[1], price[1], price[1]] as const];
		return row(rest.id, rest, { spans: [...spans, ...priced], ready });
	});
const step = fc.oneof(
	{ weight: 5, arbitrary: randomRow },
	{ weight: 1, arbitrary: randomRow.map((r) => ({ gone: r.id, person: r.person })) },
	{ weight: 2, arbitrary: fc.constantFrom("stored", "stored", "many", "many end") },
);
const judged = fc.option(fc.subarray([...EVIDENCE_WORDS], { minLength: 1 }), { nil: undefined, freq: 2 });
const query = fc.record({
	spans: fc.array(fc.tuple(fc.constantFrom(...PROPERTIES, "absent", "price:EUR"), number, fc.nat(5), judged), { maxLength: 2 }),
	library: fc.subarray(["a", "b"]),
	group: fc.subarray(["Metals", "Metals / Bronze", "Polymers"]),
	ready: fc.subarray(["mass", "modal"]),
	text: fc.constantFrom("", "alpha", "a metal", "2", "gamna", "alpa", "zz"),
	forgiving: fc.boolean(),
	review: fc.constantFrom(undefined, "2026-06-01"),
	sort: fc.constantFrom("name", "group", "changed", "p", "code", "review", "price"),
	descending: fc.boolean(),
});

/** The same questions answered the obvious way, over a list of rows. */
function plainly(rows: readonly TableRow[], ask: TableQuery) {
	const visible = rows.filter(
		(r) =>
			VIEWER.libraries.has(r.library) &&
			(r.person === "ann" || (r.person === null && !rows.some((x) => x.id === r.id && x.person === "ann"))),
	);
	const groups = (r: TableRow): string[] =>
		r.group === "" ? [] : r.group.split(" / ").map((_, i, all) => all.slice(0, i + 1).join(" / "));
	const words: Record<string, (r: TableRow) => readonly string[]> = {
		library: (r) => [r.library],
		group: groups,
		ready: (r) => r.facts.ready,
	};
	const says = (r: TableRow): boolean =>
		ask.text.split(" ").every((piece) => `${r.name}\n${r.group}\n${r.codes}\n`.toLowerCase().includes(piece));
	// where nothing says the text, names a few slips away stand in for it
	const near =
		ask.forgiving === true && ask.text !== "" && !visible.some(says)
			? plainSearch(visible, ask.text).map((f) => f.split(" ")[0])
			: null;
	const passes = (r: TableRow, except: string): boolean =>
		Object.entries(words).every(([facet, of]) => {
			const wanted = ask.facets[facet as FacetId] ?? [];
			if (facet === except || wanted.length === 0) return true;
			return facet === "ready" ? wanted.every((w) => of(r).includes(w)) : wanted.some((w) => of(r).includes(w));
		}) &&
		(near === null ? says(r) : near.includes(r.id)) &&
		(ask.reviewBefore === undefined || (r.review !== null && r.review < ask.reviewBefore)) &&
		ask.spans.every((s) =>
			r.facts.spans.some(
				([p, low, high, working, evidence = 4]) =>
					p === s.property &&
					(s.evidence === undefined || s.evidence.includes(EVIDENCE_WORDS[evidence] ?? "none")) &&
					(working !== null
						? working >= (s.low as number) && working <= (s.high as number)
						: low !== null && low <= (s.high as number) && (high === null || (high >= (s.low as number) && high >= low))),
			),
		);
	const hits = visible.filter((r) => passes(r, ""));
	const count = (facet: string): Record<string, number> => {
		const counted = visible
			.filter((r) => passes(r, facet === "ready" ? "" : facet))
			.flatMap((r) => [...(words[facet]?.(r) ?? [])]);
		return Object.fromEntries([...new Set(counted)].sort().map((w) => [w, counted.filter((c) => c === w).length]));
	};
	return {
		all: visible.length,
		near: near !== null && near.length > 0,
		visible,
		hits,
		counts: { library: count("library"), group: count("group"), ready: count("ready") },
	};
}

/** Ranks of the rows by name, with slips forgiven where few answer. */
function plainSearch(rows: readonly TableRow[], typed: string): string[] {
	const folded = foldName(typed);
	const ranked = rows.flatMap((r) => {
		const rank = rankName(foldName(r.name), folded);
		return rank === null ? [] : [`${r.id} ${rank}`];
	});
	if (ranked.length >= 5) return ranked;
	const found = new Set(ranked.map((r) => r.split(" ")[0]));
	for (const r of rows) {
		if (found.has(r.id)) continue;
		const slips = folded
			.split(" ")
			.map((p) => Math.min(...nearWords(p, new Map(wordsOf(foldName(r.name)).map((w) => [w, lettersOf(w)]))).values()));
		const sum = slips.reduce((a, b) => a + b, 0);
		if (Number.isFinite(sum)) ranked.push(`${r.id} ${4 + sum / 100}`);
	}
	return ranked;
}

const leading = (r: TableRow): number | null => r.facts.spans.find(([p]) => p === "p")?.[3] ?? null;

function inOrder(hits: readonly TableRow[], ask: TableQuery): string[] {
	const sign = ask.descending ? -1 : 1;
	const byName = (a: TableRow, b: TableRow): number => compareNames(a.name, b.name) || (a.id < b.id ? -1 : 1);
	// blanks last, whichever way
	const by =
		<T>(of: (r: TableRow) => T | null, order: (x: T, y: T) => number) =>
		(a: TableRow, b: TableRow): number => {
			const [x, y] = [of(a), of(b)];
			if (x === null || y === null) return x === y ? byName(a, b) : x === null ? 1 : -1;
			return sign * order(x, y) || byName(a, b);
		};
	const compare: Record<string, (a: TableRow, b: TableRow) => number> = {
		name: (a, b) => sign * byName(a, b),
		group: (a, b) => sign * compareNames(a.group, b.group) || byName(a, b),
		changed: (a, b) => sign * (a.changedAt - b.changedAt) || byName(a, b),
		p: by(leading, (x, y) => x - y),
		code: by((r) => r.itemCode || null, compareNames),
		review: by((r) => r.review, compareNames),
		price: by(
			(r) => r.facts.spans.find(([p]) => p.startsWith("price:")) ?? null,
			(x, y) => compareNames(x[0], y[0]) || (x[3] as number) - (y[3] as number),
		),
	};
	return [...hits].sort(compare[ask.sort]).map((r) => r.id);
}

/** The table as it comes back from where its image was kept: nothing is shared with the one it was made of. */
function stored(table: MaterialTable): MaterialTable {
	const { numbers, strings } = structuredClone(table.image());
	const again = new MaterialTable();
	again.put(row("what stood there before"));
	again.restore({ numbers, strings: (name) => strings.get(name) ?? [] });
	return again;
}

describe("table of materials", () => {
	it("answers like a plain filter over a list, after any puts and removals, counts and order too", () => {
		fc.assert(
			fc.property(fc.array(step, { maxLength: 40 }), fc.nat(8), query, (steps, loaded, asked) => {
				let table = new MaterialTable();
				const kept = new Map<string, TableRow>();
				const key = (id: string, person: string | null): string => `${id} ${person}`;
				const first = steps.slice(0, loaded).filter((s): s is TableRow => typeof s !== "string" && !("gone" in s));
				table.load(first);
				for (const r of first) kept.set(key(r.id, r.person), r);
				for (const s of steps.slice(loaded)) {
					if (typeof s === "string") {
						if (s === "many") table.beginLoad(0);
						else table.endLoad();
						if (s === "stored") table = stored(table);
					} else if ("gone" in s) {
						table.remove(s.gone, s.person);
						kept.delete(key(s.gone, s.person));
					} else {
						table.put(s);
						kept.set(key(s.id, s.person), s);
					}
				}
				table.endLoad();
				const ask: TableQuery = {
					...ASK,
					spans: asked.spans.map(([property, low, width, evidence]) => ({
						property,
						low,
						high: low + width,
						...(evidence === undefined ? {} : { evidence }),
					})),
					facets: { library: asked.library, group: asked.group, ready: asked.ready },
					text: asked.text,
					...(asked.forgiving ? { forgiving: true } : {}),
					reviewBefore: asked.review,
					sort: asked.sort,
					descending: asked.descending,
				};
				const expected = plainly([...kept.values()], ask);
				const answer = table.find(ask, VIEWER);
				expect(answer.all).toBe(expected.all);
				expect(answer.near).toBe(expected.near);
				expect([...answer.hits].map((r) => table.idOf(r))).toEqual(inOrder(expected.hits, ask));
				const sorted = (counts: ReadonlyMap<string, number>) =>
					Object.fromEntries([...counts].sort((a, b) => (a[0] < b[0] ? -1 : 1)));
				for (const facet of ["library", "group", "ready"] as const)
					expect(sorted(answer.counts[facet] as ReadonlyMap<string, number>)).toEqual(expected.counts[facet]);
				expect(table.drafts().length).toBe([...kept.values()].filter((r) => r.person !== null).length);
				for (const typed of ["Alpha 2", "alpha", "gamna", "a"])
					expect(new Set(table.search(typed, 99, VIEWER).map((f) => `${table.idOf(f.row)} ${f.rank}`))).toEqual(
						new Set(plainSearch(expected.visible, typed)),
					);
				// the same table seen again, from its caches
				expect([...table.find(ask, VIEWER).hits]).toEqual([...answer.hits]);
			}),
			{ numRuns: 600 },
		);
	});

	it("sorted by group goes by the path of the group, names inside it, either way", () => {
		const table = new MaterialTable();
		table.load([
			row("z", { name: "Zinc", group: "Metals" }),
			row("b", { name: "Beech", group: "Wood" }),
			row("a", { name: "Ash", group: "Wood" }),
			row("f", { name: "Foam", group: "Foams" }),
			row("n", { name: "Nothing", group: "" }),
		]);
		const order = (descending: boolean) =>
			[...table.find({ ...ASK, sort: "group", descending }, VIEWER).hits].map((r) => table.idOf(r));
		expect(order(false)).toEqual(["n", "f", "z", "a", "b"]);
		expect(order(true)).toEqual(["a", "b", "z", "f", "n"]);
	});

	it("ranks by whole words where all that is typed are words, else by where it stands", () => {
		const table = new MaterialTable();
		table.load([
			row("words", { name: "Cast bronze 5" }),
			row("inside", { name: "Recast embronzed" }),
			row("code", { name: "X-cast/bronze" }),
		]);
		const ranks = (typed: string) => Object.fromEntries(table.search(typed, 9, VIEWER).map((f) => [table.idOf(f.row), f.rank]));
		expect(ranks("cast bronze")).toMatchObject({ words: 1, inside: 3, code: 2 });
		expect(ranks("bronze cast")).toMatchObject({ words: 2, inside: 3 });
		expect(ranks("/bronze")).toMatchObject({ code: 3 });
	});

	it("counts what should have been looked at again before a day", () => {
		const table = new MaterialTable();
		table.load([row("never", { review: null }), row("past", { review: "2026-11-28" }), row("today", { review: "2026-11-29" })]);
		const { hits } = table.find(ASK, VIEWER);
		expect(["2026-11-28", "2026-11-29", "2026-11-30"].map((day) => table.countOverdue(hits, day))).toEqual([0, 1, 2]);
	});

	it("sorted by a property that no row has stands by name, whatever its groups", () => {
		const table = new MaterialTable();
		table.load([row("b", { name: "Beta", group: "" }), row("a", { name: "Alpha", group: "Polymers" })]);
		for (const descending of [false, true])
			expect([...table.find({ ...ASK, sort: "nobody", descending }, VIEWER).hits].map((r) => table.idOf(r))).toEqual(["a", "b"]);
	});

	it("hidden rows stay hidden under as many spans as are counted, and more are not counted at all", () => {
		const table = new MaterialTable();
		table.load([
			row("mine"),
			row("theirs", { library: "hidden" }),
			row("draft", { person: "bob" }),
			row("shown", {}, { spans: [["p", 5, 5, 5]] }),
		]);
		const ask = (count: number, low: number) =>
			table.find({ ...ASK, spans: Array.from({ length: count }, () => ({ property: "p", low, high: 9 })) }, VIEWER);
		for (let count = 1; count <= MOST_SPANS; count++) {
			expect([...ask(count, 4).hits].map((r) => table.idOf(r))).toEqual(["shown"]);
			expect(ask(count, 6).hits.length).toBe(0);
		}
		for (const count of [MOST_SPANS + 1, 128, 256]) expect(() => ask(count, 6)).toThrow(/at most 64/);
		expect(() => table.search("theirs", 9, VIEWER)).not.toThrow();
		expect(table.search("theirs", 9, VIEWER)).toEqual([]);
	});

	it("keeps further values of a property through an image, whatever changes afterwards", () => {
		const two = (id: string) =>
			row(
				id,
				{},
				{
					spans: [
						["p", 1, 1, 1],
						["p", 9, 9, null],
					],
				},
			);
		let table = new MaterialTable();
		table.load([two("m1"), two("m2"), two("m3")]);
		table = stored(table);
		table.put(two("m4"));
		table.remove("m2", null);
		const { hits } = table.find({ ...ASK, spans: [{ property: "p", low: 8, high: 10 }], sort: "name" }, VIEWER);
		expect([...hits].map((r) => table.idOf(r))).toEqual(["m1", "m3", "m4"]);
	});

	it("compares what a value works with; what it may reach only when asked", () => {
		// low, high, working: of strengths the low end, of densities the middle
		const of = (id: string, low: number | null, high: number | null, working: number | null) =>
			row(id, {}, { spans: [["p", low, high, working]] });
		const table = new MaterialTable();
		table.load([
			of("at least 235", 235, null, 235),
			of("at most 410", null, 410, null),
			of("240 to 285", 240, 285, 240),
			of("600", 600, 600, 600),
			of("a table 150 to 700", 150, 700, null),
		]);
		const found = (low: number | null, high: number | null, reach?: true) =>
			[
				...table.find(
					{ ...ASK, spans: [{ property: "p", low, high, ...(reach === undefined ? {} : { reach }) }], sort: "name" },
					VIEWER,
				).hits,
			]
				.map((r) => table.idOf(r))
				.sort();
		expect(found(500, null)).toEqual(["600", "a table 150 to 700"]);
		expect(found(250, null)).toEqual(["600", "a table 150 to 700"]);
		expect(found(null, 420)).toEqual(["240 to 285", "a table 150 to 700", "at least 235", "at most 410"]);
		expect(found(500, null, true)).toEqual(["600", "a table 150 to 700", "at least 235"]);
		expect(found(250, 300, true)).toEqual(["240 to 285", "a table 150 to 700", "at least 235", "at most 410"]);
	});

	it("packs columns so that the browser finds the same rows", () => {
		fc.assert(
			fc.property(fc.array(randomRow, { maxLength: 30 }), number, judged, (rows, from, evidence) => {
				const table = new MaterialTable();
				table.load([...new Map(rows.map((r) => [`${r.id} ${r.person}`, r])).values()]);
				const { hits } = table.find(ASK, VIEWER);
				const of = new Map(evidence === undefined ? [] : [["p", evidence] as const]);
				const unpacked = unpackColumns(packColumns(table, hits, ["p", "absent"], of).buffer as ArrayBuffer);
				if (!unpacked.ok) throw new Error("does not unpack");
				const { total, rows: n, columns } = unpacked.value;
				expect(total).toBe(hits.length);
				const where = { property: "p", low: from, high: from + 1, ...(evidence === undefined ? {} : { evidence }) };
				const wanted = table.find({ ...ASK, spans: [where] }, VIEWER).hits.length;
				const fails = new Uint8Array(n);
				const p = columns.get("p");
				if (p === undefined) throw new Error("no column");
				failOutside(p, n, from, from + 1, fails);
				expect(fails.filter((f) => f === 0).length).toBe(wanted);
				expect(stripAxis(columns.get("absent") as never, n, null)).toBeNull();
			}),
		);
	});

	it("refuses bytes that are not columns", () => {
		expect(unpackColumns(new ArrayBuffer(8)).ok).toBe(false);
		expect(unpackColumns(new ArrayBuffer(64)).ok).toBe(false);
	});
});
