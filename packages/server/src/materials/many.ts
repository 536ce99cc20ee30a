import type { RouteInput, Undoable } from "@alvek/contract";
import { nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, authorisedAll, requireOpenLock } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	bearerOfName,
	changeMaterialRow,
	countStandingOn,
	draftsOfOthers,
	ensureGroup,
	leadsTo,
	type MaterialRecord,
	materialRow,
	ownerOf,
	type RowChange,
	readLinks,
	recordEvent,
	type Values,
} from "../repo";
import { ensureLinksAvailable } from "./names";

type Many = RouteInput<"manyMaterials">;
type Done = { readonly event: number; readonly done: number; readonly left: readonly string[] };

/** What each act sets on a row, or why this row is left out. */
type Rule = (sql: Sql, material: MaterialRecord) => Promise<Result<Values>>;

/** One act on many materials of one place: rows change together, one event takes all of them back. */
async function changeRows(
	ctx: Context,
	sql: Sql,
	input: { materials: readonly MaterialRecord[]; action: Many["act"]; rule: Rule },
): Promise<Result<Done>> {
	const { materials } = input;
	const rows: RowChange[] = [];
	const names: string[] = [];
	const left: string[] = [];
	for (const material of materials) {
		const set = await input.rule(sql, material);
		if (!set.ok) {
			if (materials.length === 1) return set;
			left.push(material.name);
			continue;
		}
		const now: Values = (await materialRow(sql, material.id)) ?? {};
		const before = Object.fromEntries(Object.keys(set.value).map((k) => [k, now[k] ?? null]));
		await changeMaterialRow(ctx, sql, material.id, set.value);
		rows.push({ id: material.id, expect: set.value, set: before });
		names.push(material.name);
	}
	const [first] = rows;
	if (first === undefined) return ok({ event: 0, done: 0, left });
	const one = materials.length === 1;
	const event = await recordEvent(ctx, sql, {
		action: `${one ? "material" : "materials"}.${input.action}`,
		...(one ? { kind: "material", subject: first.id } : placeAsSubject(materials[0]?.library_id ?? "")),
		changeset: { names },
		inverse: { kind: "material-rows", rows },
	});
	return ok({ event, done: rows.length, left });
}

function placeAsSubject(place: string): { kind: "library" | "project"; subject: string } {
	const { library, project } = ownerOf(place);
	return project === null ? { kind: "library", subject: library ?? "" } : { kind: "project", subject: project };
}

/** What stands on these materials, as a sentence; null where nothing does. */
async function usesInWords(sql: Sql, ids: readonly string[]): Promise<string | null> {
	const uses = await countStandingOn(sql, ids);
	if (uses.parts === 0) return null;
	const count = (n: number, word: string): string => `${n} ${word}${n === 1 ? "" : "s"}`;
	const stand = uses.parts === 1 ? "stands" : "stand";
	const on = uses.materials === 1 ? "it" : `${uses.materials} of them`;
	return `${count(uses.parts, "part")} in ${count(uses.projects, "project")} ${stand} on ${on}`;
}

export function manyMaterials(ctx: Context, input: Many): Promise<Result<Undoable<{ done: number; left: readonly string[] }>>> {
	return inWrite(ctx, async (sql) => {
		// what stands on them is told to nobody who may not do this to them
		const materials = await changeable(ctx, sql, input.ids, input.act);
		if (!materials.ok) return materials;
		if ((input.act === "remove" || input.act === "retire") && input.inUse !== true) {
			const used = await usesInWords(sql, input.ids);
			if (used !== null) return fail({ code: "in-use", actual: used });
		}
		const rule = await ruleOf(ctx, sql, input);
		if (!rule.ok) return rule;
		const done = await changeRows(ctx, sql, { materials: materials.value, action: input.act, rule: rule.value });
		if (!done.ok) return done;
		return ok({ event: done.value.event, value: { done: done.value.done, left: done.value.left } });
	});
}

/** All of one place, which the actor may publish, move and delete in now. */
async function changeable(
	ctx: Context,
	sql: Sql,
	ids: readonly string[],
	act: Many["act"],
): Promise<Result<readonly MaterialRecord[]>> {
	const materials = await authorisedAll(ctx, sql, ids, "library.publish");
	if (!materials.ok) return materials;
	const places = new Set(materials.value.map((m) => m.library_id));
	const [place] = places;
	if (place === undefined) return fail({ code: "not-found", path: "The material" });
	if (places.size > 1) return fail({ code: "one-library" });
	if ((act === "remove" || act === "restore") && (await areOnlyMine(ctx, sql, materials.value))) return materials;
	const open = await requireOpenLock(ctx, sql, place);
	return open.ok ? materials : open;
}

/** Never published, and nobody else drafts them: nobody else sees them, so the lock guards nothing. */
async function areOnlyMine(ctx: Context, sql: Sql, materials: readonly MaterialRecord[]): Promise<boolean> {
	if (materials.some((m) => m.revision_id !== null)) return false;
	const ids = materials.map((m) => m.id);
	return (await draftsOfOthers(sql, ids, ctx.actor.person)).length === 0;
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
			return ok(restoring);
	}
}

/** Out of the bin, where neither its name nor its links are another's by now. */
const restoring: Rule = async (sql, material) => {
	const { id, name, library_id: place } = material;
	if (material.removed_at === null) return fail({ code: "not-found", path: "The material in the bin" });
	if ((await bearerOfName(sql, place, nameKey(name), id)) !== null)
		return fail({ code: "name-taken", path: "name", actual: name });
	const links = await ensureLinksAvailable(sql, place, readLinks(material.known_as), id);
	return links.ok ? ok({ removed_at: null }) : links;
};

/** Retired materials keep their values; whoever stands on them shows behind when a successor is named. */
async function retiring(ctx: Context, sql: Sql, successor: string | null): Promise<Result<Rule>> {
	if (successor === null) return ok(async () => ok({ retired: 1, successor_id: null }));
	const next = await authorised(ctx, sql, successor, "library.read");
	if (!next.ok) return fail({ code: "not-found", path: "The successor" });
	if (next.value.revision_id === null) return fail({ code: "not-published", actual: next.value.name });
	return ok(async (inner, material) => {
		if (await leadsTo(inner, successor, material.id)) return fail({ code: "retired-loop" });
		return ok({ retired: 1, successor_id: successor });
	});
}

export async function removeMaterial(ctx: Context, input: { id: string; inUse?: boolean }): Promise<Result<Undoable<null>>> {
	const done = await manyMaterials(ctx, {
		ids: [input.id],
		act: "remove",
		...(input.inUse === true ? { inUse: true } : {}),
	});
	return done.ok ? ok({ event: done.value.event, value: null }) : done;
}
