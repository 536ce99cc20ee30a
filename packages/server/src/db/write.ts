import type { EventAction, SubjectKind } from "@alvek/core/event";
import type { Result } from "@alvek/core/result";
import type { Actor } from "@alvek/core/rights";
import type { Db, Sql } from "./connection";

/** Everything a service may use; nothing of HTTP. */
export type Context = {
	readonly db: Db;
	readonly actor: Actor;
	/** Hash of the session that asks; absent for tokens and scripts of the server itself. */
	readonly session?: string;
	/** Which open page asks, so that it is not told its own news. */
	readonly tab?: string;
	readonly now: () => string;
	readonly newId: () => string;
};

/** Run after the commit, never when it was rolled back: patching the index, waking listeners. */
export type AfterCommit = (work: () => Promise<void> | void) => void;

/**
 * The only way to write: one transaction, rolled back when the Result is not ok (Sequelize itself commits a returned
 * failure).
 */
export async function inWrite<T>(ctx: Context, fn: (sql: Sql, after: AfterCommit) => Promise<Result<T>>): Promise<Result<T>> {
	const later: (() => Promise<void> | void)[] = [];
	const result = await ctx.db.transaction(async (sql) => {
		const value = await fn(sql, (work) => later.push(work));
		return { commit: value.ok, value };
	});
	// what is stored is stored: nothing that comes after the commit makes it a failure, or keeps the reply waiting for long
	if (result.ok) for (const work of later) await ctx.db.afterCommit(work);
	return result;
}

export type EventInput = {
	/** A step of the catalogue, or that one taken back. */
	readonly action: EventAction | `undo ${string}`;
	readonly kind: SubjectKind;
	readonly subject: string;
	/** What changed, for history. */
	readonly changeset: unknown;
	/** How to take it back; null when it cannot be. */
	readonly inverse: Inverse | null;
};

/** The ways back that `undo` knows. Each names the state that it expects to find, so that newer changes are not lost. */
export type Inverse =
	| {
			readonly kind: "material-row";
			readonly id: string;
			readonly expect: Record<string, unknown>;
			readonly set: Record<string, unknown>;
	  }
	| {
			readonly kind: "library-row";
			readonly id: string;
			readonly expect: Record<string, unknown>;
			readonly set: Record<string, unknown>;
	  }
	| {
			readonly kind: "material-rows";
			/** Rows of many materials, changed together. */
			readonly rows: readonly {
				readonly id: string;
				readonly expect: Record<string, unknown>;
				readonly set: Record<string, unknown>;
			}[];
	  }
	| {
			readonly kind: "groups";
			/** Groups as they were and are; null: not there. */
			readonly expect: readonly (GroupState | null)[];
			readonly set: readonly (GroupState | null)[];
			/** Materials that moved along. */
			readonly rows: readonly { readonly id: string; readonly expect: string | null; readonly set: string | null }[];
	  }
	| {
			readonly kind: "grants";
			readonly target: string;
			readonly on: "library" | "set" | "project";
			readonly expect: readonly GrantState[];
			readonly set: readonly GrantState[];
	  }
	| {
			readonly kind: "working";
			readonly library: string;
			readonly materials: readonly string[];
			/** Whether undoing puts them on the list. */
			readonly on: boolean;
	  }
	| {
			readonly kind: "project-row";
			readonly id: string;
			readonly expect: Record<string, unknown>;
			readonly set: Record<string, unknown>;
	  }
	| {
			readonly kind: "assignments";
			readonly project: string;
			readonly expect: readonly AssignmentState[];
			readonly set: readonly AssignmentState[];
			/** The project's default, where it changed with them. */
			readonly standard?: { readonly expect: string | null; readonly set: string | null };
	  }
	| {
			readonly kind: "follow";
			readonly project: string;
			readonly library: string;
			/** Editions; null: the latest. */
			readonly expect: string | null;
			readonly set: string | null;
	  }
	| {
			readonly kind: "geometry";
			readonly project: string;
			readonly hash: string;
			/** The project, deleted and nobody's, in which what was taken out lies. */
			readonly aside: string;
			/** Whether undoing brings it back or takes it out. */
			readonly back: boolean;
	  }
	| {
			readonly kind: "drafts";
			/** Drafts of one person on many materials; null: none. */
			readonly expect: readonly (DraftState | null)[];
			readonly set: readonly (DraftState | null)[];
	  }
	| { readonly kind: "draft"; readonly draft: DraftState; readonly parts: readonly AssignmentState[] };

export type InverseOf<K extends Inverse["kind"]> = Extract<Inverse, { kind: K }>;

export type GroupState = {
	readonly id: string;
	readonly library: string;
	readonly parent: string | null;
	readonly name: string;
	readonly ord: number;
};

export type GrantState = { readonly by: string; readonly subject: string; readonly role: string };

/** What a part stands on; both null: nothing. */
export type AssignmentState = {
	readonly part: string;
	readonly revision: string | null;
	readonly draft: string | null;
	readonly before: string | null;
	/** How the part came to it; events from before defaults existed do not say, which is chosen. */
	readonly state?: "chosen" | "default";
};

export type DraftState = {
	readonly id: string;
	readonly material: string;
	readonly person: string;
	readonly base: string | null;
	readonly edits: string;
	readonly version: number;
};

/** Appends to the event log, in the transaction of the change itself; its number. */
export async function recordEvent(ctx: Context, sql: Sql, event: EventInput): Promise<number> {
	await sql.run(
		`INSERT INTO event (at, actor, action, subject_kind, subject_id, changeset, inverse)
		 VALUES ($at, $actor, $action, $kind, $subject, $changeset, $inverse)`,
		{
			at: ctx.now(),
			actor: ctx.actor.person,
			action: event.action,
			kind: event.kind,
			subject: event.subject,
			changeset: JSON.stringify(event.changeset),
			inverse: event.inverse === null ? null : JSON.stringify(event.inverse),
		},
	);
	const row = await sql.one<{ seq: number }>("SELECT last_insert_rowid() AS seq");
	const seq = row?.seq ?? 0;
	if (ctx.tab !== undefined) rememberTab(ctx.db, seq, ctx.tab);
	return seq;
}

/** Which page asked for the latest events. Of use for seconds only, so it is not stored. */
const tabs = new WeakMap<Db, Map<number, string>>();
const TABS_KEPT = 1000;

function rememberTab(db: Db, seq: number, tab: string): void {
	const known = tabs.get(db) ?? new Map<number, string>();
	tabs.set(db, known.set(seq, tab));
	const [oldest] = known.keys();
	if (known.size > TABS_KEPT && oldest !== undefined) known.delete(oldest);
}

export const tabOf = (db: Db, seq: number): string | null => tabs.get(db)?.get(seq) ?? null;
