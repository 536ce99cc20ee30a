import type { Sql } from "../db";

/** Documents in the order of their hashes, page by page. */
export function documentPage(sql: Sql, after: string, most: number): Promise<{ hash: string; bytes: Buffer }[]> {
	return sql.all("SELECT hash, bytes FROM document WHERE hash > $after ORDER BY hash LIMIT $most", { after, most });
}

export const countRevisions = (sql: Sql): Promise<number> => sql.count("revision", {});

export const hasMigration = async (sql: Sql, name: string): Promise<boolean> =>
	(await sql.one("SELECT 1 AS x FROM migration WHERE name = $name", { name })) !== null;

/** Groups that stand under themselves, by whatever way they came to. */
export function loopedGroups(sql: Sql): Promise<{ id: string; name: string; library: string }[]> {
	return sql.all(
		`WITH RECURSIVE up(start, id, depth) AS (
		 SELECT id, parent_id, 1 FROM library_group WHERE parent_id IS NOT NULL
		 UNION ALL SELECT up.start, g.parent_id, up.depth + 1 FROM up JOIN library_group g ON g.id = up.id WHERE g.parent_id IS NOT NULL AND up.depth < 100)
		 SELECT DISTINCT g.id, g.name, l.name AS library FROM up JOIN library_group g ON g.id = up.start JOIN library l ON l.id = g.library_id
		 WHERE up.id = up.start`,
	);
}

export async function putGroupsAtTop(sql: Sql, ids: readonly string[]): Promise<void> {
	await sql.run(`UPDATE library_group SET parent_id = NULL WHERE id IN ${sql.dialect.list("ids")}`, { ids: JSON.stringify(ids) });
}

/** What no foreign key says. Each question finds names of rows that may not be there. */
const LOOSE: readonly { readonly problem: string; readonly sql: string }[] = [
	{
		problem: "has a gap in its revisions",
		sql: "SELECT m.name FROM material m JOIN revision r ON r.material_id = m.id GROUP BY m.id, m.name HAVING MAX(r.no) <> COUNT(*) OR MIN(r.no) <> 1",
	},
	{
		problem: "has neither a revision nor a draft",
		sql: "SELECT m.name FROM material m WHERE NOT EXISTS (SELECT 1 FROM revision WHERE material_id = m.id) AND NOT EXISTS (SELECT 1 FROM draft WHERE material_id = m.id)",
	},
	{
		problem: "is a part of another project than its material",
		sql: "SELECT p.name FROM assignment a JOIN part p ON p.id = a.part_id WHERE a.project_id <> p.project_id",
	},
	{
		problem: "was published without a publish that is done",
		sql: "SELECT m.name FROM revision r JOIN material m ON m.id = r.material_id JOIN publish p ON p.id = r.publish_id WHERE p.state <> 'done'",
	},
];

/** Rows that may not be there, each with what is wrong with it. */
export async function looseRows(sql: Sql, most: number): Promise<readonly { name: string; problem: string }[]> {
	const found: { name: string; problem: string }[] = [];
	for (const { problem, sql: question } of LOOSE)
		for (const { name } of await sql.all<{ name: string }>(`${question} LIMIT $most`, { most })) found.push({ name, problem });
	const drafts = await sql.all<{ name: string; edits: string }>(
		"SELECT m.name, d.edits FROM draft d JOIN material m ON m.id = d.material_id",
	);
	const unread = drafts.filter((d) => !isJson(d.edits)).slice(0, most);
	return [...found, ...unread.map(({ name }) => ({ name, problem: "has a draft that cannot be read" }))];
}

function isJson(text: string): boolean {
	try {
		JSON.parse(text);
		return true;
	} catch {
		return false;
	}
}

/** Every file with its size, by hash. */
export function blobSizes(sql: Sql): Promise<{ hash: string; size: number }[]> {
	return sql.all("SELECT hash, size FROM blob ORDER BY hash");
}

/** The newest migration that the data have been through. */
export async function newestMigration(sql: Sql): Promise<string | null> {
	return (await sql.one<{ name: string }>("SELECT name FROM migration ORDER BY name DESC LIMIT 1"))?.name ?? null;
}
