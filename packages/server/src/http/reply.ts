import { STEPS_HEADER } from "@alvek/contract";
import { describeIssue, type Issue, type IssueCode, type Result } from "@alvek/core/result";
import type { Response } from "express";

/** What a code is answered with; 422 where it is not here. */
const STATUS: Readonly<Partial<Record<IssueCode, number>>> = {
	"signed-out": 401,
	"wrong-sign-in": 401,
	"ticket-gone": 404,
	"too-many-tries": 429,
	"too-many-requests": 429,
	"sign-in-busy": 429,
	"not-as-seen": 409,
	"proposal-stale": 409,
	"draft-moved": 409,
	"not-found": 404,
	forbidden: 403,
	"read-only": 403,
	"bad-host": 403,
	conflict: 409,
	"newer-change": 409,
	"name-taken": 409,
	"code-taken": 409,
	"link-taken": 409,
	"id-taken": 409,
	"login-taken": 409,
	locked: 409,
	"locked-by": 409,
	"in-use": 409,
	"same-name": 409,
	"already-imported": 409,
	"merge-moved": 409,
	"library-taken": 409,
	"group-taken": 409,
	"team-taken": 409,
	"upload-too-large": 413,
	"body-too-large": 413,
	internal: 500,
	"database-damaged": 503,
	"database-busy": 503,
	"folder-read-only": 503,
	"disk-failing": 503,
	"disk-full": 507,
	"file-missing": 500,
	"file-damaged": 500,
};

export function statusOf(issues: readonly Issue[]): number {
	return STATUS[issues[0]?.code ?? "internal"] ?? 422;
}

/** Issues go out with their sentence, so that a script shows the same words as the interface. */
export function sendIssues(res: Response, issues: readonly Issue[]): void {
	res.status(statusOf(issues)).json({ ok: false, issues: issues.map((i) => ({ ...i, message: describeIssue(i) })) });
}

/** What came of a request, with the steps that it recorded: whoever asked knows by them what to ask for again. */
export function sendResult(res: Response, result: Result<unknown>): void {
	if (!result.ok) return sendIssues(res, result.issues);
	const { steps } = (res.locals.context ?? {}) as { readonly steps?: ReadonlySet<string> };
	if (steps !== undefined && steps.size > 0) res.setHeader(STEPS_HEADER, [...steps].join(","));
	res.json(result);
}
