import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { BLANK, type Material, makeValue } from "../material";
import {
	binStrip,
	blankSpans,
	compareNames,
	distance,
	type FacetId,
	factsOf,
	failOutside,
	foldName,
	lettersOf,
	MaterialTable,
	nearWords,
	numberAt,
	packColumns,
	placeOn,
	rankName,
	stripAxis,
	type TableQuery,
	type TableRow,
	unpackColumns,
	wordsOf,
} from "./index";

const FACTS = factsOf(BLANK);
const ASK: TableQuery = { spans: [], facets: {}, text: "", sort: "group", descending: false, counts: true };
const SEER = { person: "ann", libraries: new Set(["a", "b"]) };

function row(id: string, change: Partial<TableRow> = {}, facts: Partial<TableRow["facts"]> = {}): TableRow {
	return {
		id,
		person: null,
		name: id,
		library: "a",
		group: "",
		codes: "",
		offeredFor: [],
		marks: [],
		changedAt: 0,
		review: null,
		...change,
		facts: { ...FACTS, ...facts },
	};
}

const PROPERTIES = ["p", "q"] as const;
const number = fc.integer({ min: -4, max: 4 });
const span = fc
	.tuple(fc.constantFrom(...PROPERTIES), fc.option(number), fc.option(number), fc.option(number))
	.map(([property, x, y, working]): TableRow["facts"]["spans"][number] => {
		const [low, high] = x !== null && y !== null && x > y ? [y, x] : [x, y];
		return [property, low, high, working];
	});
const randomRow = fc
	.record({
		id: fc.constantFrom("m1", "m2", "m3", "m4", "m5", "m6", "m7", "m8"),
		person: fc.constantFrom(null, "ann", "bob"),
		name: fc.constantFrom("Alpha 2", "alpha 10", "Beta", "Gamma"),
		library: fc.constantFrom("a", "b", "hidden"),
		group: fc.constantFrom("", "Metals", "Metals / Bronze", "Polymers"),
		changedAt: number,
		review: fc.constantFrom(null, "2026-01-01", "2027-01-01"),
		spans: fc.array(span, { maxLength: 5 }),
		ready: fc.subarray(["mass", "modal", "thermal"]),
	})
	.map(({ spans, ready, ...rest }) => row(rest.id, rest, { spans, ready }));
const step = fc.oneof(
	{ weight: 5, arbitrary: randomRow },
	{ weight: 1, arbitrary: randomRow.map((r) => ({ gone: r.id, person: r.person })) },
	{ weight: 2, arbitrary: fc.constantFrom("stored", "stored", "many", "many end") },
);
const query = fc.record({
	spans: fc.array(fc.tuple(fc.constantFrom(...PROPERTIES, "absent"), number, fc.nat(5)), { maxLength: 2 }),
	library: fc.subarray(["a", "b"]),
	group: fc.subarray(["Metals", "Metals / Bronze", "Polymers"]),
	ready: fc.subarray(["mass", "modal"]),
	text: fc.constantFrom("", "alpha", "a metal", "2"),
	review: fc.constantFrom(undefined, "2026-06-01"),
	sort: fc.constantFrom("name", "group", "changed", "p"),
	descending: fc.boolean(),
});

/** The same questions answered the obvious way, over a list of rows. */
function plainly(rows: readonly TableRow[], ask: TableQuery) {
	const visible = rows.filter(
		(r) =>
			SEER.libraries.has(r.library) &&
			(r.person === "ann" || (r.person === null && !rows.some((x) => x.id === r.id && x.person === "ann"))),
	);
	const groups = (r: TableRow): string[] =>
		r.group === "" ? [] : r.group.split(" / ").map((_, i, all) => all.slice(0, i + 1).join(" / "));
	const words: Record<string, (r: TableRow) => readonly string[]> = {
		library: (r) => [r.library],
		group: groups,
		ready: (r) => r.facts.ready,
	};
	const passes = (r: TableRow, except: string): boolean =>
		Object.entries(words).every(([facet, of]) => {
			const wanted = ask.facets[facet as FacetId] ?? [];
			if (facet === except || wanted.length === 0) return true;
			return facet === "ready" ? wanted.every((w) => of(r).includes(w)) : wanted.some((w) => of(r).includes(w));
		}) &&
		ask.text.split(" ").every((piece) => `${r.name}\n${r.group}\n${r.codes}\n`.toLowerCase().includes(piece)) &&
		(ask.reviewBefore === undefined || (r.review !== null && r.review < ask.reviewBefore)) &&
		ask.spans.every((s) =>
			r.facts.spans.some(
				([p, low, high]) =>
					p === s.property && (low === null || low <= (s.high as number)) && (high === null || high >= (s.low as number)),
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
	const compare: Record<string, (a: TableRow, b: TableRow) => number> = {
		name: (a, b) => sign * byName(a, b),
		group: (a, b) => sign * compareNames(a.group, b.group) || byName(a, b),
		changed: (a, b) => sign * (a.changedAt - b.changedAt) || byName(a, b),
		p: (a, b) => {
			const [x, y] = [leading(a), leading(b)];
			if (x === null || y === null) return x === y ? byName(a, b) : x === null ? 1 : -1;
			return sign * (x - y) || byName(a, b);
		},
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
					spans: asked.spans.map(([property, low, width]) => ({ property, low, high: low + width })),
					facets: { library: asked.library, group: asked.group, ready: asked.ready },
					text: asked.text,
					reviewBefore: asked.review,
					sort: asked.sort,
					descending: asked.descending,
				};
				const expected = plainly([...kept.values()], ask);
				const answer = table.find(ask, SEER);
				expect(answer.all).toBe(expected.all);
				expect([...answer.hits].map((r) => table.idOf(r))).toEqual(inOrder(expected.hits, ask));
				const sorted = (counts: ReadonlyMap<string, number>) =>
					Object.fromEntries([...counts].sort((a, b) => (a[0] < b[0] ? -1 : 1)));
				for (const facet of ["library", "group", "ready"] as const)
					expect(sorted(answer.counts[facet] as ReadonlyMap<string, number>)).toEqual(expected.counts[facet]);
				expect(table.drafts().length).toBe([...kept.values()].filter((r) => r.person !== null).length);
				for (const typed of ["Alpha 2", "alpha", "gamna", "a"])
					expect(new Set(table.search(typed, 99, SEER).map((f) => `${table.idOf(f.row)} ${f.rank}`))).toEqual(
						new Set(plainSearch(expected.visible, typed)),
					);
				// the same table seen again, from its caches
				expect([...table.find(ask, SEER).hits]).toEqual([...answer.hits]);
			}),
			{ numRuns: 600 },
		);
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
		const { hits } = table.find({ ...ASK, spans: [{ property: "p", low: 8, high: 10 }], sort: "name" }, SEER);
		expect([...hits].map((r) => table.idOf(r))).toEqual(["m1", "m3", "m4"]);
	});

	it("packs columns so that the browser finds the same rows", () => {
		fc.assert(
			fc.property(fc.array(randomRow, { maxLength: 30 }), number, (rows, from) => {
				const table = new MaterialTable();
				table.load([...new Map(rows.map((r) => [`${r.id} ${r.person}`, r])).values()]);
				const { hits } = table.find(ASK, SEER);
				const unpacked = unpackColumns(packColumns(table, hits, ["p", "absent"]).buffer as ArrayBuffer);
				if (!unpacked.ok) throw new Error("does not unpack");
				const { total, rows: n, columns } = unpacked.value;
				expect(total).toBe(hits.length);
				const wanted = table.find({ ...ASK, spans: [{ property: "p", low: from, high: from + 1 }] }, SEER).hits.length;
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

describe("strips", () => {
	const columns = (ends: readonly (readonly [number, number])[]) => ({
		...blankSpans(0),
		low: Float64Array.from(ends, (e) => e[0]),
		high: Float64Array.from(ends, (e) => e[1]),
	});

	it("bins ticks and bands as drawing each one would", () => {
		const end = fc.double({ min: 0.01, max: 1000, noNaN: true });
		fc.assert(
			fc.property(fc.array(fc.tuple(end, end, fc.boolean()), { minLength: 1, maxLength: 40 }), fc.boolean(), (list, log) => {
				const spans = columns(list.map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const));
				const fails = Uint8Array.from(list, ([, , keep]) => (keep ? 0 : 1));
				const axis = stripAxis(spans, list.length, log);
				if (axis === null) throw new Error("no axis");
				const { passing, others } = binStrip(spans, list.length, axis, 50, fails);
				const drawn = [new Array<number>(50).fill(0), new Array<number>(50).fill(0)];
				list.forEach(([a, b, keep]) => {
					const at = (x: number): number => Math.floor(placeOn(axis, x) * 50);
					for (let x = at(Math.min(a, b)); x <= at(Math.max(a, b)); x++)
						if (x >= 0 && x < 50) (drawn[keep ? 0 : 1] as number[])[x] = ((drawn[keep ? 0 : 1] as number[])[x] as number) + 1;
				});
				// the logarithm is taken in another way there, so an end on the edge of a pixel may fall on either side
				const onEdge = list
					.flatMap((ends) => ends.slice(0, 2) as number[])
					.filter((x) => {
						const place = placeOn(axis, x) * 50;
						return Math.abs(place - Math.round(place)) < 1e-9;
					});
				const difference = (a: Uint32Array, b: readonly number[]): number =>
					a.reduce((n, x, i) => n + Math.abs(x - (b[i] as number)), 0);
				expect(difference(passing, drawn[0] as number[]) + difference(others, drawn[1] as number[])).toBeLessThanOrEqual(
					onEdge.length,
				);
			}),
		);
	});

	it("turns places and numbers into each other", () => {
		for (const axis of [
			{ low: 2, high: 2000, log: true },
			{ low: -5, high: 5, log: false },
		]) {
			for (const place of [0, 0.25, 1]) expect(placeOn(axis, numberAt(axis, place))).toBeCloseTo(place, 12);
		}
		// the middle of an axis over three decades is the geometric mean of its ends
		expect(numberAt({ low: 2, high: 2000, log: true }, 0.5)).toBeCloseTo(Math.sqrt(2 * 2000), 9);
	});

	it("is logarithmic where the numbers spread wide and are positive", () => {
		expect(
			stripAxis(
				columns([
					[1, 1],
					[1000, 1000],
				]),
				2,
				null,
			)?.log,
		).toBe(true);
		expect(
			stripAxis(
				columns([
					[1, 1],
					[10, 10],
				]),
				2,
				null,
			)?.log,
		).toBe(false);
		expect(
			stripAxis(
				columns([
					[-1, -1],
					[1000, 1000],
				]),
				2,
				true,
			)?.log,
		).toBe(false);
		// an open end counts as the end that is known
		expect(
			stripAxis(
				columns([
					[1, Number.POSITIVE_INFINITY],
					[3, 3],
				]),
				2,
				false,
			)?.high,
		).toBeCloseTo(3.04, 9);
	});
});

describe("facts", () => {
	const value = (id: string, property: string, text: string, extra = {}) => {
		const made = makeValue(id, property, text, {}, extra);
		if (!made.ok) throw new Error(JSON.stringify(made.issues));
		return made.value;
	};

	it("hold every span, and the number that the first one works with", () => {
		const material: Material = {
			...BLANK,
			family: "metal.aluminium",
			values: {
				density: value("density", "density", "2700-2800 kg/m3", { evidence: "measured" }),
				yield_strength: value("yield_strength", "yield_strength", ">= 200 MPa", { basis: "guaranteed-minimum", source: "S" }),
				"yield_strength~2": value("yield_strength~2", "yield_strength", "240 MPa"),
			},
		};
		const facts = factsOf(material);
		expect(facts.spans).toEqual([
			["density", 2700, 2800, 2750],
			["yield_strength", 200e6, null, 200e6],
			["yield_strength", 240e6, 240e6, null],
		]);
		expect(facts.family).toEqual(["metal", "metal.aluminium"]);
		expect(facts.ready).toContain("mass");
		expect(facts.evidence).toEqual(["measured", "none"]);
		expect(facts.basis).toEqual(["guaranteed-minimum", "none"]);
		expect(facts.open).toEqual(["no_source", "no_evidence"]);
	});
});

describe("names typed with slips", () => {
	it("counts edits as the textbook table does", () => {
		// optimal string alignment distance by its recurrence over prefixes, with no bound and no shortcut
		const plain = (a: string, b: string): number => {
			if (a === "" || b === "") return a.length + b.length;
			const [x, y] = [a.at(-1), b.at(-1)];
			let best = Math.min(
				plain(a.slice(0, -1), b) + 1,
				plain(a, b.slice(0, -1)) + 1,
				plain(a.slice(0, -1), b.slice(0, -1)) + (x === y ? 0 : 1),
			);
			if (a.length > 1 && b.length > 1 && x === b.at(-2) && a.at(-2) === y)
				best = Math.min(best, plain(a.slice(0, -2), b.slice(0, -2)) + 1);
			return best;
		};
		const word = fc.string({ unit: fc.constantFrom("a", "b", "c"), maxLength: 5 });
		fc.assert(
			fc.property(word, word, (a, b) => {
				const exact = plain(a, b);
				expect(Math.min(distance(a, b, 2), 3)).toBe(Math.min(exact, 3));
			}),
		);
	});

	it("spares only comparisons that could not succeed", () => {
		const word = fc.string({ unit: fc.constantFrom("a", "b", "c", "1", "é"), minLength: 4, maxLength: 8 });
		fc.assert(
			fc.property(word, word, (piece, other) => {
				const found = nearWords(piece, new Map([[other, lettersOf(other)]]));
				const without = nearWords(piece, new Map([[other, -1]]));
				expect([...found]).toEqual([...without]);
			}),
		);
	});

	it("ranks exact before start before words before inside, and forgives slips in longer pieces only", () => {
		const rank = (name: string, typed: string) => rankName(foldName(name), foldName(typed));
		expect(rank("Gudgeon bronze 5", "gudgeon  BRONZE 5")).toBe(0);
		expect(rank("Gudgeon bronze 5", "gudg")).toBe(1);
		expect(rank("Gudgeon bronze 5", "bronze gud")).toBe(2);
		expect(rank("Gudgeon bronze 5", "onze")).toBe(3);
		expect(rank("Gudgeon bronze 5", "brass")).toBeNull();
		expect(rank("Señor Größe", "senor")).toBe(1);
		const words = (...list: string[]) => new Map(list.map((w) => [w, lettersOf(w)]));
		expect([...nearWords("bornze", words("bronze", "brass", "bonze"))]).toEqual([
			["bronze", 1],
			["bonze", 1],
		]);
		expect([...nearWords("gugdeo", words("gudgeon"))]).toEqual([["gudgeon", 1]]);
		expect([...nearWords("ab", words("ac"))]).toEqual([]);
	});
});
