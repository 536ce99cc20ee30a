import type { Merged, MergePlan, NameLink, RouteInput } from "@alvek/contract";
import { applyEdits, classify, difference, type Edit, type Material } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, isSingleUser, requireOpenLock, viewerOf, waitsForSecond } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import type { MaterialQueries } from "../material-index";
import { hiddenUses, usesOf } from "../materials";
import {
	bearerOfCode,
	bearersOfLinks,
	changeMaterialRow,
	copyMarks,
	countStandingOn,
	editionsHolding,
	insertRevision,
	isSameLink,
	type MaterialRecord,
	openPublish,
	parseDocument,
	type RowChange,
	readLinks,
	recordEvent,
	storeLinks,
} from "../repo";
import { forwardByRule } from "./forward";

type Pair = { readonly keep: MaterialRecord; readonly drop: MaterialRecord };

/** Both, when they may be merged: published, not retired, and nothing of them in the bin. */
async function pairOf(ctx: Context, sql: Sql, input: { id: string; other: string }): Promise<Result<Pair>> {
	const keep = await authorised(ctx, sql, input.id, "library.read");
	if (!keep.ok) return keep;
	const drop = await authorised(ctx, sql, input.other, "library.publish");
	if (!drop.ok) return drop;
	if (input.id === input.other) return fail({ code: "merge-itself" });
	for (const { name, bytes, removed_at, retired } of [keep.value, drop.value]) {
		if (removed_at !== null) return fail({ code: "not-found", path: "The material" });
		if (bytes === null) return fail({ code: "not-published", actual: name });
		if (retired === 1) return fail({ code: "merge-retired", actual: name });
	}
	return ok({ keep: keep.value, drop: drop.value });
}

const headOf = (record: MaterialRecord): Material => parseDocument(record.bytes as Buffer);

export async function mergePlan(
	ctx: Context,
	queries: MaterialQueries,
	input: RouteInput<"mergePlan">,
): Promise<Result<MergePlan>> {
	const pair = await pairOf(ctx, ctx.db, input);
	if (!pair.ok) return pair;
	const { keep, drop } = pair.value;
	const [keepRow, dropRow] = await queries.rows([keep.id, drop.id], await viewerOf(ctx));
	if (keepRow === undefined || dropRow === undefined) return fail({ code: "not-found", path: "The material" });
	return ok({
		keep: keepRow,
		drop: dropRow,
		document: headOf(keep),
		edits: difference(headOf(keep), headOf(drop)),
		uses: (await usesOf(ctx, [drop.id])).get(drop.id) ?? [],
		hidden: await hiddenUses(ctx, [drop.id]),
		frozenParts: (await countStandingOn(ctx.db, [drop.id])).frozen,
		editions: await editionsHolding(ctx.db, [drop.id]),
	});
}

/** Places that come along with another one: a value's source, and the mark of a field that was carried over. */
function comesAlong(edit: Edit, wanted: ReadonlySet<string>, edits: readonly Edit[]): boolean {
	const [map, key = ""] = edit.at.split(":", 2);
	if (map === "carriedFields") return wanted.has(`field:${key}`);
	if (map !== "sources") return false;
	return edits.some((e) => wanted.has(e.at) && (e.to as { sourceId?: string } | null)?.sourceId === edit.at.slice(8));
}

/** The survivor's next document: its newest one with the chosen places of the other; null where none was chosen. */
function taken(pair: Pair, take: readonly string[]): Result<{ document: Material; edits: readonly Edit[] } | null> {
	const wanted = new Set(take);
	const all = difference(headOf(pair.keep), headOf(pair.drop));
	const chosen = all.filter((e) => wanted.has(e.at));
	if (chosen.length !== wanted.size) return fail({ code: "merge-moved" });
	if (chosen.length === 0) return ok(null);
	const edits = all.filter((e) => wanted.has(e.at) || comesAlong(e, wanted, all));
	const applied = applyEdits(headOf(pair.keep), edits);
	return applied.ok ? ok({ document: applied.value.material, edits }) : applied;
}

/**
 * Two become one: the survivor takes over the chosen places as its next revision, the other is retired with it as its
 * successor. Parts stay where they are and show behind. One step, which can be taken back; the revision stays, as every
 * published one does.
 */
export function mergeMaterials(ctx: Context, input: RouteInput<"mergeMaterials">): Promise<Result<Merged>> {
	return inWrite(ctx, async (sql) => {
		const pair = await pairOf(ctx, sql, input);
		if (!pair.ok) return pair;
		const { keep, drop } = pair.value;
		// nobody merges what they have not seen
		if (keep.revision_no !== input.keepRevision || drop.revision_no !== input.dropRevision) return fail({ code: "merge-moved" });
		const alone = await isSingleUser(sql);
		if (input.note.trim() === "" && !alone) return fail({ code: "note-missing", path: "note" });
		const open = await requireOpenLock(ctx, sql, drop.library_id);
		if (!open.ok) return open;
		const next = taken(pair.value, input.take);
		if (!next.ok) return next;
		const revision = next.value === null ? null : await publishTaken(ctx, sql, pair.value, { ...input, ...next.value });
		if (revision !== null && !revision.ok) return revision;
		const rows = await moveRows(ctx, sql, pair.value, input.code);
		await copyMarks(sql, drop.id, keep.id);
		const behind = (await countStandingOn(sql, [drop.id])).parts;
		const note = input.note.trim();
		await recordEvent(ctx, sql, {
			action: "material.merge",
			kind: "material",
			subject: keep.id,
			changeset: { note, with: drop.name, other: drop.id, taken: input.take },
			inverse: null,
		});
		const event = await recordEvent(ctx, sql, {
			action: "material.merged",
			kind: "material",
			subject: drop.id,
			changeset: { note, into: keep.name, other: keep.id },
			inverse: { kind: "material-rows", rows },
		});
		return ok({ event, revision: revision === null ? null : revision.value, behind });
	});
}

async function publishTaken(
	ctx: Context,
	sql: Sql,
	{ keep, drop }: Pair,
	what: { readonly document: Material; readonly edits: readonly Edit[]; readonly note: string },
): Promise<Result<number>> {
	const allowed = await authorised(ctx, sql, keep.id, "library.publish");
	if (!allowed.ok) return allowed;
	const open = await requireOpenLock(ctx, sql, keep.library_id);
	if (!open.ok) return open;
	// what a second person has to see goes as a draft first
	if (await waitsForSecond(ctx, sql, open.value)) return fail({ code: "merge-approval", actual: keep.library });
	const note = what.note.trim() === "" ? `Merged with ${drop.name}` : what.note.trim();
	const publish = await openPublish(ctx, sql, { place: keep.library_id, note });
	const revision = await insertRevision(ctx, sql, { material: keep.id, publish, document: what.document });
	await forwardByRule(ctx, sql, new Map([[keep.id, revision.id]]));
	await recordEvent(ctx, sql, {
		action: "material.publish",
		kind: "material",
		subject: keep.id,
		changeset: { revision: revision.no, movedParts: [], note, together: 1, class: classify(what.edits) },
		inverse: null,
	});
	return ok(revision.no);
}

/**
 * Retires the one. Code and shop name go to the survivor where it has none, or where that was asked for; names elsewhere
 * always, where the survivor is the actor's to change. Within one library what goes leaves the retired one, because it may stand there once; in another library the
 * retired one keeps its own, and what somebody else bears there by now stays behind.
 */
async function moveRows(ctx: Context, sql: Sql, { keep, drop }: Pair, code: boolean): Promise<readonly RowChange[]> {
	const together = keep.library_id === drop.library_id;
	// what somebody else supplies or keeps is called what they call it
	const mine = together || (await authorised(ctx, sql, keep.id, "library.edit")).ok;
	const ofDrop: RowChange = {
		id: drop.id,
		set: { retired: 0, successor_id: null },
		expect: { retired: 1, successor_id: keep.id },
	};
	const ofKeep: RowChange = { id: keep.id, set: {}, expect: {} };
	const give = (column: "item_code" | "shop_name" | "known_as", next: string): void => {
		Object.assign(ofKeep.set, { [column]: keep[column] });
		Object.assign(ofKeep.expect, { [column]: next });
	};
	const leave = (column: "item_code" | "known_as", blank: string): void => {
		Object.assign(ofDrop.set, { [column]: drop[column] });
		Object.assign(ofDrop.expect, { [column]: blank });
	};
	if (mine && drop.shop_name !== "" && keep.shop_name === "") give("shop_name", drop.shop_name);
	const wanted = mine && drop.item_code !== "" && (keep.item_code === "" || code);
	if (wanted && (together || (await bearerOfCode(sql, keep.library_id, drop.item_code, keep.id)) === null)) {
		give("item_code", drop.item_code);
		if (together) leave("item_code", "");
	}
	const links = [...readLinks(keep.known_as), ...(mine ? await freeLinks(sql, { keep, drop }) : [])];
	if (links.length > readLinks(keep.known_as).length) {
		give("known_as", storeLinks(links));
		if (together) leave("known_as", "[]");
	}
	const rows = [ofDrop, ofKeep].filter((r) => Object.keys(r.expect).length > 0);
	for (const { id, expect } of rows) await changeMaterialRow(ctx, sql, id, expect);
	// taken back in the other order, so that the code is free again when it returns
	return rows.reverse();
}

/** What others call the one, as far as the survivor may be called that where it stands. */
async function freeLinks(sql: Sql, { keep, drop }: Pair): Promise<readonly NameLink[]> {
	const links = readLinks(drop.known_as);
	const bearers = await bearersOfLinks(sql, keep.library_id, drop.known_as, keep.id);
	const ofOthers = keep.library_id === drop.library_id ? bearers.filter((b) => b.material !== drop.name) : bearers;
	return links.filter((l) => !ofOthers.some((o) => isSameLink(o, l)));
}
