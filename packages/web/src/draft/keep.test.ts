import { describe, expect, it } from "vitest";
import { beat, endBeat, keepQueue, orphans, type Store } from "./keep";
import type { Step } from "./queue";

function storage(limit = Number.POSITIVE_INFINITY): Store {
	const map = new Map<string, string>();
	return {
		getItem: (k) => map.get(k) ?? null,
		setItem: (k, v) => {
			if (v.length > limit) throw new Error("QuotaExceededError");
			map.set(k, v);
		},
		removeItem: (k) => void map.delete(k),
		key: (i) => [...map.keys()][i] ?? null,
		get length() {
			return map.size;
		},
	};
}
const step: Step = { client: "c", n: 1, edits: [{ at: "field:notes", from: "", to: "x" }] };
const kept = (material: string, at: string, queue: readonly Step[] = [step]) => ({
	material,
	name: `Material ${material}`,
	at,
	queue,
	contested: [],
	refused: [],
});
const ann = (tab: string) => ({ person: "ann", tab });

describe("what a page keeps in the browser", () => {
	it("is offered to the same person once the page is gone, the latest first, and to nobody else", () => {
		const store = storage();
		beat(store, "t1", 1_000);
		keepQueue(store, ann("t1"), kept("m1", "2026-11-29T10:00:00Z"));
		keepQueue(store, ann("t1"), kept("m2", "2026-11-29T11:00:00Z"));
		const names = (person: string, tab: string, now: number): string[] =>
			orphans(store, { person, tab }, now).map((o) => o.material);
		// it lives: nothing is offered
		expect(names("ann", "t2", 2_000)).toEqual([]);
		// silent for half a minute: it crashed
		expect(names("ann", "t2", 40_000)).toEqual(["m2", "m1"]);
		expect(names("bob", "t2", 40_000)).toEqual([]);
		// a page does not offer its own to itself
		expect(names("ann", "t1", 40_000)).toEqual([]);
	});

	it("is offered at once when the page was closed in order", () => {
		const store = storage();
		beat(store, "t1", 1_000);
		keepQueue(store, ann("t1"), kept("m1", "2026"));
		endBeat(store, "t1");
		expect(orphans(store, ann("t2"), 1_100)).toHaveLength(1);
	});

	it("goes when everything was confirmed; what cannot be read, and a full storage, stand in nobody's way", () => {
		const store = storage();
		keepQueue(store, ann("t1"), kept("m1", "2026"));
		keepQueue(store, ann("t1"), kept("m1", "2026", []));
		store.setItem("alvek.queue.ann.t1.m9", "{not json");
		store.setItem("alvek.queue.ann.t1.m8", '{"queue":[]}');
		expect(orphans(store, ann("t2"), 100_000)).toEqual([]);
		const full = storage(10);
		expect(() => keepQueue(full, ann("t1"), kept("m1", "2026"))).not.toThrow();
	});
});
