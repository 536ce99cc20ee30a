import type { RouteInput, Undoable } from "@alvek/contract";
import type { EventAction } from "@alvek/core/event";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { requireOpenLock } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	type GroupState,
	groupById,
	groupsOf,
	type Inverse,
	isGroupNameTaken,
	materialsInGroup,
	moveAllOfGroup,
	recordEvent,
	setGroup,
} from "../repo";

/** Groups one inside the other, at the most. */
const DEEPEST = 12;

/** May this group stand under that one? A group never stands under itself, by whatever way. */
export function fitsUnder(all: readonly GroupState[], id: string, parent: string | null): Result<null> {
	const parents = new Map(all.map((g) => [g.id, g.parent]));
	let above = 0;
	for (let at = parent; at !== null; at = parents.get(at) ?? null) {
		if (at === id) return fail({ code: "group-loop" });
		if (++above >= DEEPEST) return fail({ code: "group-deep", expected: String(DEEPEST) });
	}
	const below = heightOf(all, id);
	return above + below > DEEPEST ? fail({ code: "group-deep", expected: String(DEEPEST) }) : ok(null);
}

/** How many groups stand one inside the other from this one down, itself included. */
function heightOf(all: readonly GroupState[], id: string): number {
	let level = [id];
	for (let height = 1; ; height++) {
		const inside = new Set(level);
		level = all.filter((g) => g.parent !== null && inside.has(g.parent)).map((g) => g.id);
		if (level.length === 0 || height > DEEPEST) return height;
	}
}

/** The group, when the actor may move things in its library now. */
async function groupToChange(ctx: Context, sql: Sql, id: string): Promise<Result<GroupState>> {
	const group = await groupById(sql, id);
	if (group === null) return fail({ code: "not-found", path: "The group" });
	const open = await requireOpenLock(ctx, sql, group.library);
	if (open.ok) return ok(group);
	return open.issues[0]?.code === "not-found" ? fail({ code: "not-found", path: "The group" }) : open;
}

/** Names are told apart under one parent, without regard to case. */
async function ensureGroupNameAvailable(
	sql: Sql,
	input: string,
	at: { library: string; parent: string | null; except: string },
): Promise<Result<string>> {
	const name = cleanName(input);
	if (!name.ok) return name;
	// a path is written with slashes, so a name has none
	const text = name.value.replaceAll("/", "-");
	const taken = await isGroupNameTaken(sql, { ...at, name: text });
	return taken ? fail({ code: "group-taken", path: "name", actual: text }) : ok(text);
}

/** Every change of a group is a step of its library, and can be taken back. */
function recordGroup(
	ctx: Context,
	sql: Sql,
	group: GroupState,
	step: { action: EventAction; inverse: Inverse },
): Promise<number> {
	return recordEvent(ctx, sql, {
		action: step.action,
		kind: "library",
		subject: group.library,
		changeset: { group: group.name, id: group.id },
		inverse: step.inverse,
	});
}

export function createGroup(ctx: Context, input: RouteInput<"createGroup">): Promise<Result<Undoable<{ id: string }>>> {
	return inWrite(ctx, async (sql) => {
		const open = await requireOpenLock(ctx, sql, input.id);
		if (!open.ok) return open;
		if ((await groupById(sql, input.group)) !== null) return fail({ code: "id-taken" });
		const all = await groupsOf(sql, input.id);
		if (input.parent !== null && !all.some((g) => g.id === input.parent))
			return fail({ code: "not-found", path: "The group above" });
		const fits = fitsUnder(all, input.group, input.parent);
		if (!fits.ok) return fits;
		const name = await ensureGroupNameAvailable(sql, input.name, { library: input.id, parent: input.parent, except: "" });
		if (!name.ok) return name;
		const ord = Math.max(0, ...all.map((g) => g.ord)) + 1;
		const group: GroupState = { id: input.group, library: input.id, parent: input.parent, name: name.value, ord };
		await setGroup(sql, null, group);
		const event = await recordGroup(ctx, sql, group, {
			action: "group.create",
			inverse: { kind: "groups", expect: [group], set: [null], rows: [] },
		});
		return ok({ event, value: { id: input.group } });
	});
}

export function changeGroup(ctx: Context, input: RouteInput<"changeGroup">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const found = await groupToChange(ctx, sql, input.id);
		if (!found.ok) return found;
		const group = found.value;
		const all = await groupsOf(sql, group.library);
		const parent = input.parent === undefined ? group.parent : input.parent;
		if (parent !== null && !all.some((g) => g.id === parent)) return fail({ code: "not-found", path: "The group above" });
		const fits = fitsUnder(all, group.id, parent);
		if (!fits.ok) return fits;
		const name = await ensureGroupNameAvailable(sql, input.name ?? group.name, {
			library: group.library,
			parent,
			except: group.id,
		});
		if (!name.ok) return name;
		const wanted = { ...group, parent, name: name.value };
		await setGroup(sql, group, wanted);
		const action = input.name === undefined ? "group.move" : "group.rename";
		const event = await recordGroup(ctx, sql, wanted, {
			action,
			inverse: { kind: "groups", expect: [wanted], set: [group], rows: [] },
		});
		return ok({ event, value: null });
	});
}

export function removeGroup(
	ctx: Context,
	input: { id: string; to: string | null },
): Promise<Result<Undoable<{ moved: number }>>> {
	return inWrite(ctx, async (sql) => {
		const found = await groupToChange(ctx, sql, input.id);
		if (!found.ok) return found;
		const group = found.value;
		const all = await groupsOf(sql, group.library);
		if (input.to !== null && !all.some((g) => g.id === input.to)) return fail({ code: "not-found", path: "The group" });
		const below = new Set([group.id]);
		for (let grown = true; grown; ) {
			const more = all.filter((g) => g.parent !== null && below.has(g.parent) && !below.has(g.id));
			for (const g of more) below.add(g.id);
			grown = more.length > 0;
		}
		if (input.to !== null && below.has(input.to)) return fail({ code: "group-loop" });
		const children = all.filter((g) => g.parent === group.id);
		const moved = children.map((g) => ({ ...g, parent: input.to }));
		const materials = await materialsInGroup(sql, group.id);
		for (const [i, child] of moved.entries()) {
			const name = await ensureGroupNameAvailable(sql, child.name, {
				library: child.library,
				parent: input.to,
				except: child.id,
			});
			if (!name.ok) return name;
			await setGroup(sql, children[i] as GroupState, child);
		}
		await moveAllOfGroup(sql, group.id, input.to);
		await setGroup(sql, group, null);
		const rows = materials.map((id) => ({ id, expect: input.to, set: group.id }));
		const inverse: Inverse = { kind: "groups", expect: [null, ...moved], set: [group, ...children], rows };
		const event = await recordGroup(ctx, sql, group, { action: "group.remove", inverse });
		return ok({ event, value: { moved: materials.length } });
	});
}
