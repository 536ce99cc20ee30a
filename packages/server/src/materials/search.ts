import type { Found } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import { NameIndex } from "@alvek/core/table";
import { authoriseProject } from "../db/rights";
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
	const all = await ctx.db.all<{ id: string; name: string; parts: number }>(
		`SELECT p.id, p.name, (SELECT COUNT(*) FROM part a WHERE a.project_id = p.id) AS parts FROM project p WHERE p.removed_at IS NULL`,
	);
	const readable: typeof all = [];
	for (const project of all) if ((await authoriseProject(ctx, ctx.db, project.id, "project.read")).ok) readable.push(project);
	const parts = await ctx.db.all<{ id: string; name: string; projectId: string; material: string | null }>(
		`SELECT a.id, a.name, a.project_id AS projectId, m.name AS material FROM part a
		 LEFT JOIN assignment s ON s.part_id = a.id LEFT JOIN revision r ON r.id = s.revision_id LEFT JOIN draft d ON d.id = s.draft_id
		 LEFT JOIN material m ON m.id = COALESCE(r.material_id, d.material_id)
		 WHERE a.project_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(readable.map((p) => p.id)) },
	);
	const projectName = new Map(readable.map((p) => [p.id, p.name]));
	return [
		...best(readable, text).map(([of, rank]): Found => ({ kind: "project", ...of, rank })),
		...best(parts, text).map(
			([of, rank]): Found => ({ kind: "part", ...of, project: projectName.get(of.projectId) ?? "", rank }),
		),
	];
}

function best<T extends { readonly name: string }>(list: readonly T[], text: string): readonly (readonly [T, number])[] {
	const index = new NameIndex();
	for (const [i, item] of list.entries()) index.put(i, item.name);
	return index.search(text, () => true, MOST.others).map(({ row, rank }) => [list[row] as T, rank]);
}
