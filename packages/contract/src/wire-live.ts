import type { JobView } from "./wire";

/** One thing that happened, for pages that are open. It says what changed, never the new numbers. */
export type LiveEvent = {
	readonly seq: number;
	readonly at: string;
	readonly by: { readonly id: string; readonly name: string };
	/** As in history: `material.publish`, `lock.open`, `undo parts.assign`. */
	readonly action: string;
	readonly kind: "material" | "library" | "project" | "person" | "team";
	readonly subject: string;
	/** Name of the subject as it is now. */
	readonly name: string;
	/** Where a material lives: a library's id, or `project:` and a project's id. */
	readonly place: string | null;
	/** The revision that came out, where one did. */
	readonly revision: number | null;
	/** Which open page asked for it; null where that is not known any more. */
	readonly tab: string | null;
};

/** What pages of one person are told beside what happened: without a number, and over when it is missed. */
export type StreamMessage = { readonly type: "job"; readonly id: string; readonly data: JobView };

/** What happened after an event that a page has seen. */
export type News = {
	/** The newest event there is; ask for what comes after it next time. */
	readonly seq: number;
	readonly events: readonly LiveEvent[];
	/** Too much happened to be told one by one: everything shown may be out of date. */
	readonly missed: boolean;
};

/** How the installation is doing. */
export type Health = {
	readonly ok: boolean;
	readonly version: string;
	readonly database: { readonly ok: boolean; readonly damaged: boolean; readonly commits: number };
	/** Writes that wait or run. */
	readonly queue: { readonly waiting: number };
	/** `refused`: why the latest save was not taken, as a code; null while saves are taken. */
	readonly disk: { readonly ok: boolean; readonly free_bytes: number; readonly refused: string | null };
	/** Null where no backups are scheduled; without an age none was made yet. */
	readonly backup: { readonly ok: boolean; readonly age_s: number | null; readonly failed: string | null } | null;
};
