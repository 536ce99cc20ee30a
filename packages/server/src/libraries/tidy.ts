import type { RouteInput, Undoable, UnusedRow } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { authoriseLibrary } from "../db/rights";
import { type Context, inWrite, recordEvent } from "../db/write";
import type { Finding } from "../materials/finding";
import { allGroups } from "../materials/store";
import { groupPath } from "../materials/upkeep";
import { daysFrom } from "../people/secrets";

/** The list is the team's, so it takes an editor; of a supplied library, which nobody edits, whoever may read it. */
export async function mayList(ctx: Context, sql: Sql, id: string): Promise<Result<unknown>> {
	const library = await authoriseLibrary(ctx, sql, id, "library.read");
	return !library.ok || library.value.kind === "supplied" ? library : authoriseLibrary(ctx, sql, id, "library.edit");
}

/** Puts materials on the working list of their library, or takes them off. */
export function setWorking(ctx: Context, finding: Finding, input: RouteInput<"setWorking">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
		const library = await mayList(ctx, sql, input.id);
		if (!library.ok) return library;
		const wanted = JSON.stringify(input.materials);
		// only those that are not so already, so that undoing leaves the others alone
		const changed = await sql.all<{ id: string }>(
			`SELECT m.id FROM material m WHERE m.library_id = $library AND m.removed_at IS NULL AND m.id IN (SELECT value FROM json_each($wanted))
			 AND (EXISTS (SELECT 1 FROM working_list w WHERE w.material_id = m.id)) <> $on`,
			{ library: input.id, wanted, on: input.on ? 1 : 0 },
		);
		const ids = changed.map((c) => c.id);
		await putWorking(sql, input.id, ids, input.on);
		const event = await recordEvent(ctx, sql, {
			action: input.on ? "working.on" : "working.off",
			kind: "library",
			subject: input.id,
			changeset: { materials: ids },
			inverse: { kind: "working", library: input.id, materials: ids, on: !input.on },
		});
		after(() => finding.refresh(ids));
		return ok({ event, value: null });
	});
}

export async function putWorking(sql: Sql, library: string, materials: readonly string[], on: boolean): Promise<void> {
	const bind = { library, ids: JSON.stringify(materials) };
	if (on)
		await sql.run(
			`INSERT INTO working_list (library_id, material_id) SELECT $library, value FROM json_each($ids) WHERE true ON CONFLICT DO NOTHING`,
			bind,
		);
	else
		await sql.run(
			"DELETE FROM working_list WHERE library_id = $library AND material_id IN (SELECT value FROM json_each($ids))",
			bind,
		);
}

/** Published materials that no part stands on or tries, in any project; it only tells, it never deletes. */
export async function listUnused(ctx: Context, input: { id: string }): Promise<Result<readonly UnusedRow[]>> {
	const library = await authoriseLibrary(ctx, ctx.db, input.id, "library.read");
	if (!library.ok) return library;
	const groups = new Map((await allGroups(ctx.db)).map((g) => [g.id, g]));
	const rows = await ctx.db.all<{ id: string; name: string; group_id: string | null; changed_at: string; retired: number }>(
		`SELECT m.id, m.name, m.group_id, m.changed_at, m.retired FROM material m
		 WHERE m.library_id = $id AND m.removed_at IS NULL AND EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id)
		 AND NOT EXISTS (SELECT 1 FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN project p ON p.id = s.project_id
			WHERE r.material_id = m.id AND p.removed_at IS NULL)
		 AND NOT EXISTS (SELECT 1 FROM assignment s JOIN draft f ON f.id = s.draft_id WHERE f.material_id = m.id)
		 AND NOT EXISTS (SELECT 1 FROM project p JOIN revision r ON r.id = p.default_revision_id WHERE r.material_id = m.id AND p.removed_at IS NULL)
		 ORDER BY m.changed_at LIMIT 5000`,
		input,
	);
	return ok(
		rows.map((r) => ({
			id: r.id,
			name: r.name,
			group: groupPath(r.group_id, groups),
			changedAt: r.changed_at,
			retired: r.retired === 1,
		})),
	);
}

/** Days that something stays in the bin whatever happens. */
const BIN_DAYS = 90;

/**
 * What has lain in the bin for 90 days goes for good, when nothing refers to it: no part, no default, no edition, no
 * material that began from it or follows it, no proposal.
 */
export function emptyBin(ctx: Context, input: { id: string }): Promise<Result<{ gone: number; kept: number }>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.steward");
		if (!library.ok) return library;
		if (library.value.kind === "supplied") return fail({ code: "read-only" });
		const old = daysFrom(ctx.now(), -BIN_DAYS);
		const binned = await sql.all<{ id: string; name: string; free: number }>(
			`SELECT m.id, m.name,
				NOT EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id AND (
					EXISTS (SELECT 1 FROM assignment s WHERE s.revision_id = r.id OR s.before_draft_revision_id = r.id)
					OR EXISTS (SELECT 1 FROM project p WHERE p.default_revision_id = r.id)
					OR EXISTS (SELECT 1 FROM edition_entry e WHERE e.revision_id = r.id)
					OR EXISTS (SELECT 1 FROM material o WHERE o.origin_revision_id = r.id)))
				AND NOT EXISTS (SELECT 1 FROM material o WHERE o.successor_id = m.id)
				AND NOT EXISTS (SELECT 1 FROM assignment s JOIN draft f ON f.id = s.draft_id WHERE f.material_id = m.id) AS free
			 FROM material m WHERE m.library_id = $id AND m.removed_at IS NOT NULL AND m.removed_at < $old`,
			{ id: input.id, old },
		);
		const gone = binned.filter((b) => b.free === 1);
		const ids = JSON.stringify(gone.map((g) => g.id));
		for (const statement of [
			"DELETE FROM facts WHERE revision_id IN (SELECT id FROM revision WHERE material_id IN (SELECT value FROM json_each($ids)))",
			"DELETE FROM publish_item WHERE material_id IN (SELECT value FROM json_each($ids))",
			"DELETE FROM draft WHERE material_id IN (SELECT value FROM json_each($ids))",
			"DELETE FROM star WHERE material_id IN (SELECT value FROM json_each($ids))",
			"DELETE FROM working_list WHERE material_id IN (SELECT value FROM json_each($ids))",
			"DELETE FROM revision WHERE material_id IN (SELECT value FROM json_each($ids))",
			"DELETE FROM material WHERE id IN (SELECT value FROM json_each($ids))",
		])
			await sql.run(statement, { ids });
		await recordEvent(ctx, sql, {
			action: "bin.empty",
			kind: "library",
			subject: input.id,
			changeset: { gone: gone.map((g) => g.name), kept: binned.length - gone.length },
			inverse: null,
		});
		return ok({ gone: gone.length, kept: binned.length - gone.length });
	});
}
