import type { GridViewRecord, RouteInput } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite } from "../db/write";
import { authorised } from "./access";

/** My star on or off. It is a mark of one person's: nothing of the material changes, so there is no event. */
export function starMaterial(ctx: Context, input: RouteInput<"starMaterial">): Promise<Result<{ id: string }>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, input.id, "library.read");
		if (!material.ok) return material;
		const { person } = ctx.actor;
		if (!input.on) await sql.run("DELETE FROM star WHERE person_id = $person AND material_id = $id", { person, id: input.id });
		else {
			await sql.run(
				`INSERT INTO star (person_id, material_id, ord)
				 VALUES ($person, $id, (SELECT COALESCE(MAX(ord), 0) + 1 FROM star WHERE person_id = $person)) ON CONFLICT DO NOTHING`,
				{ person, id: input.id },
			);
		}
		return ok({ id: input.id });
	});
}

/** Stars are one person's marks, and have an order of their own; nothing of the materials changes. */
export function starMany(ctx: Context, input: RouteInput<"starMany">): Promise<Result<{ starred: number }>> {
	return inWrite(ctx, async (sql) => {
		const { person } = ctx.actor;
		for (const id of input.ids) {
			const material = await authorised(ctx, sql, id, "library.read");
			if (!material.ok) return material;
		}
		if (input.on === false)
			await sql.run("DELETE FROM star WHERE person_id = $person AND material_id IN (SELECT value FROM json_each($ids))", {
				person,
				ids: JSON.stringify(input.ids),
			});
		if (input.on === true)
			await sql.run(
				`INSERT INTO star (person_id, material_id, ord) SELECT $person, value, (SELECT COALESCE(MAX(ord), 0) FROM star WHERE person_id = $person) + key + 1
				 FROM json_each($ids) WHERE true ON CONFLICT DO NOTHING`,
				{ person, ids: JSON.stringify(input.ids) },
			);
		if (input.order === true)
			await sql.run(
				`UPDATE star SET ord = (SELECT key + 1 FROM json_each($ids) WHERE value = star.material_id)
				 WHERE person_id = $person AND material_id IN (SELECT value FROM json_each($ids))`,
				{ person, ids: JSON.stringify(input.ids) },
			);
		const count = await sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM star WHERE person_id = $person", { person });
		return ok({ starred: count?.n ?? 0 });
	});
}

const MOST_VIEWS = 200;

export async function listViews(ctx: Context): Promise<Result<readonly GridViewRecord[]>> {
	const rows = await ctx.db.all<{
		id: string;
		person_id: string;
		name: string;
		address: string;
		shared: number;
		by: string;
	}>(
		`SELECT v.id, v.person_id, v.name, v.address, v.shared, p.name AS by FROM grid_view v JOIN person p ON p.id = v.person_id
		 WHERE v.person_id = $person OR v.shared = 1 ORDER BY v.name COLLATE NOCASE`,
		{ person: ctx.actor.person },
	);
	return ok(
		rows.map((r) => ({
			id: r.id,
			name: r.name,
			address: r.address,
			shared: r.shared === 1,
			mine: r.person_id === ctx.actor.person,
			by: r.by,
		})),
	);
}

export function saveView(ctx: Context, input: RouteInput<"saveView">): Promise<Result<{ id: string }>> {
	return inWrite(ctx, async (sql) => {
		const name = input.name.trim();
		if (name === "") return fail({ code: "name-missing", path: "name" });
		const standing = await sql.one<{ person_id: string }>("SELECT person_id FROM grid_view WHERE id = $id", { id: input.id });
		if (standing !== null && standing.person_id !== ctx.actor.person)
			return fail({ code: "forbidden", actual: "change this view" });
		const count = await sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM grid_view WHERE person_id = $person", {
			person: ctx.actor.person,
		});
		if (standing === null && (count?.n ?? 0) >= MOST_VIEWS)
			return fail({ code: "too-many", path: "views", actual: MOST_VIEWS + 1, expected: `at most ${MOST_VIEWS}` });
		await sql.run(
			`INSERT INTO grid_view (id, person_id, name, address, shared, changed_at) VALUES ($id, $person, $name, $address, $shared, $at)
			 ON CONFLICT (id) DO UPDATE SET name = $name, address = $address, shared = $shared, changed_at = $at`,
			{ id: input.id, person: ctx.actor.person, name, address: input.address, shared: input.shared ? 1 : 0, at: ctx.now() },
		);
		return ok({ id: input.id });
	});
}

export function removeView(ctx: Context, input: { id: string }): Promise<Result<{ id: string }>> {
	return inWrite(ctx, async (sql) => {
		const standing = await sql.one<{ person_id: string; shared: number }>(
			"SELECT person_id, shared FROM grid_view WHERE id = $id",
			{
				id: input.id,
			},
		);
		const mine = standing?.person_id === ctx.actor.person;
		if (standing === null || (!mine && standing.shared === 0)) return fail({ code: "not-found", path: "The view" });
		if (!mine && !ctx.actor.admin) return fail({ code: "forbidden", actual: "take this view away" });
		await sql.run("DELETE FROM grid_view WHERE id = $id", { id: input.id });
		return ok({ id: input.id });
	});
}
