import { csvText, type HistoryPage, type HistoryRow, type RouteInput } from "@alvek/contract";
import { actionsOf, type StepClass } from "@alvek/core/event";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, authoriseLibrary, authoriseProject, libraryList, visibilityOf } from "../access";
import type { Context } from "../db";
import { type HistoryEvent, historyOf, stepsOf } from "../repo";
import { daysFrom } from "../runtime";
import { historyRow, namesIn } from "./words";

const PAGE = 200;
const MOST_EXPORTED = 100_000;
const STEPS = 30;
const STEPS_DAYS = 30;

/** My latest steps that can be taken back, in every place; steps back themselves are in the history. */
export async function listSteps(ctx: Context): Promise<Result<readonly HistoryRow[]>> {
	const rows = await stepsOf(ctx.db, ctx.actor.person, daysFrom(ctx.now(), -STEPS_DAYS), STEPS);
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
	const rows = await eventsOf(ctx, input, { before: Number(input.before ?? Number.MAX_SAFE_INTEGER), most: PAGE + 1 });
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
	const rows = await eventsOf(ctx, input, { before: Number.MAX_SAFE_INTEGER, most: MOST_EXPORTED });
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
	input: Filter & { readonly kind: string; readonly id: string },
	page: { readonly before: number; readonly most: number },
): Promise<HistoryEvent[]> {
	const { kind, id, by, from, until, text, what } = input;
	const filter = {
		by,
		from,
		text,
		// the whole of the last day
		until: until === undefined || until === "" ? undefined : daysFrom(`${until}T00:00:00.000Z`, 1),
		actions: what === undefined ? undefined : actionsOf(what as StepClass),
	};
	return historyOf(ctx.db, { kind, id, viewer: ctx.actor.person }, filter, page);
}

async function mayRead(ctx: Context, input: { readonly kind: string; readonly id: string }): Promise<Result<unknown>> {
	if (input.kind === "project") return authoriseProject(ctx, ctx.db, input.id, "project.read");
	if (input.kind === "material") return authorised(ctx, ctx.db, input.id, "library.read");
	const archived = (await libraryList(ctx, ctx.db)).some((l) => l.id === input.id);
	if (archived) return ok(null);
	const library = await authoriseLibrary(ctx, ctx.db, input.id, "library.read");
	return library.ok ? library : fail({ code: "not-found", path: "The library" });
}
