import { csvText, type HistoryPage, type HistoryRow, type RouteInput } from "@alvek/contract";
import { actionsOf, QUIET_ACTIONS, type StepClass } from "@alvek/core/event";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Bind } from "../db/connection";
import { authoriseLibrary, authoriseProject, readableLibraries } from "../db/rights";
import type { Context } from "../db/write";
import { visibilityOf } from "../live/news";
import { authorised } from "../materials/access";
import { type EventRow, historyRow, namesIn } from "./words";

const PAGE = 200;
const MOST_EXPORTED = 100_000;

/** What a step is about; taking it back, however often, counts with the step. */
const STEP = "replace(e.action, 'undo ', '')";

/**
 * What happened to a material that was never published is its authors' alone: those who have a draft of it, and whoever
 * did the step. `m` is the material of the event.
 */
const SEEN = `(e.subject_kind <> 'material' OR e.actor = $me OR EXISTS (SELECT 1 FROM revision r WHERE r.material_id = e.subject_id)
	OR EXISTS (SELECT 1 FROM draft f WHERE f.material_id = e.subject_id AND f.person_id = $me))`;

const MAY_UNDO = "e.actor = $me AND e.inverse IS NOT NULL AND e.undone_by IS NULL AS may_undo";
const STEPS = 30;
const STEPS_DAYS = 30;

/** My latest steps that can be taken back, in every place; steps back themselves are in the history. */
export async function listSteps(ctx: Context): Promise<Result<readonly HistoryRow[]>> {
	const since = new Date(Date.parse(ctx.now()) - STEPS_DAYS * 86_400_000).toISOString();
	const rows = await ctx.db.all<EventRow & { place: string | null }>(
		`SELECT e.seq, e.at, p.name AS "by", e.action, e.subject_kind, e.subject_id, COALESCE(m.name, l.name, j.name, '') AS subject, e.changeset,
			COALESCE(m.library_id, 'project:' || m.project_id, CASE WHEN l.archived = 0 THEN l.id END,
				CASE WHEN j.removed_at IS NULL THEN 'project:' || j.id END) AS place, e.undone_by, ${MAY_UNDO}
		 FROM event e JOIN person p ON p.id = e.actor
		 LEFT JOIN material m ON e.subject_kind = 'material' AND m.id = e.subject_id
		 LEFT JOIN library l ON e.subject_kind = 'library' AND l.id = e.subject_id
		 LEFT JOIN project j ON e.subject_kind = 'project' AND j.id = e.subject_id
		 WHERE e.actor = $me AND e.at > $since AND e.inverse IS NOT NULL AND e.undone_by IS NULL AND e.action NOT LIKE 'undo %'
		 ORDER BY e.seq DESC LIMIT ${STEPS}`,
		{ me: ctx.actor.person, since },
	);
	// what became of places that one may no longer read is no longer told, not even their names
	const { readable } = await visibilityOf(ctx);
	const seen = rows.filter((r) => r.place === null || readable.has(r.place));
	const names = await namesIn(ctx, seen);
	return ok(seen.map((row) => historyRow(row, names)));
}

type Filter = Pick<RouteInput<"history">, "by" | "what" | "from" | "until" | "text">;

/** What happened to a material, a library (with its materials) or a project, the newest first, narrowed. */
export async function history(ctx: Context, input: RouteInput<"history">): Promise<Result<HistoryPage>> {
	const allowed = await mayRead(ctx, input);
	if (!allowed.ok) return allowed;
	const rows = await eventsOf(ctx, input, input, Number(input.before ?? Number.MAX_SAFE_INTEGER), PAGE + 1);
	const shown = rows.slice(0, PAGE);
	const names = await namesIn(ctx, shown);
	return ok({
		rows: shown.map((row) => historyRow(row, names)),
		next: rows.length > PAGE ? (shown.at(-1)?.seq ?? null) : null,
	});
}

/** The same as a table for a spreadsheet: all of it that passes the filter. */
export async function historyTable(
	ctx: Context,
	input: RouteInput<"historyTable">,
): Promise<Result<{ file: string; csv: string }>> {
	const allowed = await mayRead(ctx, input);
	if (!allowed.ok) return allowed;
	const rows = await eventsOf(ctx, input, input, Number.MAX_SAFE_INTEGER, MOST_EXPORTED);
	const names = await namesIn(ctx, rows);
	const lines = rows.map((row) => {
		const { at, by, did, subject, note, undone } = historyRow(row, names);
		return [at, by, did, subject, note, undone ? "taken back" : ""];
	});
	const csv = csvText([["when (UTC)", "who", "what", "on", "why", "state"], ...lines], ",");
	return ok({ file: `history of ${input.kind} ${input.id}.csv`, csv });
}

function eventsOf(
	ctx: Context,
	subject: { readonly kind: string; readonly id: string },
	filter: Filter,
	before: number,
	limit: number,
): Promise<EventRow[]> {
	// each side by its own index: with OR the whole log would be read
	const mine =
		subject.kind === "library"
			? `SELECT seq FROM event WHERE subject_kind = 'library' AND subject_id = $id
			   UNION ALL SELECT v.seq FROM material x JOIN event v ON v.subject_kind = 'material' AND v.subject_id = x.id WHERE x.library_id = $id`
			: "SELECT seq FROM event WHERE subject_kind = $kind AND subject_id = $id";
	const bind: Record<string, string | number> = {
		id: subject.id,
		quiet: JSON.stringify(QUIET_ACTIONS),
		before,
		limit,
		me: ctx.actor.person,
	};
	if (subject.kind !== "library") bind.kind = subject.kind;
	const where = ["e.seq < $before", "e.action NOT IN (SELECT value FROM json_each($quiet))", SEEN];
	const narrow = (condition: string, name: string, value: string | undefined): void => {
		if (value === undefined || value === "") return;
		where.push(condition);
		bind[name] = value;
	};
	narrow("e.actor = $by", "by", filter.by);
	narrow("e.at >= $from", "from", filter.from);
	// the whole of the last day
	narrow("e.at < date($until, '+1 day')", "until", filter.until);
	narrow("(m.name LIKE '%' || $text || '%' OR e.changeset LIKE '%' || $text || '%')", "text", filter.text);
	narrow(
		`${STEP} IN (SELECT value FROM json_each($what))`,
		"what",
		filter.what === undefined ? undefined : JSON.stringify(actionsOf(filter.what as StepClass)),
	);
	return ctx.db.all<EventRow>(
		`SELECT e.seq, e.at, p.name AS "by", e.action, e.subject_kind, e.subject_id, COALESCE(m.name, '') AS subject, e.changeset, e.undone_by,
			${MAY_UNDO}
		 FROM event e JOIN person p ON p.id = e.actor LEFT JOIN material m ON e.subject_kind = 'material' AND m.id = e.subject_id
		 WHERE e.seq IN (${mine}) AND ${where.join(" AND ")} ORDER BY e.seq DESC LIMIT $limit`,
		bind as Bind,
	);
}

async function mayRead(ctx: Context, input: { readonly kind: string; readonly id: string }): Promise<Result<unknown>> {
	if (input.kind === "project") return authoriseProject(ctx, ctx.db, input.id, "project.read");
	if (input.kind === "material") return authorised(ctx, ctx.db, input.id, "library.read");
	const archived = (await readableLibraries(ctx, ctx.db, true)).some((l) => l.id === input.id);
	if (archived) return ok(null);
	const library = await authoriseLibrary(ctx, ctx.db, input.id, "library.read");
	return library.ok ? library : fail({ code: "not-found", path: "The library" });
}
