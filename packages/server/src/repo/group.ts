import { type Context, type Sql, sameOrNull } from "../db";
import type { GroupState } from "./inverse";

export type GroupRecord = {
	readonly id: string;
	readonly library_id: string;
	readonly parent_id: string | null;
	readonly name: string;
	readonly ord: number;
};

export function allGroups(sql: Sql): Promise<GroupRecord[]> {
	return sql.all<GroupRecord>("SELECT id, library_id, parent_id, name, ord FROM library_group ORDER BY ord, name");
}

const STATE = "id, library_id AS library, parent_id AS parent, name, ord";

export function groupsOf(sql: Sql, library: string): Promise<GroupState[]> {
	return sql.all<GroupState>(`SELECT ${STATE} FROM library_group WHERE library_id = $library ORDER BY ord, name`, { library });
}

export function groupById(sql: Sql, id: string): Promise<GroupState | null> {
	return sql.one<GroupState>(`SELECT ${STATE} FROM library_group WHERE id = $id`, { id });
}

/** Puts one group into a state; null is not there. */
export async function setGroup(sql: Sql, before: GroupState | null, group: GroupState | null): Promise<void> {
	if (group === null) {
		if (before !== null) await sql.remove("library_group", { id: before.id });
		return;
	}
	await sql.run(
		`INSERT INTO library_group (id, library_id, parent_id, name, ord) VALUES ($id, $library, $parent, $name, $ord)
		 ON CONFLICT (id) DO UPDATE SET parent_id = excluded.parent_id, name = excluded.name, ord = excluded.ord`,
		group,
	);
}

/** The group of this name, without regard to case, that stands under a parent; null: none does. */
async function groupNamed(
	sql: Sql,
	at: { readonly library: string; readonly parent: string | null; readonly name: string; readonly except?: string },
): Promise<string | null> {
	const under = sameOrNull("parent_id", "parent", at.parent);
	const row = await sql.one<{ id: string }>(
		`SELECT id FROM library_group WHERE library_id = $library AND ${under.sql} AND lower(name) = lower($name) AND id <> $except`,
		{ ...under.bind, library: at.library, name: at.name, except: at.except ?? "" },
	);
	return row?.id ?? null;
}

export const isGroupNameTaken = async (
	sql: Sql,
	at: { readonly library: string; readonly parent: string | null; readonly name: string; readonly except: string },
): Promise<boolean> => (await groupNamed(sql, at)) !== null;

/** `Metals / Bronze` -> the id of its row, making the missing ones; null for "". */
export async function ensureGroup(ctx: Context, sql: Sql, library: string, path: string): Promise<string | null> {
	const names = path
		.split("/")
		.map((n) => n.trim())
		.filter((n) => n !== "")
		.slice(0, 6);
	let parent: string | null = null;
	for (const name of names) {
		const found: string | null = await groupNamed(sql, { library, parent, name });
		const id: string = found ?? ctx.newId();
		if (found === null) {
			const last = await sql.one<{ ord: number }>(
				"SELECT COALESCE(MAX(ord), 0) AS ord FROM library_group WHERE library_id = $library",
				{ library },
			);
			await sql.insert("library_group", { id, library_id: library, parent_id: parent, name, ord: (last?.ord ?? 0) + 1 });
		}
		parent = id;
	}
	return parent;
}

/** Names from the top down to a group. A path is told apart from a name by its slashes. */
export async function pathOfGroup(sql: Sql, group: string | null): Promise<string> {
	if (group === null) return "";
	const rows = await sql.all<{ name: string }>(
		`WITH RECURSIVE up(id, parent_id, name, depth) AS (
		 SELECT id, parent_id, name, 0 FROM library_group WHERE id = $group
		 UNION ALL SELECT g.id, g.parent_id, g.name, up.depth + 1 FROM library_group g JOIN up ON g.id = up.parent_id WHERE up.depth < 100)
		 SELECT name FROM up ORDER BY depth DESC`,
		{ group },
	);
	return rows.map((r) => r.name).join(" / ");
}

type Above = { readonly name: string; readonly parent_id: string | null };

/** The same of many groups that are in memory. Groups that were stored as a loop end where it begins again. */
export function groupPath(id: string | null, groups: ReadonlyMap<string, Above>): string {
	const names: string[] = [];
	const seen = new Set<string>();
	for (let at = id; at !== null && !seen.has(at); ) {
		const group: Above | undefined = groups.get(at);
		if (group === undefined) break;
		seen.add(at);
		names.unshift(group.name);
		at = group.parent_id;
	}
	return names.join(" / ");
}

/** Groups of a library in their order, with how many materials stand in each. */
export function groupTree(
	sql: Sql,
	library: string,
): Promise<{ id: string; parent: string | null; name: string; materials: number }[]> {
	return sql.all(
		`SELECT g.id, g.parent_id AS parent, g.name, (SELECT COUNT(*) FROM material m WHERE m.group_id = g.id AND m.removed_at IS NULL) AS materials
		 FROM library_group g WHERE g.library_id = $library ORDER BY g.ord, g.name`,
		{ library },
	);
}

export async function materialsInGroup(sql: Sql, group: string): Promise<readonly string[]> {
	return (await sql.all<{ id: string }>("SELECT id FROM material WHERE group_id = $group", { group })).map((m) => m.id);
}

export const moveAllOfGroup = (sql: Sql, group: string, to: string | null): Promise<void> =>
	sql.update("material", { group_id: group }, { group_id: to });

/** Moves a material, unless it stands elsewhere by now. */
export const moveIfIn = (sql: Sql, id: string, from: string | null, to: string | null): Promise<void> =>
	sql.update("material", { id, group_id: from }, { group_id: to });

export async function isGroupEmpty(sql: Sql, group: string): Promise<boolean> {
	return !(await sql.has("material", { group_id: group })) && !(await sql.has("library_group", { parent_id: group }));
}
