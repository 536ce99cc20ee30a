import type { RouteInput, SavedDraft } from "@alvek/contract";
import { applyEdits, BLANK, type Edit, type Material } from "@alvek/core/material";
import { fail, type IssueCode, ok, type Result } from "@alvek/core/result";
import { describe, expect, it } from "vitest";
import { type Heard, isUnsaved, type QueueState } from "./queue";
import { createDraftStore, type DraftStore, type Ports, saveStateOf } from "./store";

const notes = (from: string, to: string): Edit => ({ at: "field:notes", from, to });
const START: Heard = { document: BLANK, draft: null, base: null, version: 0 };

/** A server of one material that counts steps, and fails as it is told. */
function server() {
	let document: Material = BLANK;
	let version = 0;
	const last = new Map<string, number>();
	const script: (IssueCode | "lost")[] = [];
	const asked: RouteInput<"saveDraft">[] = [];
	return {
		asked,
		/** The next answers: a code, or `lost` for one that was taken and not heard of. */
		next: (...codes: (IssueCode | "lost")[]) => void script.push(...codes),
		get notes() {
			return document.notes;
		},
		async save(input: RouteInput<"saveDraft">): Promise<Result<SavedDraft>> {
			asked.push(input);
			const code = script.shift();
			if (code !== undefined && code !== "lost") return fail({ code });
			const { client = "", step = 0 } = input;
			if (step > (last.get(client) ?? 0)) {
				const applied = applyEdits(document, input.edits as Edit[]);
				if (!applied.ok) return applied;
				document = applied.value.material;
				last.set(client, step);
				version++;
			}
			if (code === "lost") return fail({ code: "unreachable" });
			return ok({ draftId: "d1", version, hash: "", savedAt: "", base: null });
		},
	};
}

let clients = 0;
function open(
	of: ReturnType<typeof server>,
	more: Partial<Ports> = {},
	start = START,
): { store: DraftStore; kept: QueueState[]; waits: number[] } {
	const kept: QueueState[] = [];
	const waits: number[] = [];
	const store = createDraftStore("m1", start, {
		newClient: () => `queue-${++clients}`,
		save: of.save,
		wait: async (ms) => void waits.push(ms),
		keep: (state) => void kept.push(state),
		confirmed: () => undefined,
		moved: () => undefined,
		...more,
	});
	return { store, kept, waits };
}

describe("the store of one material's queue", () => {
	it("sends steps in order, names the draft that the answers told, and keeps every state", async () => {
		const there = server();
		const { store, kept } = open(there);
		store.commit([notes("", "one")], "first");
		store.commit([notes("one", "two")], "second");
		expect(saveStateOf(store.getState())).toBe("saving");
		await store.flush();
		expect([there.notes, there.asked.map((a) => [a.step, a.draft])]).toEqual([
			"two",
			[
				[1, null],
				[2, "d1"],
			],
		]);
		expect(kept.some(isUnsaved)).toBe(true);
		expect([isUnsaved(kept.at(-1) as QueueState), saveStateOf(store.getState())]).toEqual([false, "saved"]);
	});

	it("an answer that was lost: the same step again under the same number, taken once", async () => {
		const there = server();
		there.next("unreachable", "lost", "database-busy");
		const { store, waits } = open(there);
		store.commit([notes("", "one")], "first");
		await store.flush();
		expect([there.notes, there.asked.map((a) => a.step), waits.length]).toEqual(["one", [1, 1, 1, 1], 3]);
	});

	it("a queue that begins anew on the same material is never taken for the one before", async () => {
		const there = server();
		const first = open(there);
		first.store.commit([notes("", "one")], "first");
		await first.store.flush();
		const second = open(there, {}, { ...START, document: { ...BLANK, notes: "one" } });
		second.store.commit([notes("one", "two")], "again");
		await second.store.flush();
		expect(there.notes).toBe("two");
	});

	it("signed out: nothing more is sent until somebody is back, and then all of it", async () => {
		const there = server();
		there.next("signed-out");
		const { store } = open(there);
		store.commit([notes("", "one")], "first");
		await store.flush();
		store.commit([notes("one", "two")], "second");
		await store.flush();
		expect([there.asked.length, saveStateOf(store.getState()), store.getState().shown.notes]).toEqual([1, "unsaved", "two"]);
		store.signedIn();
		await store.flush();
		expect(there.notes).toBe("two");
	});

	it("what is refused is kept with its reason, and can be tried again", async () => {
		const there = server();
		there.next("forbidden");
		const { store } = open(there);
		store.commit([notes("", "one")], "first");
		await store.flush();
		const [refused] = store.getState().refused;
		expect([refused?.issues[0]?.code, store.getState().shown.notes]).toEqual(["forbidden", ""]);
		if (refused !== undefined) store.retry(refused.step);
		await store.flush();
		expect([there.notes, isUnsaved(store.getState())]).toEqual(["one", false]);
	});

	it("a conflict asks for what stands there now, and goes on as the person says", async () => {
		const there = server();
		await there.save({ id: "m1", client: "somebody", step: 1, edits: [notes("", "theirs")] } as never);
		let moved = 0;
		const { store } = open(there, { moved: () => void moved++ });
		store.commit([notes("", "mine")], "first");
		await store.flush();
		const [asked] = store.getState().contested;
		expect([moved, asked?.clashes[0]?.theirs]).toEqual([1, "theirs"]);
		if (asked !== undefined) store.settle(asked, "field:notes", "mine");
		await store.flush();
		expect(there.notes).toBe("mine");
	});

	it("the latest step is taken back as a step of its own", async () => {
		const there = server();
		const { store } = open(there);
		store.commit([notes("", "one")], "a note");
		expect(store.commit([notes("elsewhere", "x")], "stale").ok).toBe(false);
		await store.flush();
		expect(store.undo()).toBe("a note");
		await store.flush();
		expect([there.notes, store.undo()]).toEqual(["", null]);
	});
});
