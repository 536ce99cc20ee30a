import type { RouteInput, Undoable } from "@alvek/contract";
import { nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import { type Context, inWrite, recordEvent } from "../db/write";
import { requireOpenLock } from "../libraries/lock";
import { authorised, placeOf } from "./access";
import type { Finding } from "./finding";
import { freeLinks, readLinks } from "./namelinks";
import { ensureGroup, type MaterialRecord, materialById } from "./store";

type Row = Record<string, string | number | null>;
type Many = RouteInput<"manyMaterials">;
type Done = { readonly event: number; readonly done: number; readonly left: readonly string[] };

/** What each act sets on a row, or why this row is left out. */
type Rule = (sql: Sql, material: MaterialRecord) => Promise<Result<Row>>;

/** One act on many materials of one place: rows change together, one event takes all of them back. */
async function changeRows(
	ctx: Context,
	sql: Sql,
	input: { ids: readonly string[]; action: Many["act"]; rule: Rule },
): Promise<Result<Done>> {
	const rows: { id: string; expect: Row; set: Row }[] = [];
	const names: string[] = [];
	const left: string[] = [];
	let place: string | null = null;
	for (const id of new Set(input.ids)) {
		const material = await authorised(ctx, sql, id, "library.publish");
		if (!material.ok) return material;
		place = material.value.library_id;
		const set = await input.rule(sql, material.value);
		if (!set.ok) {
			if (input.ids.length === 1) return set;
			left.push(material.value.name);
			continue;
		}
		const now = (await sql.one<Row>("SELECT * FROM material WHERE id = $id", { id })) as Row;
		const before = Object.fromEntries(Object.keys(set.value).map((k) => [k, now[k] ?? null]));
		const columns = Object.keys(set.value).map((k) => `${k} = $${k}`);
		await sql.run(`UPDATE material SET ${columns.join(", ")}, changed_at = $at WHERE id = $id`, {
			...set.value,
			id,
			at: ctx.now(),
		});
		rows.push({ id, expect: set.value, set: before });
		names.push(material.value.name);
	}
	if (rows.length === 0) return ok({ event: 0, done: 0, left });
	const one = input.ids.length === 1;
	const event = await recordEvent(ctx, sql, {
		action: `${one ? "material" : "materials"}.${input.action}`,
		...(one
			? { kind: "material", subject: rows[0]?.id as string }
			: placeOf(place ?? "").project === null
				? { kind: "library", subject: place as string }
				: { kind: "project", subject: placeOf(place ?? "").project as string }),
		changeset: { names },
		inverse: { kind: "material-rows", rows },
	});
	return ok({ event, done: rows.length, left });
}

/** What stands on these materials, as a sentence; null where nothing does. */
async function usesInWords(sql: Sql, ids: readonly string[]): Promise<string | null> {
	const uses = await sql.one<{ materials: number; projects: number; parts: number }>(
		`SELECT COUNT(DISTINCT r.material_id) AS materials, COUNT(DISTINCT s.project_id) AS projects, COUNT(*) AS parts
		 FROM assignment s JOIN revision r ON r.id = s.revision_id JOIN project p ON p.id = s.project_id
		 WHERE p.removed_at IS NULL AND r.material_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids) },
	);
	if (uses === null || uses.parts === 0) return null;
	const count = (n: number, word: string): string => `${n} ${word}${n === 1 ? "" : "s"}`;
	const stand = uses.parts === 1 ? "stands" : "stand";
	const on = uses.materials === 1 ? "it" : `${uses.materials} of them`;
	return `${count(uses.parts, "part")} in ${count(uses.projects, "project")} ${stand} on ${on}`;
}

export function manyMaterials(
	ctx: Context,
	finding: Finding,
	input: Many,
): Promise<Result<Undoable<{ done: number; left: readonly string[] }>>> {
	return inWrite(ctx, async (sql, after) => {
		// what stands on them is told to nobody who may not do this to them
		const allowed = await mayChangeAll(ctx, sql, input.ids);
		if (!allowed.ok) return allowed;
		if ((input.act === "remove" || input.act === "retire") && input.inUse !== true) {
			const used = await usesInWords(sql, input.ids);
			if (used !== null) return fail({ code: "in-use", actual: used });
		}
		const rule = await ruleOf(ctx, sql, input);
		if (!rule.ok) return rule;
		const done = await changeRows(ctx, sql, { ids: input.ids, action: input.act, rule: rule.value });
		if (!done.ok) return done;
		after(() => finding.refresh(input.ids));
		return ok({ event: done.value.event, value: { done: done.value.done, left: done.value.left } });
	});
}

/** All of one place, which the actor may publish, move and delete in now. */
async function mayChangeAll(ctx: Context, sql: Sql, ids: readonly string[]): Promise<Result<unknown>> {
	let place: string | null = null;
	for (const id of new Set(ids)) {
		const material = await authorised(ctx, sql, id, "library.publish");
		if (!material.ok) return material;
		place ??= material.value.library_id;
		if (place !== material.value.library_id) return fail({ code: "one-library" });
	}
	return place === null ? fail({ code: "not-found", path: "The material" }) : requireOpenLock(ctx, sql, place);
}

async function ruleOf(ctx: Context, sql: Sql, input: Many): Promise<Result<Rule>> {
	switch (input.act) {
		case "move": {
			const path = input.group ?? "";
			return ok(async (inner, material) =>
				material.project_id === null
					? ok({ group_id: await ensureGroup(ctx, inner, material.library_id, path) })
					: fail({ code: "not-found", path: "The group" }),
			);
		}
		case "retire":
			return retiring(ctx, sql, input.successor ?? null);
		case "revive":
			return ok(async () => ok({ retired: 0, successor_id: null }));
		case "remove": {
			const removedAt = ctx.now();
			return ok(async (_sql, material) =>
				material.removed_at === null ? ok({ removed_at: removedAt }) : fail({ code: "not-found", path: "The material" }),
			);
		}
		case "restore":
			return ok(async (inner, material) => {
				if (material.removed_at === null) return fail({ code: "not-found", path: "The material in the bin" });
				const taken = await inner.one(
					"SELECT 1 AS x FROM material WHERE library_id IS $library AND project_id IS $project AND name_key = $key AND removed_at IS NULL",
					{ ...placeOf(material.library_id), key: nameKey(material.name) },
				);
				if (taken !== null) return fail({ code: "name-taken", path: "name", actual: material.name });
				const links = await freeLinks(inner, material.library_id, readLinks(material.known_as), material.id);
				return links.ok ? ok({ removed_at: null }) : links;
			});
	}
}

/** Retired materials keep their values; whoever stands on them shows behind when a successor is named. */
async function retiring(ctx: Context, sql: Sql, successor: string | null): Promise<Result<Rule>> {
	if (successor === null) return ok(async () => ok({ retired: 1, successor_id: null }));
	const next = await authorised(ctx, sql, successor, "library.read");
	if (!next.ok) return fail({ code: "not-found", path: "The successor" });
	if (next.value.revision_id === null) return fail({ code: "not-published", actual: next.value.name });
	return ok(async (inner, material) => {
		for (let at: string | null = successor, steps = 0; at !== null && steps < 20; steps++) {
			if (at === material.id) return fail({ code: "retired-loop" });
			at = (await materialById(inner, at))?.successor_id ?? null;
		}
		return ok({ retired: 1, successor_id: successor });
	});
}

export async function removeMaterial(
	ctx: Context,
	finding: Finding,
	input: { id: string; inUse?: boolean },
): Promise<Result<Undoable<null>>> {
	const done = await manyMaterials(ctx, finding, {
		ids: [input.id],
		act: "remove",
		...(input.inUse === true ? { inUse: true } : {}),
	});
	return done.ok ? ok({ event: done.value.event, value: null }) : done;
}
