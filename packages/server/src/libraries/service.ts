import type { BinRow, LibraryView } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import { readableLibraries } from "../db/rights";
import type { Context } from "../db/write";
import { groupPath } from "../materials/finding";
import { allGroups } from "../materials/store";

export async function listLibraries(ctx: Context): Promise<Result<readonly LibraryView[]>> {
	const libraries = await readableLibraries(ctx, ctx.db);
	const groups = await allGroups(ctx.db);
	const byId = new Map(groups.map((g) => [g.id, g]));
	const counts = await ctx.db.all<{ id: string; n: number }>(
		`SELECT m.library_id AS id, COUNT(*) AS n FROM material m WHERE m.removed_at IS NULL
		 AND EXISTS (SELECT 1 FROM revision r WHERE r.material_id = m.id) GROUP BY m.library_id`,
	);
	return ok(
		libraries.map((l) => ({
			id: l.id,
			name: l.name,
			supplied: l.kind === "supplied",
			materials: counts.find((c) => c.id === l.id)?.n ?? 0,
			mayEdit: may(ctx.actor, "library.edit", { kind: "library", supplied: l.kind === "supplied", role: l.role }) === null,
			groups: groups.filter((g) => g.library_id === l.id).map((g) => groupPath(g.id, byId)),
		})),
	);
}

/** Materials in the bin, newest first, each with the event whose undo brings it back. */
export async function listBin(ctx: Context): Promise<Result<readonly BinRow[]>> {
	const libraries = new Set((await readableLibraries(ctx, ctx.db)).map((l) => l.id));
	const rows = await ctx.db.all<{
		id: string;
		name: string;
		library_id: string;
		library: string;
		removed_at: string;
		event: number;
	}>(
		`SELECT m.id, m.name, m.library_id, l.name AS library, m.removed_at, MAX(e.seq) AS event
		 FROM material m JOIN library l ON l.id = m.library_id
		 JOIN event e ON e.subject_id = m.id AND e.action = 'material.remove' AND e.undone_by IS NULL
		 WHERE m.removed_at IS NOT NULL GROUP BY m.id ORDER BY m.removed_at DESC LIMIT 500`,
	);
	const visible = rows.filter((r) => libraries.has(r.library_id));
	return ok(visible.map((r) => ({ id: r.id, name: r.name, library: r.library, removedAt: r.removed_at, event: r.event })));
}
