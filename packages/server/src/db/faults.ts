import type { Issue, IssueCode } from "@alvek/core/result";

/** A failure of disk or database that a person can do something about. Thrown where no Result can be answered. */
export class Fault extends Error {
	constructor(readonly issue: Issue) {
		super(issue.code);
	}
}

const CODES: Readonly<Record<string, IssueCode>> = {
	SQLITE_FULL: "disk-full",
	ENOSPC: "disk-full",
	EDQUOT: "disk-full",
	SQLITE_READONLY: "folder-read-only",
	SQLITE_CANTOPEN: "folder-read-only",
	EROFS: "folder-read-only",
	EACCES: "folder-read-only",
	EPERM: "folder-read-only",
	SQLITE_CORRUPT: "database-damaged",
	SQLITE_NOTADB: "database-damaged",
	SQLITE_BUSY: "database-busy",
	SQLITE_LOCKED: "database-busy",
	SQLITE_IOERR: "disk-failing",
	EIO: "disk-failing",
};

/**
 * What the disk or the database refused, as an issue; null for every other failure, which is a bug. Sequelize keeps
 * SQLite's own error as `original`.
 */
export function faultOf(cause: unknown): Issue | null {
	if (cause instanceof Fault) return cause.issue;
	const { code, original, message } = (cause ?? {}) as { code?: unknown; original?: unknown; message?: unknown };
	if (original !== undefined) return faultOf(original);
	const known = typeof code === "string" ? CODES[code] : undefined;
	return known === undefined ? null : { code: known, actual: String(message ?? "").slice(0, 200) };
}
