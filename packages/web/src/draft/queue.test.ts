import { BLANK, type Edit, type Material } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";
import { describe, expect, it } from "vitest";
import { beginQueue, type Heard, isUnsaved, type QueueState, reduce, type Step } from "./queue";

const heard = (document: Material = BLANK, more: Partial<Heard> = {}): Heard => ({
	document,
	draft: null,
	base: null,
	version: 0,
	...more,
});
const notes = (from: string, to: string): Edit => ({ at: "field:notes", from, to });
const supplier = (from: string, to: string): Edit => ({ at: "field:supplier", from, to });
const typed = (state: QueueState, ...edits: Edit[]): QueueState => reduce(state, { do: "type", edits });
const first = (state: QueueState): Step => state.queue[0] as Step;
const saved = (draftId: string | null = "d1", version = 5) => ({ draftId, version, base: null });

describe("the queue of one material", () => {
	const begun = typed(beginQueue("tab-a", heard()), notes("", "one"));

	it("shows at once what is typed, under numbers that never repeat", () => {
		const two = typed(begun, notes("one", "two"));
		expect([two.shown.notes, two.server.notes]).toEqual(["two", ""]);
		expect(two.queue.map((s) => [s.client, s.n])).toEqual([
			["tab-a", 1],
			["tab-a", 2],
		]);
		const empty = reduce(begun, { do: "ok", step: first(begun), saved: saved() });
		expect(typed(empty, notes("one", "three")).queue[0]?.n).toBe(2);
	});

	it("what is confirmed is the server's; an answer that comes twice says nothing new", () => {
		const sending = reduce(begun, { do: "send" });
		expect(sending.phase).toBe("sending");
		const once = reduce(sending, { do: "ok", step: first(sending), saved: saved() });
		expect([once.phase, once.server.notes, once.draft, once.version, isUnsaved(once)]).toEqual(["idle", "one", "d1", 5, false]);
		expect(reduce(once, { do: "ok", step: first(sending), saved: saved("d9", 2) })).toBe(once);
	});

	it.each(["unreachable", "signed-out"] as const)("%s: nothing leaves the queue or the screen", (what) => {
		const after = reduce(reduce(begun, { do: "send" }), { do: what });
		expect([after.shown.notes, after.queue.length, isUnsaved(after)]).toEqual(["one", 1, true]);
		// signed out, nothing is sent until somebody is back
		expect(reduce(after, { do: "send" }).phase).toBe(what === "signed-out" ? "signed-out" : "sending");
		expect(reduce(reduce(after, { do: "signed-in" }), { do: "send" }).phase).toBe("sending");
	});

	it("a conflict holds the places that it is about; the rest of the step stays on screen", () => {
		const both = typed(beginQueue("tab-a", heard()), notes("", "mine"), supplier("", "Orrisay"));
		const step = first(both);
		const asked = reduce(both, { do: "conflict", step, issues: [{ code: "conflict", path: "field:notes", current: "theirs" }] });
		expect([asked.shown.notes, asked.shown.supplier, asked.queue.length]).toEqual(["theirs", "Orrisay", 0]);
		expect(asked.contested[0]?.clashes).toEqual([{ at: "field:notes", theirs: "theirs", side: null }]);
		// mine: the whole step goes again, on what the others made
		const mine = reduce(asked, { do: "settle", step, at: "field:notes", side: "mine" });
		expect(mine.queue[0]).toEqual({ client: "tab-a", n: 2, edits: [notes("theirs", "mine"), supplier("", "Orrisay")] });
		// theirs: only what was not asked about goes
		const theirs = reduce(asked, { do: "settle", step, at: "field:notes", side: "theirs" });
		expect(theirs.queue[0]?.edits).toEqual([supplier("", "Orrisay")]);
		expect(theirs.contested).toEqual([]);
	});

	it("every clash of a step waits for its answer before anything is sent", () => {
		const both = typed(beginQueue("tab-a", heard()), notes("", "mine"), supplier("", "mine"));
		const step = first(both);
		const issues = ["field:notes", "field:supplier"].map((path): Issue => ({ code: "conflict", path, current: "theirs" }));
		const one = reduce(reduce(both, { do: "conflict", step, issues }), { do: "settle", step, at: "field:notes", side: "mine" });
		expect([one.queue.length, one.contested.length, one.shown.notes]).toEqual([0, 1, "mine"]);
		const all = reduce(one, { do: "settle", step, at: "field:supplier", side: "theirs" });
		expect(all.queue[0]?.edits).toEqual([notes("theirs", "mine")]);
	});

	it("a source goes with the value that is given up, and stays with one that is kept", () => {
		const value = (sourceId: string) => ({ property: "density", sourceId });
		const edits: Edit[] = [
			{ at: "sources:s1", from: null, to: { title: "a" } },
			{ at: "density", from: null, to: value("s1") },
			{ at: "youngs_modulus", from: null, to: value("s1") },
		];
		const step: Step = { client: "t", n: 1, edits };
		const start: QueueState = {
			...beginQueue("t", heard()),
			contested: [{ step, clashes: [{ at: "density", theirs: null, side: null }] }],
		};
		const kept = reduce(start, { do: "settle", step, at: "density", side: "theirs" });
		expect(kept.queue[0]?.edits.map((e) => e.at)).toEqual(["sources:s1", "youngs_modulus"]);
		const alone: QueueState = {
			...start,
			contested: [{ step: { ...step, edits: edits.slice(0, 2) }, clashes: start.contested[0]?.clashes ?? [] }],
		};
		expect(reduce(alone, { do: "settle", step, at: "density", side: "theirs" }).queue).toEqual([]);
	});

	it("any other refusal is kept with its reason, tried again under a new number, or left", () => {
		const step = first(begun);
		const refused = reduce(begun, { do: "refused", step, issues: [{ code: "forbidden" }] });
		expect([refused.queue.length, refused.refused.length, isUnsaved(refused)]).toEqual([0, 1, true]);
		const again = reduce(refused, { do: "retry", step });
		expect([again.refused.length, again.queue[0]]).toEqual([0, { client: "tab-a", n: 2, edits: [notes("", "one")] }]);
		expect(isUnsaved(reduce(refused, { do: "drop", step }))).toBe(false);
	});

	it("what others did comes in under what is typed; an answer from before a save is not listened to", () => {
		const news = reduce(begun, { do: "heard", heard: heard({ ...BLANK, supplier: "Orrisay" }, { draft: "d1", version: 9 }) });
		expect([news.shown.notes, news.shown.supplier]).toEqual(["one", "Orrisay"]);
		const done = reduce(news, { do: "ok", step: first(news), saved: saved("d1", 12) });
		expect(reduce(done, { do: "heard", heard: heard(BLANK, { draft: "d1", version: 10 }) })).toBe(done);
	});

	it("what a gone page kept goes first, under its own numbers", () => {
		const { queue, contested, refused } = begun;
		const next = reduce(typed(beginQueue("tab-b", heard()), supplier("", "x")), {
			do: "adopt",
			kept: { queue, contested, refused },
		});
		expect(next.queue.map((s) => [s.client, s.n])).toEqual([
			["tab-a", 1],
			["tab-b", 1],
		]);
		expect([next.shown.notes, next.shown.supplier]).toEqual(["one", "x"]);
	});
});
