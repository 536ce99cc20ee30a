import type { GridViewRecord, RouteInput } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, authorisedAll } from "../access";
import { type Context, inWrite } from "../db";
import { addStars, countStars, countViews, orderStars, putView, removeStars, removeViewRow, viewById, viewsFor } from "../repo";

/** My star on or off. It is a mark of one person's: nothing of the material changes, so there is no event. */
export function starMaterial(ctx: Context, input: RouteInput<"starMaterial">): Promise<Result<{ id: string }>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, input.id, "library.read");
		if (!material.ok) return material;
		const { person } = ctx.actor;
		if (input.on) await addStars(sql, person, [input.id]);
		else await removeStars(sql, person, [input.id]);
		return ok({ id: input.id });
	});
}

/** Stars are one person's marks, and have an order of their own; nothing of the materials changes. */
export function starMany(ctx: Context, input: RouteInput<"starMany">): Promise<Result<{ starred: number }>> {
	return inWrite(ctx, async (sql) => {
		const { person } = ctx.actor;
		const materials = await authorisedAll(ctx, sql, input.ids, "library.read");
		if (!materials.ok) return materials;
		if (input.on === false) await removeStars(sql, person, input.ids);
		if (input.on === true) await addStars(sql, person, input.ids);
		if (input.order === true) await orderStars(sql, person, input.ids);
		return ok({ starred: await countStars(sql, person) });
	});
}

const MOST_VIEWS = 200;

export async function listViews(ctx: Context): Promise<Result<readonly GridViewRecord[]>> {
	const rows = await viewsFor(ctx.db, ctx.actor.person);
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
		const { person } = ctx.actor;
		const name = input.name.trim();
		if (name === "") return fail({ code: "name-missing", path: "name" });
		const existing = await viewById(sql, input.id);
		if (existing !== null && existing.person_id !== person) return fail({ code: "forbidden", actual: "change this view" });
		if (existing === null && (await countViews(sql, person)) >= MOST_VIEWS)
			return fail({ code: "too-many", path: "views", actual: MOST_VIEWS + 1, expected: `at most ${MOST_VIEWS}` });
		const { id, address } = input;
		await putView(sql, { id, person_id: person, name, address, shared: input.shared ? 1 : 0, changed_at: ctx.now() });
		return ok({ id });
	});
}

export function removeView(ctx: Context, input: { id: string }): Promise<Result<{ id: string }>> {
	return inWrite(ctx, async (sql) => {
		const existing = await viewById(sql, input.id);
		const mine = existing?.person_id === ctx.actor.person;
		if (existing === null || (!mine && existing.shared === 0)) return fail({ code: "not-found", path: "The view" });
		if (!mine && !ctx.actor.admin) return fail({ code: "forbidden", actual: "take this view away" });
		await removeViewRow(sql, input.id);
		return ok({ id: input.id });
	});
}
