import type { Copied, RouteInput, Undoable } from "@alvek/contract";
import { cleanName, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseInstallation, authoriseLibrary, requirePublishing } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { ensureLibraryNameAvailable } from "../libraries";
import {
	type CopiedRow,
	copySources,
	documentsOf,
	type Entry,
	ensureGroup,
	insertCopiedRevisions,
	insertCopies,
	insertLibrary,
	openPublish,
	type RowChange,
	recordEvent,
	stateNow,
} from "../repo";
import { moveTo } from "./move";
import { chosenEntries, type Placing, placingIn } from "./placing";
import { proposeNew, recordProposal } from "./publish";
import { reviseFrom } from "./revise";

/** A copy with what it is a copy of. */
export type Made = { readonly of: Entry; readonly id: string };

type CopyInto = {
	readonly entries: readonly Entry[];
	readonly library: string;
	readonly note: string;
	readonly proposed: boolean;
};

/**
 * Copies of published materials in another library, with the same documents (shared by hash), origins kept, as one
 * publish, or as one proposal where the library asks for a second person. Their names have to be free there.
 */
async function copyEntries(ctx: Context, sql: Sql, input: CopyInto): Promise<readonly Made[]> {
	const { library, entries, proposed } = input;
	if (entries.length === 0) return [];
	const groups = new Map<string, string | null>();
	for (const path of new Set(entries.map((e) => e.group))) groups.set(path, await ensureGroup(ctx, sql, library, path));
	ctx.work?.tell(0.2, "copying");
	const publish = await openPublish(ctx, sql, { place: library, note: input.note, state: proposed ? "proposed" : "done" });
	const rows = entries.map(
		(e): CopiedRow => ({
			id: ctx.newId(),
			uid: ctx.newId(),
			revision: ctx.newId(),
			name: e.name,
			key: nameKey(e.name),
			group: groups.get(e.group) ?? null,
			code: e.code,
			origin: e.revision,
		}),
	);
	await insertCopies(ctx, sql, library, rows);
	ctx.work?.tell(0.6, "publishing");
	const made = rows.map((r, i): Made => ({ of: entries[i] as Entry, id: r.id }));
	if (!proposed) {
		await insertCopiedRevisions(sql, publish, rows);
		return made;
	}
	const documents = await documentsOf(
		sql,
		rows.map((r) => r.origin),
	);
	const drafts = rows.flatMap(({ id, origin }) => {
		const document = documents.get(origin);
		return document === undefined ? [] : [[id, document] as const];
	});
	await proposeNew(ctx, sql, publish, new Map(drafts));
	await recordProposal(ctx, sql, library, { publish, note: input.note });
	return made;
}

export function copyLibrary(
	ctx: Context,
	input: RouteInput<"copyLibrary">,
): Promise<Result<Undoable<{ id: string; materials: number }>>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.read");
		if (!library.ok) return library;
		const may = authoriseInstallation(ctx, "library.create");
		if (!may.ok) return may;
		if (await sql.has("library", { id: input.newId })) return fail({ code: "id-taken" });
		const name = await ensureLibraryNameAvailable(ctx, sql, input.name, input.newId);
		if (!name.ok) return name;
		const { description } = library.value;
		await insertLibrary(ctx, sql, { id: input.newId, name: name.value, description, kind: "own" }, "steward");
		// properties of its own come along under the same ids, which documents name
		await copySources(sql, input.id, input.newId, ctx.newId);
		const entries = [...(await stateNow(sql, input.id)).values()];
		const note = `Copy of ${library.value.name}`;
		const made = await copyEntries(ctx, sql, { entries, library: input.newId, note, proposed: false });
		const event = await recordEvent(ctx, sql, {
			action: "library.copy",
			kind: "library",
			subject: input.newId,
			changeset: { from: library.value.name, materials: made.length },
			inverse: { kind: "library-row", id: input.newId, expect: { archived: 0 }, set: { archived: 1 } },
		});
		return ok({ event, value: { id: input.newId, materials: made.length } });
	});
}

/** What becomes of those whose names are taken, by what was asked for. */
type Sorted = {
	/** Copied, some of them under other names. */
	readonly copy: readonly Entry[];
	readonly revise: readonly Made[];
	/** Nothing to do: there it says the same already. */
	readonly same: readonly Made[];
	readonly left: readonly Entry[];
};

/** What to do with each; refused where names that were given are no names or are taken, or something else stands there by now. */
function sorted(placing: Placing, input: RouteInput<"copyMany">): Result<Sorted> {
	const { fresh, taken } = placing;
	if (input.taken === "rename") return renamed(placing, input.names ?? []);
	const same = taken.flatMap((t) => (t.same && t.there !== null ? [{ of: t.entry, id: t.there.id }] : []));
	if (input.taken !== "revise") {
		// what stands there already need not be copied to stand for the original
		const left = taken.filter((t) => input.move !== true || !t.same).map((t) => t.entry);
		return ok({ copy: fresh, revise: [], same, left });
	}
	// nobody puts values over others that they have not been shown
	if (taken.length > 0 && placing.seen !== input.seen) return fail({ code: "copy-moved" });
	const bearing = taken.flatMap((t) => (t.same || t.there === null ? [] : [{ of: t.entry, id: t.there.id }]));
	// two of one name would be two revisions of one material at once: the first one counts, the other is told
	const other = bearing.filter((m, i) => bearing.findIndex((b) => b.id === m.id) === i);
	return ok({
		copy: fresh,
		revise: other,
		same,
		left: taken
			.flatMap((t) => (t.there === null ? [t.entry] : []))
			.concat(bearing.filter((m) => !other.includes(m)).map((m) => m.of)),
	});
}

function renamed({ fresh, taken, keys }: Placing, names: NonNullable<RouteInput<"copyMany">["names"]>): Result<Sorted> {
	const wanted = new Map(names.map((n) => [n.id, n.name]));
	const used = new Set([...keys, ...fresh.map((e) => nameKey(e.name))]);
	const copy: Entry[] = [...fresh];
	const left: Entry[] = [];
	for (const { entry } of taken) {
		const typed = wanted.get(entry.id);
		if (typed === undefined) {
			left.push(entry);
			continue;
		}
		const name = cleanName(typed);
		if (!name.ok) return name;
		if (used.has(nameKey(name.value))) return fail({ code: "name-taken", path: "name", actual: name.value });
		used.add(nameKey(name.value));
		copy.push({ ...entry, name: name.value });
	}
	return ok({ copy, revise: [], same: [], left });
}

/**
 * Published materials of any libraries that I may read, or a group with all below it, copied to another library: under
 * their own groups or one that was named. One step, which puts the copies into the bin again and brings what was moved
 * back into use; revisions stay, as every published one does.
 */
export function copyMany(ctx: Context, input: RouteInput<"copyMany">): Promise<Result<Undoable<Copied>>> {
	return inWrite(ctx, async (sql) => {
		const { libraryId: library } = input;
		const target = await requirePublishing(ctx, sql, library);
		if (!target.ok) return target;
		const { proposed } = target.value;
		if (proposed && input.move === true) return fail({ code: "move-waits", actual: target.value.name });
		const chosen = await chosenEntries(ctx, sql, input);
		if (!chosen.ok) return chosen;
		const { entries, unpublished, told } = chosen.value;
		const sort = sorted(await placingIn(sql, library, entries), input);
		if (!sort.ok) return sort;
		const { revise, same, left } = sort.value;
		const into = input.group?.trim();
		const note = told.from === undefined ? "Copied in" : `Copy of the group ${told.group}, from ${told.from}`;
		const copy = into === undefined ? sort.value.copy : sort.value.copy.map((e) => ({ ...e, group: into }));
		const made = await copyEntries(ctx, sql, { entries: copy, library, note, proposed });
		const done = await reviseFrom(ctx, sql, revise, { place: target.value, proposed, note });
		if (!done.ok) return done;
		const rows = made.map(({ id }): RowChange => ({ id, expect: { removed_at: null }, set: { removed_at: ctx.now() } }));
		const moved =
			input.move === true ? await moveTo(ctx, sql, library, { made, onto: [...done.value.revised, ...same] }) : ok([]);
		if (!moved.ok) return moved;
		const back = [...rows, ...moved.value];
		const event = await recordEvent(ctx, sql, {
			action: "group.copy",
			kind: "library",
			subject: library,
			changeset: { ...told, copied: made.length },
			// revisions stay, as every published one does: where nothing else was done there is nothing to take back
			inverse: back.length === 0 ? null : { kind: "material-rows", rows: back },
		});
		const there = new Map([...made, ...revise, ...same].map((m) => [m.of.id, m.id]));
		const value: Copied = {
			copied: proposed ? 0 : made.length,
			proposed: proposed ? made.length + done.value.revised.length : 0,
			revised: proposed ? 0 : done.value.revised.length,
			moved: moved.value.length,
			left: [...left.map((e) => e.name), ...done.value.left, ...unpublished],
			ids: entries.flatMap((e) => there.get(e.id) ?? []),
		};
		return ok({ event: back.length === 0 ? 0 : event, value });
	});
}
