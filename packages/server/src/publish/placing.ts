import { createHash } from "node:crypto";
import type { CopyPlan, RouteInput, TakenName } from "@alvek/contract";
import { nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorisedAll, authoriseLibrary, waitsForSecond } from "../access";
import type { Context, Sql } from "../db";
import { bearersIn, type Entry, groupById, hashesOf, pathOfGroup, stateNow } from "../repo";

type Chosen = {
	readonly entries: readonly Entry[];
	/** Names of those that were never published, so that there is nothing to copy. */
	readonly unpublished: readonly string[];
	/** The group that is copied and its library, for the history. */
	readonly told: { readonly group: string; readonly from?: string };
};

export type What = Pick<RouteInput<"copyPlan">, "ids" | "ofGroup">;

/** What shall be copied: materials that were named, or those of a group with all below it, each as it is published now. */
export async function chosenEntries(ctx: Context, sql: Sql, { ids = [], ofGroup = null }: What): Promise<Result<Chosen>> {
	if ((ids.length === 0) === (ofGroup === null)) return fail({ code: "empty", path: "ids", expected: "materials, or a group" });
	return ofGroup === null ? entriesOf(ctx, sql, ids) : entriesOfGroup(ctx, sql, ofGroup);
}

async function entriesOf(ctx: Context, sql: Sql, ids: readonly string[]): Promise<Result<Chosen>> {
	const materials = await authorisedAll(ctx, sql, ids, "library.read");
	if (!materials.ok) return materials;
	const states = new Map<string, ReadonlyMap<string, Entry>>();
	const entries: Entry[] = [];
	const unpublished: string[] = [];
	for (const { id, library_id, name } of materials.value) {
		const state = states.get(library_id) ?? (await stateNow(sql, library_id));
		states.set(library_id, state);
		const entry = state.get(id);
		if (entry === undefined) unpublished.push(name);
		else entries.push(entry);
	}
	return ok({ entries, unpublished, told: { group: "" } });
}

async function entriesOfGroup(ctx: Context, sql: Sql, id: string): Promise<Result<Chosen>> {
	const group = await groupById(sql, id);
	const readable = group === null ? null : await authoriseLibrary(ctx, sql, group.library, "library.read");
	if (group === null || !readable?.ok) return fail({ code: "not-found", path: "The group" });
	const path = await pathOfGroup(sql, group.id);
	const inside = [...(await stateNow(sql, group.library)).values()].filter(
		(e) => e.group === path || e.group.startsWith(`${path} / `),
	);
	if (inside.length === 0) return fail({ code: "nothing-to-copy", actual: group.name });
	// the group itself is what is copied, not those above it
	const above = path.length - group.name.length;
	const entries = inside.map((e) => ({ ...e, group: e.group.slice(above) }));
	return ok({ entries, unpublished: [], told: { group: path, from: readable.value.name } });
}

export type Placing = {
	/** Those whose names are free there. */
	readonly fresh: readonly Entry[];
	readonly taken: readonly (TakenName & { readonly entry: Entry })[];
	/** Names as they are compared, of everything that stands there. */
	readonly keys: ReadonlySet<string>;
	/** Checksum of what stands under the taken names there, and of what would take its place. */
	readonly seen: string;
};

/** Where the names of these stand in the library. Of two that bear one name the later one counts as taken by the first. */
export async function placingIn(sql: Sql, library: string, entries: readonly Entry[]): Promise<Placing> {
	const there = await bearersIn(sql, library);
	const heads = await stateNow(sql, library);
	const keys = new Set(there.keys());
	const fresh: Entry[] = [];
	const clashing: Entry[] = [];
	for (const entry of entries) {
		const key = nameKey(entry.name);
		(keys.has(key) ? clashing : fresh).push(entry);
		keys.add(key);
	}
	const revisionThere = (e: Entry): string => heads.get(there.get(nameKey(e.name))?.id ?? "")?.revision ?? "";
	const hashes = await hashesOf(sql, [...clashing.map((e) => e.revision), ...clashing.map(revisionThere)]);
	const taken = clashing.map((entry) => {
		const bearer = there.get(nameKey(entry.name));
		const now = revisionThere(entry);
		const free = freeName(entry.name, keys);
		keys.add(nameKey(free));
		return {
			entry,
			id: entry.id,
			name: entry.name,
			// what was never published is nobody's but its author's: only that its name is taken is told
			there: bearer === undefined || now === "" ? null : { ...bearer, revision: heads.get(bearer.id)?.no ?? 0 },
			same: now !== "" && hashes.get(now) === hashes.get(entry.revision),
			free,
		};
	});
	const seen = createHash("sha256");
	for (const { entry } of taken) seen.update(`${entry.revision} ${revisionThere(entry)}\n`);
	return { fresh, taken, keys: new Set(there.keys()), seen: seen.digest("hex") };
}

/** The name with the next number that nobody bears. */
function freeName(name: string, keys: ReadonlySet<string>): string {
	for (let n = 2; ; n++) if (!keys.has(nameKey(`${name} (${n})`))) return `${name} (${n})`;
}

/** What copying these would do: which names are taken there and by what, before anything is written. */
export async function copyPlan(ctx: Context, input: RouteInput<"copyPlan">): Promise<Result<CopyPlan>> {
	const target = await authoriseLibrary(ctx, ctx.db, input.libraryId, "library.publish");
	if (!target.ok) return target;
	const chosen = await chosenEntries(ctx, ctx.db, input);
	if (!chosen.ok) return chosen;
	const { fresh, taken, seen } = await placingIn(ctx.db, input.libraryId, chosen.value.entries);
	return ok({
		fresh: fresh.length,
		groups: [...new Set(chosen.value.entries.map((e) => e.group))].sort(),
		taken: taken.map(({ entry: _, ...told }) => told),
		unpublished: chosen.value.unpublished,
		proposed: await waitsForSecond(ctx, ctx.db, target.value),
		seen,
	});
}
