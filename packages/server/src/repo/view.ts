import type { Row, Sql } from "../db";

/** A person's own views of the grid and those that are shared, by name. */
export function viewsFor(sql: Sql, person: string) {
	return sql.all<Pick<Row<"grid_view">, "id" | "person_id" | "name" | "address" | "shared"> & { readonly by: string }>(
		`SELECT v.id, v.person_id, v.name, v.address, v.shared, p.name AS "by" FROM grid_view v JOIN person p ON p.id = v.person_id
		 WHERE v.person_id = $person OR v.shared = 1 ORDER BY lower(v.name)`,
		{ person },
	);
}

export const viewById = (sql: Sql, id: string): Promise<Row<"grid_view"> | null> => sql.find("grid_view", { id });

export const countViews = (sql: Sql, person: string): Promise<number> => sql.count("grid_view", { person_id: person });

export async function putView(sql: Sql, view: Row<"grid_view">): Promise<void> {
	await sql.run(
		`INSERT INTO grid_view (id, person_id, name, address, shared, changed_at) VALUES ($id, $person_id, $name, $address, $shared, $changed_at)
		 ON CONFLICT (id) DO UPDATE SET name = excluded.name, address = excluded.address, shared = excluded.shared, changed_at = excluded.changed_at`,
		view,
	);
}

export const removeViewRow = (sql: Sql, id: string): Promise<void> => sql.remove("grid_view", { id });
