import type { Found } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import { NameIndex } from "@alvek/core/table";
import type { Db } from "../db/connection";
import { readableProjects } from "../db/rights";
import type { Context } from "../db/write";
import type { Finding } from "./finding";
import { seerOf } from "./reading";

const MOST = { materials: 12, others: 8 } as const;

/** Materials, projects and parts by name or code. Exact ones first, then by how the name answers; slips forgiven last. */
export async function search(ctx: Context, finding: Finding, text: string): Promise<Result<readonly Found[]>> {
	const materials = await finding.search(text, MOST.materials, await seerOf(ctx));
	const found = materials.map(({ row, rank }): Found => ({ kind: "material", row, rank }));
	return ok([...found, ...(await searchProjects(ctx, text))].sort((a, b) => a.rank - b.rank));
}

async function searchProjects(ctx: Context, text: string): Promise<Found[]> {
	const readable = new Map((await readableProjects(ctx, ctx.db)).map((p) => [p.id, p.name]));
	const names = await namesOf(ctx.db);
	const sees = (project: string): boolean => readable.has(project);
	const projects = names.projects.search(text, (row) => sees(names.projectAt(row)), MOST.others);
	const parts = names.parts.search(text, (row) => sees(names.partAt(row).project), MOST.others);
	const counts = await ctx.db.all<{ id: string; n: number }>(
		"SELECT project_id AS id, COUNT(*) AS n FROM part WHERE project_id IN (SELECT value FROM json_each($ids)) GROUP BY project_id",
		{ ids: JSON.stringify(projects.map((p) => names.projectAt(p.row))) },
	);
	const materials = await ctx.db.all<{ id: string; material: string }>(
		`SELECT s.part_id AS id, m.name AS material FROM assignment s
		 LEFT JOIN revision r ON r.id = s.revision_id LEFT JOIN draft d ON d.id = s.draft_id
		 JOIN material m ON m.id = COALESCE(r.material_id, d.material_id) WHERE s.part_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(parts.map((p) => names.partAt(p.row).id)) },
	);
	const countOf = new Map(counts.map((c) => [c.id, c.n]));
	const materialOf = new Map(materials.map((m) => [m.id, m.material]));
	return [
		...projects.map(({ row, rank }): Found => {
			const id = names.projectAt(row);
			return { kind: "project", id, name: readable.get(id) ?? "", parts: countOf.get(id) ?? 0, rank };
		}),
		...parts.map(({ row, rank }): Found => {
			const { id, name, project } = names.partAt(row);
			return {
				kind: "part",
				id,
				name,
				projectId: project,
				project: readable.get(project) ?? "",
				material: materialOf.get(id) ?? null,
				rank,
			};
		}),
	];
}

type Names = {
	readonly key: string;
	readonly projects: NameIndex;
	readonly projectAt: (row: number) => string;
	readonly parts: NameIndex;
	readonly partAt: (row: number) => { readonly id: string; readonly name: string; readonly project: string };
};

/** Names of all projects and parts, folded once; made anew when a project was changed or geometry came in. */
const kept = new WeakMap<Db, Names>();

async function namesOf(db: Db): Promise<Names> {
	const state = await db.one<{ key: string }>(
		`SELECT (SELECT COUNT(*) || ' ' || COALESCE(MAX(rowid), 0) FROM part) || ' ' ||
			(SELECT COUNT(*) || ' ' || COALESCE(MAX(changed_at), '') || ' ' || COUNT(removed_at) FROM project) AS key`,
	);
	const known = kept.get(db);
	if (known !== undefined && known.key === state?.key) return known;
	const projects = await db.all<{ id: string; name: string }>("SELECT id, name FROM project WHERE removed_at IS NULL");
	const parts = await db.all<{ id: string; name: string; project: string }>("SELECT id, name, project_id AS project FROM part");
	const made: Names = {
		key: state?.key ?? "",
		projects: indexOf(projects),
		projectAt: (row) => projects[row]?.id ?? "",
		parts: indexOf(parts),
		partAt: (row) => parts[row] as (typeof parts)[number],
	};
	kept.set(db, made);
	return made;
}

function indexOf(list: readonly { readonly name: string }[]): NameIndex {
	const index = new NameIndex();
	for (const [i, item] of list.entries()) index.put(i, item.name);
	return index;
}
