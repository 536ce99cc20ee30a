import type { Found } from "@alvek/contract";
import { ok, type Result } from "@alvek/core/result";
import { NameIndex } from "@alvek/core/table";
import { readableProjects, viewerOf } from "../access";
import type { Context, Db } from "../db";
import type { MaterialQueries } from "../material-index";
import { materialsOfParts, partNames, partsPerProject, projectNames, searchKey } from "../repo";

const MOST = { materials: 12, others: 8 } as const;

/** Materials, projects and parts by name or code. Exact ones first, then by how the name answers; slips forgiven last. */
export async function search(ctx: Context, queries: MaterialQueries, text: string): Promise<Result<readonly Found[]>> {
	const materials = await queries.search(text, MOST.materials, await viewerOf(ctx));
	const found = materials.map(({ row, rank }): Found => ({ kind: "material", row, rank }));
	return ok([...found, ...(await searchProjects(ctx, text))].sort((a, b) => a.rank - b.rank));
}

async function searchProjects(ctx: Context, text: string): Promise<Found[]> {
	const readable = new Map((await readableProjects(ctx, ctx.db)).map((p) => [p.id, p.name]));
	const names = await namesOf(ctx.db);
	const sees = (project: string): boolean => readable.has(project);
	const projects = names.projects.search(text, (row) => sees(names.projectAt(row)), MOST.others);
	const parts = names.parts.search(text, (row) => sees(names.partAt(row).project), MOST.others);
	const countOf = await partsPerProject(
		ctx.db,
		projects.map((p) => names.projectAt(p.row)),
	);
	const materialOf = await materialsOfParts(
		ctx.db,
		parts.map((p) => names.partAt(p.row).id),
	);
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
	const key = await searchKey(db);
	const known = kept.get(db);
	if (known?.key === key) return known;
	const projects = await projectNames(db);
	const parts = await partNames(db);
	const made: Names = {
		key,
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
