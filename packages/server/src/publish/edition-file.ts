import { createHash } from "node:crypto";
import { type RouteInput, type TakenEdition, UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import { addressIssue, canonicalJson, cleanName, decodeMaterial, filesOf, type Material, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseInstallation, authoriseLibrary } from "../access";
import { type Context, inWrite, type Sql } from "../db";
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
import type { Blobs, Upload } from "../runtime";

const FORMAT = "alvek-edition";

type FileMaterial = {
	readonly uid: string;
	readonly name: string;
	readonly group: string;
	readonly itemCode: string;
	readonly retired: boolean;
	readonly document: Material;
};

type EditionFile = {
	readonly library: { readonly uid: string; readonly name: string; readonly description: string };
	readonly no: number;
	readonly note: string;
	readonly materials: readonly FileMaterial[];
	/** Content of attachments and pictures that the documents name, base64 by checksum. */
	readonly files: Readonly<Record<string, string>>;
};

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

/** Reads an edition's file whole before anything of it is believed; the first thing wrong is named with its place. */
async function readEditionFile(text: string): Promise<Result<EditionFile>> {
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (cause) {
		return fail({ code: "not-json", actual: String((cause as Error).message).slice(0, 120) });
	}
	const top = raw as {
		format?: unknown;
		version?: unknown;
		library?: unknown;
		edition?: unknown;
		materials?: unknown;
		files?: unknown;
	};
	if (typeof raw !== "object" || raw === null || top.format !== FORMAT)
		return fail({ code: "not-an-edition", expected: "a file written by an edition's “Write to file”" });
	if (top.version !== 1) return fail({ code: "newer-file", actual: String(top.version), expected: "version 1" });
	const library = top.library as { uid?: unknown; name?: unknown; description?: unknown } | null;
	const edition = top.edition as { no?: unknown; note?: unknown } | null;
	const name = cleanName(typeof library?.name === "string" ? library.name : "");
	if (!name.ok) return name;
	if (typeof library?.uid !== "string" || !/^[0-9A-Za-z-]{1,64}$/.test(library.uid))
		return fail({ code: "bad-input", path: "library.uid", expected: "an id" });
	if (typeof edition?.no !== "number" || !Number.isInteger(edition.no) || edition.no < 1)
		return fail({ code: "bad-input", path: "edition.no", expected: "a whole number" });
	if (!Array.isArray(top.materials) || top.materials.length === 0 || top.materials.length > 100_000)
		return fail({ code: "bad-input", path: "materials", expected: "1 to 100 000 materials" });
	const materials: FileMaterial[] = [];
	const names = new Set<string>();
	const uids = new Set<string>();
	for (const [i, entry] of (top.materials as Record<string, unknown>[]).entries()) {
		// others are answered meanwhile: a large library takes seconds to read
		if (i % 200 === 199) await new Promise((resolve) => setImmediate(resolve));
		const at = `materials[${i}]`;
		const read = readFileMaterial(entry, at);
		if (!read.ok) return read;
		const { uid, name: own } = read.value;
		if (uids.has(uid) || names.has(nameKey(own))) return fail({ code: "twice-in-file", path: at, actual: own });
		uids.add(uid);
		names.add(nameKey(own));
		materials.push(read.value);
	}
	const files = readFiles(top.files);
	if (!files.ok) return files;
	// a checksum is no key to what lies here already: what a document names has to come with it
	for (const [i, { document }] of materials.entries())
		for (const hash of filesOf(document))
			if (!Object.hasOwn(files.value, hash)) return fail({ code: "damaged-file", path: `materials[${i}], ${hash.slice(0, 12)}` });
	const description = typeof library.description === "string" ? library.description : "";
	const note = typeof edition.note === "string" ? edition.note : "";
	if (description.length > 20_000) return fail({ code: "too-long", path: "library.description", expected: "20000" });
	if (note.length > 2000) return fail({ code: "too-long", path: "edition.note", expected: "2000" });
	return ok({
		library: { uid: library.uid, name: name.value, description },
		no: edition.no,
		note,
		materials,
		files: files.value,
	});
}

function readFileMaterial(entry: Record<string, unknown> | null, at: string): Result<FileMaterial> {
	if (typeof entry !== "object" || entry === null) return fail({ code: "wrong-type", path: at, expected: "an object" });
	const { uid, name, group, itemCode, retired, document } = entry;
	if (typeof uid !== "string" || !/^[0-9A-Za-z-]{1,64}$/.test(uid))
		return fail({ code: "bad-input", path: `${at}.uid`, expected: "an id" });
	const clean = cleanName(typeof name === "string" ? name : "");
	if (!clean.ok) return fail({ ...clean.issues[0], path: `${at}.name` } as never);
	const decoded = decodeMaterial(document);
	if (!decoded.ok)
		return fail(...decoded.issues.map((i) => ({ ...i, path: `${at}.document${i.path === undefined ? "" : `, ${i.path}`}` })));
	for (const [key, text, most] of [
		["group", group, 400],
		["itemCode", itemCode, 200],
	] as const)
		if (text !== undefined && (typeof text !== "string" || text.length > most))
			return fail({ code: "bad-input", path: `${at}.${key}`, expected: `at most ${most} characters` });
	if (retired !== undefined && typeof retired !== "boolean")
		return fail({ code: "bad-input", path: `${at}.retired`, expected: "true or false" });
	const address = Object.values(decoded.value.sources)
		.map((s) => addressIssue(s, `${at}.document.sources`))
		.find((issue) => issue !== null);
	if (address != null) return fail(address);
	return ok({
		uid,
		name: clean.value,
		group: (group as string | undefined) ?? "",
		itemCode: (itemCode as string | undefined) ?? "",
		retired: retired === true,
		document: decoded.value,
	});
}

/** A file has to be what its checksum says, or nothing of it is taken. */
function readFiles(raw: unknown): Result<Readonly<Record<string, string>>> {
	const files: Record<string, string> = {};
	for (const [hash, base64] of Object.entries((raw ?? {}) as Record<string, unknown>)) {
		const bytes = Buffer.from(typeof base64 === "string" ? base64 : "", "base64");
		if (createHash("sha256").update(bytes).digest("hex") !== hash)
			return fail({ code: "damaged-file", path: `files, ${hash.slice(0, 12)}` });
		files[hash] = base64 as string;
	}
	return ok(files);
}

/**
 * Takes an edition in: as a new supplied library, or as the next edition of the one that came from the same place. Own
 * materials that began from it are never touched; they show behind where their base has moved on.
 */
export async function takeEdition(
	ctx: Context,
	blobs: Blobs,
	input: RouteInput<"takeEdition">,
	upload: Upload,
): Promise<Result<TakenEdition>> {
	const may = authoriseInstallation(ctx, "library.create");
	if (!may.ok) return may;
	const received = await blobs.receive(upload.stream, UPLOAD_LIMIT_BYTES, upload.length);
	if (!received.ok) return received;
	const file = await readEditionFile((await blobs.read(received.value.hash)).toString("utf8"));
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
