import type { LibraryView, PublishEffect } from "@alvek/contract";
import { BLANK, difference, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { publishedText, publishState, reasonOf } from "./ready";

const density = (text: string) => {
	const made = makeValue("density", text);
	if (!made.ok) throw new Error();
	return { ...BLANK, values: { density: made.value } };
};
const CHANGED = difference(density("1 g/cm3"), density("2 g/cm3"));
const ADDED = difference(BLANK, density("1 g/cm3"));
const WORDS = difference(BLANK, { ...BLANK, notes: "said" });

const effect = (id: string, edits: readonly unknown[] = CHANGED, more: Partial<PublishEffect> = {}): PublishEffect =>
	({ id, name: id, libraryId: "own", revision: 4, issues: [], checks: 0, hash: id, edits, ...more }) as unknown as PublishEffect;
const library = (id: string, holder: string | null, more: Partial<LibraryView> = {}): LibraryView =>
	({
		id,
		name: id,
		approval: false,
		alone: false,
		lock: holder === null ? null : { person: holder },
		...more,
	}) as unknown as LibraryView;

const MINE = [library("own", "maren")];
const ME = { me: "maren", alone: false };
const SAID = { left: new Set<string>(), note: "measured" };
const plan = (...materials: readonly PublishEffect[]) => ({ materials });

describe("whether a publish can be done", () => {
	it("needs the lock of every library, open, by this person", () => {
		const both = plan(effect("a"), effect("b", CHANGED, { libraryId: "other" }));
		const ready = (libraries: readonly LibraryView[]) => publishState(both, libraries, ME, SAID).ready;
		expect(ready([library("own", "maren"), library("other", "maren")])).toBe(true);
		expect(ready([library("own", "maren"), library("other", null)])).toBe(false);
		expect(ready([library("own", "maren"), library("other", "okke")])).toBe(false);
		expect(publishState(plan(effect("a")), [library("own", null)], { me: null, alone: false }, SAID).ready).toBe(false);
	});

	it("names the libraries that are shut; one that nobody else reads has no lock", () => {
		const two = plan(effect("a"), effect("b", CHANGED, { libraryId: "mine" }));
		const state = publishState(two, [library("own", "okke"), library("mine", null, { alone: true })], ME, SAID);
		expect(state.shut.map((l) => l.id)).toEqual(["own"]);
		expect(state.ready).toBe(false);
	});

	it("needs a note, but for who works alone, who needs no lock either", () => {
		const silent = { ...SAID, note: "  " };
		expect(publishState(plan(effect("a")), MINE, ME, silent).ready).toBe(false);
		expect(
			publishState(plan(effect("a")), [library("own", null, { alone: true })], { me: "maren", alone: true }, silent).ready,
		).toBe(true);
	});

	it("takes neither what has an open question nor what is left out; with nothing left there is nothing to do", () => {
		const three = plan(effect("a"), effect("b", CHANGED, { issues: [{ code: "conflict" }] as never }), effect("c"));
		const state = publishState(three, MINE, ME, { ...SAID, left: new Set(["c"]) });
		expect([state.chosen.map((m) => m.id), state.ready, state.word]).toEqual([["a"], true, "Publish 1 material"]);
		const none = publishState(three, MINE, ME, { ...SAID, left: new Set(["a", "c"]) });
		expect([none.chosen, none.ready]).toEqual([[], false]);
	});

	it("asks a second person where a library wants that, and says so on the button", () => {
		// the lock, which guards publishing, is not asked: a proposal publishes nothing
		const wanted = [library("own", null, { approval: true })];
		expect(publishState(plan(effect("a")), wanted, ME, SAID)).toMatchObject({
			waits: true,
			word: "Ask for approval",
			ready: true,
		});
		expect(publishState(plan(effect("a")), [library("own", null, { approval: true, alone: true })], ME, SAID)).toMatchObject({
			waits: false,
			word: "Publish revision 5",
		});
	});

	it("is of the gravest kind of what is chosen", () => {
		const kind = (...materials: readonly PublishEffect[]) => publishState(plan(...materials), MINE, ME, SAID).kind;
		expect([
			kind(effect("a", WORDS)),
			kind(effect("a", WORDS), effect("b", ADDED)),
			kind(effect("a"), effect("b", WORDS)),
		]).toEqual(["words", "values-added", "values-changed"]);
	});
});

describe("what is said of it", () => {
	it("why the kind matters", () => {
		const projects = (shown: number, hidden: number) =>
			({ projects: Array(shown).fill({}), hidden: { projects: hidden } }) as never;
		expect(reasonOf("values-changed", projects(0, 0))).toBe("no project stands on it yet");
		expect(reasonOf("values-changed", projects(1, 0))).toBe("because 1 project stands on it");
		expect(reasonOf("words", projects(1, 2))).toBe("3 projects stand on it");
	});

	it("what is out, and what waits", () => {
		const done = { published: 1, proposed: 0, movedParts: 0, revision: 5 };
		expect(publishedText({ name: "Bronze" }, done, 1)).toBe("Revision 5 of Bronze is out.");
		expect(publishedText(undefined, { ...done, published: 3, movedParts: 2 }, 3)).toBe(
			"3 materials published in one go. 2 tried parts moved on.",
		);
		expect(publishedText({ name: "Bronze" }, { ...done, published: 0, proposed: 1 }, 1)).toBe("1 draft waits for approval.");
		expect(publishedText(undefined, { ...done, published: 0, proposed: 2 }, 2)).toBe("2 drafts wait for approval.");
	});
});
