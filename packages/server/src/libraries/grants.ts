import type { Undoable } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import type { LibraryRole } from "@alvek/core/rights";
import { authoriseLibrary, authoriseProject } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { type GrantState, type GrantTarget, grantsOn, hasPerson, hasTeam, recordEvent, setGrants } from "../repo";

export type GrantInput = { readonly by: "person" | "team" | "everyone"; readonly subject: string; readonly role: string | null };

/** The subject of a grant, when there is such a person or team; everyone has none. */
async function subjectOf(sql: Sql, input: GrantInput): Promise<Result<string>> {
	if (input.by === "everyone") return ok("");
	const there = input.by === "team" ? await hasTeam(sql, input.subject) : await hasPerson(sql, input.subject);
	return there ? ok(input.subject) : fail({ code: "not-found", path: input.by === "team" ? "The team" : "The person" });
}

/** Gives, changes or takes one role on a target; the event that says so can be undone. */
export async function putGrant(
	ctx: Context,
	sql: Sql,
	{ on, target }: { readonly on: GrantTarget; readonly target: string },
	input: GrantInput,
): Promise<Result<Undoable<null>>> {
	const subject = await subjectOf(sql, input);
	if (!subject.ok) return subject;
	const before = await grantsOn(sql, on, target);
	const rest = before.filter((g) => g.by !== input.by || g.subject !== subject.value);
	const after: readonly GrantState[] =
		input.role === null ? rest : [...rest, { by: input.by, subject: subject.value, role: input.role }];
	await setGrants(sql, on, target, after);
	const event = await recordEvent(ctx, sql, {
		action: input.role === null ? `${on}.unshare` : `${on}.share`,
		kind: on === "project" ? "project" : "library",
		subject: target,
		changeset: input,
		inverse: on === "set" ? null : { kind: "grants", on, target, expect: after, set: before },
	});
	return ok({ event, value: null });
}

export function shareLibrary(
	ctx: Context,
	input: GrantInput & { id: string; role: LibraryRole | null },
): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.steward");
		if (!library.ok) return library;
		if (library.value.kind === "supplied" && input.role === "editor") return fail({ code: "read-only" });
		return putGrant(ctx, sql, { on: "library", target: input.id }, input);
	});
}

export function shareProject(ctx: Context, input: GrantInput & { id: string }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.share");
		if (!project.ok) return project;
		const owners = (await grantsOn(sql, "project", input.id)).filter((g) => g.role === "owner");
		const last = owners.length === 1 && owners[0]?.by === input.by && owners[0].subject === input.subject;
		if (last && input.role !== "owner") return fail({ code: "last-owner" });
		return putGrant(ctx, sql, { on: "project", target: input.id }, input);
	});
}
