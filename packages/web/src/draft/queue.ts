import type { SavedDraft } from "@alvek/contract";
import { applyEdits, contentAt, type Edit, type Material, type MaterialValue, type Side } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";

/**
 * What was typed on one material and is not confirmed yet, as a pure state machine. A step is one unit: a value never
 * parts from its source. Steps carry the queue that they were typed into and a number, so that one that arrives twice counts once.
 */
export type Step = { readonly client: string; readonly n: number; readonly edits: readonly Edit[] };

/** A place of a step that somebody else changed first; `side` once the person has chosen. */
export type Clash = { readonly at: string; readonly theirs: unknown; readonly side: Side | null };
export type Contested = { readonly step: Step; readonly clashes: readonly Clash[] };
export type Refused = { readonly step: Step; readonly issues: readonly Issue[] };

export type Phase = "idle" | "sending" | "offline" | "signed-out";

export type QueueState = {
	readonly phase: Phase;
	readonly client: string;
	/** Number of the next step. */
	readonly next: number;
	/** What the server is known to hold. */
	readonly server: Material;
	/** My draft there, and the revision below it; a save names them. */
	readonly draft: string | null;
	readonly base: string | null;
	/** Of the draft; what is older is not listened to. */
	readonly version: number;
	/** What the person sees: the server's with everything typed on top. */
	readonly shown: Material;
	/** In the order typed; the first one is on its way while `sending`. */
	readonly queue: readonly Step[];
	readonly contested: readonly Contested[];
	readonly refused: readonly Refused[];
};

/** What the server says of a material. */
export type Heard = {
	readonly document: Material;
	readonly draft: string | null;
	readonly base: string | null;
	readonly version: number;
};

/** Steps of a page that is gone, kept in the browser. */
export type Kept = Pick<QueueState, "queue" | "contested" | "refused">;

export type Action =
	| { readonly do: "type"; readonly edits: readonly Edit[] }
	| { readonly do: "send" }
	| { readonly do: "ok"; readonly step: Step; readonly saved: Pick<SavedDraft, "draftId" | "base" | "version"> }
	| { readonly do: "unreachable" | "signed-out" | "signed-in" }
	| { readonly do: "conflict" | "refused"; readonly step: Step; readonly issues: readonly Issue[] }
	| { readonly do: "heard"; readonly heard: Heard }
	| { readonly do: "settle"; readonly step: Step; readonly at: string; readonly side: Side }
	| { readonly do: "retry" | "drop"; readonly step: Step }
	| { readonly do: "adopt"; readonly kept: Kept };

export function beginQueue(client: string, heard: Heard): QueueState {
	const { document: server, draft, base, version } = heard;
	const empty = { queue: [], contested: [], refused: [] };
	return { phase: "idle", client, next: 1, server, draft, base, version, shown: server, ...empty };
}

/** Is anything here that the server has not confirmed? */
export const isUnsaved = (state: Kept): boolean => state.queue.length + state.contested.length + state.refused.length > 0;

const same = (a: Step, b: Step): boolean => a.client === b.client && a.n === b.n;

export function reduce(state: QueueState, action: Action): QueueState {
	const next = changed(state, action);
	return next === state ? state : withShown(next);
}

function changed(state: QueueState, action: Action): QueueState {
	switch (action.do) {
		case "type":
			return typedOn(state, action.edits);
		case "send":
			return state.phase === "signed-out" || state.queue.length === 0 ? state : { ...state, phase: "sending" };
		case "ok": {
			const { draftId, base, version } = action.saved;
			const left = without(state, action.step);
			// an answer that comes for the second time says nothing new
			if (left === state) return state;
			const server = forced(state.server, action.step.edits);
			return { ...left, phase: "idle", server, draft: draftId, base, version: Math.max(version, state.version) };
		}
		case "unreachable":
			return { ...state, phase: "offline" };
		case "signed-out":
			return { ...state, phase: "signed-out" };
		case "signed-in":
			return state.phase === "signed-out" ? { ...state, phase: "idle" } : state;
		case "conflict": {
			const clashes = action.issues.map((i): Clash => ({ at: i.path ?? "", theirs: i.current ?? null, side: null }));
			const { left, step } = takenOut(state, action.step);
			if (left === state) return state;
			const told = clashes.map((c): Edit => ({ at: c.at, from: null, to: c.theirs }));
			const contested = [...state.contested, { step, clashes }];
			return { ...left, phase: "idle", server: forced(state.server, told), contested };
		}
		case "refused": {
			const { left, step } = takenOut(state, action.step);
			return left === state ? state : { ...left, phase: "idle", refused: [...state.refused, { step, issues: action.issues }] };
		}
		case "heard": {
			const { document: server, draft, base, version } = action.heard;
			// an answer from before a save of mine knows less than I do
			return draft !== null && version < state.version ? state : { ...state, server, draft, base, version };
		}
		case "settle":
			return settled(state, action.step, action.at, action.side);
		case "retry": {
			const found = state.refused.find((r) => same(r.step, action.step));
			if (found === undefined) return state;
			// under a new number: later steps of the page may have been taken meanwhile
			return enqueue(changed(state, { do: "drop", step: action.step }), onto(expected(state), found.step.edits));
		}
		case "drop":
			return { ...state, refused: state.refused.filter((r) => !same(r.step, action.step)) };
		case "adopt":
			return {
				...state,
				queue: [...action.kept.queue, ...state.queue],
				contested: [...action.kept.contested, ...state.contested],
				refused: [...action.kept.refused, ...state.refused],
			};
	}
}

function enqueue(state: QueueState, edits: readonly Edit[]): QueueState {
	if (edits.length === 0) return state;
	const step: Step = { client: state.client, n: state.next, edits };
	return { ...state, next: state.next + 1, queue: [...state.queue, step] };
}

function without(state: QueueState, step: Step): QueueState {
	const queue = state.queue.filter((s) => !same(s, step));
	return queue.length === state.queue.length ? state : { ...state, queue };
}

const touches = (edits: readonly Edit[], places: ReadonlySet<string>): boolean => edits.some((e) => places.has(e.at));
const placesOf = (edits: readonly Edit[]): ReadonlySet<string> => new Set(edits.map((e) => e.at));

/** A step out of the queue, with the later ones that were typed onto it: they have one fate, and one question. */
function takenOut(state: QueueState, step: Step): { readonly left: QueueState; readonly step: Step } {
	const at = state.queue.findIndex((s) => same(s, step));
	if (at < 0) return { left: state, step };
	const whole: Edit[] = [...step.edits];
	const queue = state.queue.filter((s, i) => {
		if (i < at || (i > at && !touches(s.edits, placesOf(whole)))) return true;
		if (i > at) whole.push(...s.edits);
		return false;
	});
	return { left: { ...state, queue }, step: { ...step, edits: whole } };
}

/**
 * New edits. Typed over a place that is being asked about they answer the question; typed onto what waits for another
 * answer they wait with it.
 */
function typedOn(state: QueueState, edits: readonly Edit[]): QueueState {
	const places = placesOf(edits);
	let now = state;
	for (const { step, clashes } of state.contested)
		for (const { at, side } of clashes) if (side === null && places.has(at)) now = settled(now, step, at, "theirs");
	const below = now.contested.find(({ step, clashes }) => {
		const given = new Set(clashes.filter((c) => c.side !== "mine").map((c) => c.at));
		return step.edits.some((e) => places.has(e.at) && !given.has(e.at));
	});
	if (below === undefined) return enqueue(now, edits);
	const joined = { ...below, step: { ...below.step, edits: [...below.step.edits, ...edits] } };
	return { ...now, contested: now.contested.map((c) => (c === below ? joined : c)) };
}

/** Once every clash of a step has its side, what is left of the step is sent again on what the others made. */
function settled(state: QueueState, step: Step, at: string, side: Side): QueueState {
	const contested = state.contested.map((c) =>
		same(c.step, step) ? { ...c, clashes: c.clashes.map((k) => (k.at === at ? { ...k, side } : k)) } : c,
	);
	const done = contested.find((c) => same(c.step, step) && c.clashes.every((k) => k.side !== null));
	if (done === undefined) return { ...state, contested };
	const mine = keptOf(done);
	return enqueue({ ...state, contested: contested.filter((c) => c !== done) }, onto(expected(state), mine));
}

/** The edits of a step whose places the person keeps; a source that only given-up values named goes with them. */
function keptOf({ step, clashes }: Contested): readonly Edit[] {
	const given = new Set(clashes.filter((c) => c.side === "theirs").map((c) => c.at));
	const sourceOf = (edit: Edit): string => `sources:${(edit.to as MaterialValue | null)?.sourceId ?? ""}`;
	const kept = step.edits.filter((e) => !given.has(e.at));
	const orphaned = new Set(step.edits.filter((e) => given.has(e.at)).map(sourceOf));
	for (const edit of kept) orphaned.delete(sourceOf(edit));
	return kept.filter((e) => !orphaned.has(e.at));
}

/** What the server will hold once the queue has been taken. */
const expected = (state: QueueState): Material =>
	forced(
		state.server,
		state.queue.flatMap((s) => s.edits),
	);

/** The same edits, made on what stands there now; what stands there already is no edit. */
function onto(below: Material, edits: readonly Edit[]): readonly Edit[] {
	let document = below;
	return edits.flatMap((edit) => {
		const from = contentAt(document, edit.at);
		document = forced(document, [edit]);
		return JSON.stringify(from) === JSON.stringify(edit.to) ? [] : [{ ...edit, from }];
	});
}

/** A document with these edits, whatever stood there before; one that cannot be made is left out. */
export function forced(document: Material, edits: readonly Edit[]): Material {
	return edits.reduce((now, edit) => {
		const applied = applyEdits(now, [{ ...edit, from: contentAt(now, edit.at) }]);
		return applied.ok ? applied.value.material : now;
	}, document);
}

/** Nothing typed leaves the screen but the places that are being asked about, and what was refused. */
function withShown(state: QueueState): QueueState {
	const asked = state.contested.flatMap(({ step, clashes }) => {
		const open = new Set(clashes.filter((c) => c.side !== "mine").map((c) => c.at));
		return step.edits.filter((e) => !open.has(e.at));
	});
	const edits = [...asked, ...state.queue.flatMap((s) => s.edits)];
	const shown = edits.length === 0 ? state.server : forced(state.server, edits);
	return { ...state, shown };
}
