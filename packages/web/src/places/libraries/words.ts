import type { LockView } from "@alvek/contract";

const MINUTE = 60_000;

/** The lock of a library in a few words: `locked`, `open for 24 min by you`. */
export function lockWords(lock: LockView | null, me: string, now: number = Date.now()): string {
	if (lock === null) return "locked";
	const minutes = Math.max(1, Math.round((Date.parse(lock.closesAt) - now) / MINUTE));
	return `open for ${minutes} min by ${lock.person === me ? "you" : lock.name}`;
}
