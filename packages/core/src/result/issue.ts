import type { SENTENCES } from "./sentences.data";

/** What can go wrong. Stable and machine-readable; each code has its sentence. */
export type IssueCode = keyof typeof SENTENCES;

/** One fact about what went wrong: plain data, so it survives JSON, workers and HTTP. */
export type Issue = Facts & { readonly code: IssueCode };

/** What a sentence is made from. */
export type Facts = {
	/** Where in the input: a value id, a column, an entity. */
	readonly path?: string;
	readonly line?: number;
	readonly actual?: string | number | null;
	readonly expected?: string;
	readonly unit?: string;
	/** Possible readings or remedies that a person can pick from. */
	readonly choices?: readonly string[];
	/** The value that stands in the way, for conflicts. */
	readonly current?: unknown;
};

/** An expected failure is a value, never a throw. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly issues: readonly Issue[] };

export function ok<T>(value: T): Result<T> {
	return { ok: true, value };
}

export function fail(...issues: Issue[]): { ok: false; issues: readonly Issue[] } {
	return { ok: false, issues };
}
