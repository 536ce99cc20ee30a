import type { Context, Sql } from "../db";

const ordered = (x: string, y: string): { a: string; b: string } => (x < y ? { a: x, b: y } : { a: y, b: x });

/** Says that two look-alikes are not one, or takes that back. */
export async function putApart(ctx: Context, sql: Sql, pair: readonly [string, string], apart: boolean): Promise<void> {
	const key = ordered(...pair);
	if (apart) await sql.ensure("kept_apart", { ...key, person_id: ctx.actor.person, at: ctx.now() });
	else await sql.remove("kept_apart", key);
}

/** Pairs that were said not to be one, each with one of these. */
export function apartFrom(sql: Sql, ids: readonly string[]): Promise<{ a: string; b: string }[]> {
	return sql.all(
		`SELECT a, b FROM kept_apart WHERE a IN ${sql.dialect.list("ids")} UNION SELECT a, b FROM kept_apart WHERE b IN ${sql.dialect.list("ids")}`,
		{ ids: JSON.stringify(ids) },
	);
}
