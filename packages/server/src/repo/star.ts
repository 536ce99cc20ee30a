import type { Sql } from "../db";

/** A person's stars with the order that they gave them. */
export async function starsOf(sql: Sql, person: string): Promise<ReadonlyMap<string, number>> {
	const rows = await sql.all<{ material_id: string; ord: number }>(
		"SELECT material_id, ord FROM star WHERE person_id = $person",
		{ person },
	);
	return new Map(rows.map((r) => [r.material_id, r.ord]));
}

/** Stars these, after all that are starred. */
export async function addStars(sql: Sql, person: string, materials: readonly string[]): Promise<void> {
	await sql.run(
		`INSERT INTO star (person_id, material_id, ord)
		 SELECT ${sql.dialect.typed("person", "text")}, j.value, (SELECT COALESCE(MAX(ord), 0) FROM star WHERE person_id = $person) + j.n + 1
		 FROM ${sql.dialect.numbered("ids", "j")} WHERE true ON CONFLICT DO NOTHING`,
		{ person, ids: JSON.stringify(materials) },
	);
}

export async function removeStars(sql: Sql, person: string, materials: readonly string[]): Promise<void> {
	await sql.run(`DELETE FROM star WHERE person_id = $person AND material_id IN ${sql.dialect.list("ids")}`, {
		person,
		ids: JSON.stringify(materials),
	});
}

/** These stars stand in this order from now on. */
export async function orderStars(sql: Sql, person: string, materials: readonly string[]): Promise<void> {
	await sql.run(
		`UPDATE star SET ord = (SELECT j.n + 1 FROM ${sql.dialect.numbered("ids", "j")} WHERE j.value = star.material_id)
		 WHERE person_id = $person AND material_id IN ${sql.dialect.list("ids")}`,
		{ person, ids: JSON.stringify(materials) },
	);
}

export const countStars = (sql: Sql, person: string): Promise<number> => sql.count("star", { person_id: person });

/** Stars and the working list are about the material that people mean, so its survivor gets them too, in its own library. */
export async function copyMarks(sql: Sql, from: string, to: string): Promise<void> {
	const { typed } = sql.dialect;
	await sql.run(
		`INSERT INTO star (person_id, material_id, ord) SELECT person_id, ${typed("to", "text")}, ord FROM star
		 WHERE material_id = $from ON CONFLICT DO NOTHING`,
		{ from, to },
	);
	await sql.run(
		`INSERT INTO working_list (library_id, material_id) SELECT m.library_id, m.id FROM material m
		 WHERE m.id = $to AND m.library_id IS NOT NULL AND EXISTS (SELECT 1 FROM working_list w WHERE w.material_id = $from)
		 ON CONFLICT DO NOTHING`,
		{ from, to },
	);
}
