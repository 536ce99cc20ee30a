import { type RouteInput, type TakenEdition, UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import { canonicalJson, filesOf, type Material } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseInstallation, authoriseLibrary } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import { type EditionFile, FORMAT, readEdition } from "../exchange";
import { changesBetween, editionNo, ensureLibraryNameAvailable, insertEdition } from "../libraries";
import {
	documentsOf,
	type Entry,
	ensureGroup,
	idsByUid,
	insertLibrary,
	insertRevision,
	libraryByUid,
	nameBlob,
	openPublish,
	putTaken,
	recordEvent,
	removeMaterials,
	stateIn,
	stateNow,
	uidOfLibrary,
} from "../repo";
import type { Blobs, Upload, Workers } from "../runtime";

/** An edition as one JSON file: canonical, so that two exports are equal byte for byte. */
export async function writeEdition(
	ctx: Context,
	blobs: Blobs,
	input: { id: string; no: string },
): Promise<Result<{ file: string; json: string }>> {
	const library = await authoriseLibrary(ctx, ctx.db, input.id, "library.read");
	if (!library.ok) return library;
	const edition = await editionNo(ctx.db, input.id, Number(input.no));
	if (!edition.ok) return edition;
	const entries = [...(await stateIn(ctx.db, edition.value.id)).values()];
	const documents = await documentsOf(
		ctx.db,
		entries.map((e) => e.revision),
	);
	const uids = new Map([...(await idsByUid(ctx.db, input.id))].map(([uid, id]) => [id, uid]));
	const libraryUid = await uidOfLibrary(ctx.db, input.id);
	const materials = entries.map((e) => ({
		uid: uids.get(e.id) as string,
		name: e.name,
		group: e.group,
		itemCode: e.code,
		retired: e.retired === 1,
		document: documents.get(e.revision) as Material,
	}));
	const files: Record<string, string> = {};
	for (const hash of new Set(materials.flatMap((m) => filesOf(m.document))))
		files[hash] = (await blobs.read(hash)).toString("base64");
	const { name, description } = library.value;
	const json = canonicalJson({
		format: FORMAT,
		version: 1,
		library: { uid: libraryUid, name, description },
		edition: { no: edition.value.no, note: edition.value.note, at: edition.value.at },
		materials,
		files,
	});
	return ok({ file: `${name.replace(/[^\p{L}\p{N} ._-]+/gu, "_")} edition ${edition.value.no}.json`, json });
}

/**
 * Takes an edition in: as a new supplied library, or as the next edition of the one that came from the same place. Own
 * materials that began from it are never touched; they show behind where their base has moved on.
 */
export async function takeEdition(
	ctx: Context,
	{ blobs, workers }: { readonly blobs: Blobs; readonly workers: Workers },
	input: RouteInput<"takeEdition">,
	upload: Upload,
): Promise<Result<TakenEdition>> {
	const may = authoriseInstallation(ctx, "library.create");
	if (!may.ok) return may;
	const received = await blobs.receive(upload.stream, UPLOAD_LIMIT_BYTES, upload.length);
	if (!received.ok) return received;
	const file = await readEdition(workers, await blobs.read(received.value.hash));
	if (!file.ok) return file;
	if (input.preview === "1") return preview(ctx, file.value);
	for (const base64 of Object.values(file.value.files)) await blobs.put(Buffer.from(base64, "base64"));
	return inWrite(ctx, async (sql) => {
		const seen = await preview(ctx, file.value, sql);
		if (!seen.ok) return seen;
		const id = await storeEdition(ctx, sql, seen.value, file.value);
		return id.ok ? ok({ ...seen.value, libraryId: id.value }) : id;
	});
}

type Existing = { readonly id: string; readonly edition: number; readonly uids: ReadonlyMap<string, string> };

/** The library here that the file's edition belongs to; null: there is none yet. */
async function existingLibrary(ctx: Context, sql: Sql, file: EditionFile): Promise<Result<Existing | null>> {
	const row = await libraryByUid(sql, file.library.uid);
	if (row === null) return ok(null);
	if (row.kind === "own") return fail({ code: "own-library", actual: file.library.name });
	const library = await authoriseLibrary(ctx, sql, row.id, "library.steward");
	if (!library.ok) return library;
	if (file.no <= row.edition)
		return fail({ code: "older-edition", actual: file.no, expected: `later than edition ${row.edition}` });
	return ok({ id: row.id, edition: row.edition, uids: await idsByUid(sql, row.id) });
}

/** What taking it in would change, found before anything is written. */
async function preview(ctx: Context, file: EditionFile, sql: Sql = ctx.db): Promise<Result<TakenEdition>> {
	const here = await existingLibrary(ctx, sql, file);
	if (!here.ok) return here;
	const from: ReadonlyMap<string, Entry> = here.value === null ? new Map() : await stateNow(sql, here.value.id);
	const documents = await documentsOf(
		sql,
		[...from.values()].map((e) => e.revision),
	);
	const arriving = new Map<string, Material>();
	const to = new Map<string, Entry>();
	for (const m of file.materials) {
		const id = here.value?.uids.get(m.uid) ?? m.uid;
		const before = from.get(id);
		const now = before === undefined ? undefined : documents.get(before.revision);
		const same = now !== undefined && canonicalJson(now) === canonicalJson(m.document);
		const revision = same ? (before as Entry).revision : `arriving ${m.uid}`;
		if (!same) arriving.set(revision, m.document);
		const row = { name: m.name, group: m.group, code: m.itemCode, retired: m.retired ? 1 : 0 };
		to.set(id, { id, revision, no: same ? (before as Entry).no : (before?.no ?? 0) + 1, ...row });
	}
	const difference = await changesBetween(sql, from, to, arriving);
	return ok({
		libraryId: here.value?.id ?? "",
		name: file.library.name,
		from: here.value?.edition ?? 0,
		to: file.no,
		...difference,
	});
}

async function storeEdition(ctx: Context, sql: Sql, seen: TakenEdition, file: EditionFile): Promise<Result<string>> {
	let library = seen.libraryId;
	if (library === "") {
		const name = await ensureLibraryNameAvailable(ctx, sql, file.library.name, "");
		if (!name.ok) return name;
		library = ctx.newId();
		await insertLibrary(ctx, sql, { ...file.library, id: library, name: name.value, kind: "supplied" }, "steward");
	}
	const at = ctx.now();
	for (const [hash, base64] of Object.entries(file.files))
		await nameBlob(sql, { hash, size: Buffer.byteLength(base64, "base64"), at });
	const gone = seen.changes.filter((c) => c.kind === "gone").map((c) => c.id);
	await removeMaterials(sql, gone, at);
	const known = await idsByUid(sql, library);
	const touched = new Map(seen.changes.map((c) => [c.id, c.kind]));
	const publish = await openPublish(ctx, sql, { place: library, note: file.note === "" ? `Edition ${file.no}` : file.note });
	for (const m of file.materials) {
		const id = known.get(m.uid) ?? ctx.newId();
		const kind = touched.get(known.get(m.uid) ?? m.uid);
		if (kind === undefined) continue;
		const group = await ensureGroup(ctx, sql, library, m.group);
		await putTaken(ctx, sql, { id, uid: m.uid, library, group, name: m.name, code: m.itemCode, retired: m.retired });
		if (kind !== "row") await insertRevision(ctx, sql, { material: id, publish, document: m.document });
	}
	await insertEdition(ctx, sql, { library, note: file.note, no: file.no, entries: await stateNow(sql, library) });
	await recordEvent(ctx, sql, {
		action: "library.take",
		kind: "library",
		subject: library,
		changeset: { no: file.no },
		inverse: null,
	});
	return ok(library);
}
