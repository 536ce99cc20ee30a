import type { Issue } from "../result";

/**
 * The lock of a library guards publishing, moving and deleting, never drafting. It is closed unless somebody has opened
 * it; whoever has opened it holds it until they close it, until nobody used it for the idle time, or until a colleague
 * takes it over. Somebody who works alone has no lock.
 */
export type Lock = {
	readonly openedBy: string;
	/** UTC ISO. */
	readonly since: string;
	readonly usedAt: string;
};

/** When an open lock closes itself, if nobody uses it until then; UTC ISO. */
export function closesAt(lock: Lock, idleMinutes: number): string {
	return new Date(Date.parse(lock.usedAt) + idleMinutes * 60_000).toISOString();
}

/** The lock as it stands now: one that was not used for the idle time has closed itself. */
export function lockNow(lock: Lock | null, idleMinutes: number, now: string): Lock | null {
	return lock !== null && closesAt(lock, idleMinutes) > now ? lock : null;
}

/**
 * May this person publish, move or delete now?
 * @param lock as `lockNow` gives it
 * @param holder name of whoever holds it, for the sentence
 * @returns null, or `locked` (nobody has opened it) or `locked-by` (somebody else holds it)
 */
export function passesLock(lock: Lock | null, person: string, alone: boolean, holder: string): Issue | null {
	if (alone || lock?.openedBy === person) return null;
	return lock === null ? { code: "locked" } : { code: "locked-by", actual: holder };
}
