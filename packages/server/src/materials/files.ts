import type { HeldTexture, RouteInput, StoredFile } from "@alvek/contract";
import { cleanFileName, sniff } from "@alvek/core/file";
import { type Edit, filesOf, LIMITS } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authorised, authoriseProject, readableLibraries } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	draftDocument,
	draftOf,
	headDocument,
	isFileOfMaterial,
	isUploadOf,
	materialById,
	materialOfFile,
	nameBlob,
	noteUpload,
	parseDocument,
	picturedIn,
	projectsOfFile,
} from "../repo";
import type { Blobs, Upload } from "../runtime";

const MEGABYTE = 1024 * 1024;

/** Stores a file by its checksum. Nothing names it yet: a draft that does makes it part of the record. */
export async function uploadFile(
	ctx: Context,
	blobs: Blobs,
	input: RouteInput<"uploadFile">,
	upload: Upload,
): Promise<Result<StoredFile>> {
	const material = await authorised(ctx, ctx.db, input.id, "library.edit");
	if (!material.ok) return material;
	const name = cleanFileName(input.file);
	if (!name.ok) return name;
	const limit = input.as === "picture" ? LIMITS.picture : LIMITS.file;
	if (upload.length !== null && upload.length > limit)
		return fail({ code: "upload-too-large", actual: upload.length, expected: `${limit / MEGABYTE} MB` });
	const blob = await blobs.receive(upload.stream, limit, upload.length);
	if (!blob.ok) return blob;
	const { hash, size } = blob.value;
	if (size === 0) return fail({ code: "empty-file", actual: name.value, expected: "a file with content" });
	const { format, picture } = sniff(await blobs.read(hash));
	if (input.as === "picture") {
		if (picture === null) return fail({ code: "not-a-picture", actual: format, expected: "PNG, JPEG or WebP" });
		if (Math.max(picture.width, picture.height) > LIMITS.pixels)
			return fail({ code: "picture-too-large", actual: `${picture.width} × ${picture.height}`, expected: String(LIMITS.pixels) });
	}
	return inWrite(ctx, async (sql) => {
		const at = ctx.now();
		await nameBlob(sql, { hash, size, at });
		await noteUpload(sql, { hash, person: ctx.actor.person, at });
		const pixels = picture === null ? null : ([picture.width, picture.height] as const);
		return ok({ hash, bytes: size, name: name.value, format, pixels });
	});
}

/** Textures that are offered at once. */
const MOST_TEXTURES = 200;

/** Pictures of surfaces that materials of readable libraries hold, each once, those changed last first. */
export async function listTextures(ctx: Context): Promise<Result<readonly HeldTexture[]>> {
	const libraries = (await readableLibraries(ctx, ctx.db)).map((l) => l.id);
	const held = new Map<string, HeldTexture>();
	for (const { id, name, library, bytes } of await picturedIn(ctx.db, libraries, MOST_TEXTURES)) {
		const texture = parseDocument(bytes).look?.texture;
		if (texture?.kind !== "picture" || held.has(texture.hash)) continue;
		held.set(texture.hash, { materialId: id, material: name, library, texture });
	}
	return ok([...held.values()]);
}

/**
 * A texture that another material holds may be named in a draft of this one from now on, as if its picture had been
 * brought in here. What that material shows now is what counts: a checksum is no key to others' files.
 */
export function takeTexture(ctx: Context, input: RouteInput<"takeTexture">): Promise<Result<{ taken: string }>> {
	return inWrite(ctx, async (sql) => {
		const material = await authorised(ctx, sql, input.id, "library.edit");
		if (!material.ok) return material;
		const from = await authorised(ctx, sql, input.from, "library.read");
		const texture = from.ok ? headDocument(from.value)?.look?.texture : null;
		if (texture?.kind !== "picture" || texture.hash !== input.hash) return fail({ code: "not-found", path: "The texture" });
		await noteUpload(sql, { hash: texture.hash, person: ctx.actor.person, at: ctx.now() });
		return ok({ taken: texture.hash });
	});
}

/**
 * A file of a material's record: to whoever reads its library, or a project whose parts stand on a revision that names
 * it. One's own upload is there before anything names it.
 */
export async function readFile(
	ctx: Context,
	blobs: Blobs,
	input: RouteInput<"getFile">,
): Promise<Result<{ bytes: Buffer; name: string; picture: string | null }>> {
	const missing = fail({ code: "not-found", path: "The file" });
	const read = await authorised(ctx, ctx.db, input.id, "library.read");
	const allowed = read.ok
		? (await isNamed(ctx, ctx.db, input.id, input.hash)) || (await isUploadOf(ctx.db, input.hash, ctx.actor.person))
		: await isOnReadableParts(ctx, input.id, input.hash);
	if (!allowed) return missing;
	const name = cleanFileName(input.name ?? "file");
	const bytes = await blobs.read(input.hash);
	const picture = input.as === "picture" ? sniff(bytes).picture : null;
	if (input.as === "picture" && picture === null) return missing;
	return ok({ bytes, name: name.ok ? name.value : "file", picture: picture?.type ?? null });
}

const HASH = /^[0-9a-f]{64}$/;

/** Files that these edits bring in have to be the author's own uploads or of the record already: a checksum is no key to others' files. */
export async function checkFiles(ctx: Context, sql: Sql, material: string, edits: readonly Edit[]): Promise<Result<null>> {
	for (const { at, to } of edits) {
		if (!at.startsWith("attachments:") && at !== "field:look") continue;
		const content = to as { hash?: unknown; texture?: { hash?: unknown } | null } | null;
		const hash = content?.hash ?? content?.texture?.hash;
		if (typeof hash !== "string" || !HASH.test(hash)) continue;
		if (!(await isUploadOf(sql, hash, ctx.actor.person)) && !(await isNamed(ctx, sql, material, hash)))
			return fail({ code: "not-found", path: "The file" });
	}
	return ok(null);
}

/**
 * Does a revision of the material, of a base that the actor may read, or the actor's draft name the file? What a document
 * names was found when it was decoded; the same letters in a note mean nothing.
 */
async function isNamed(ctx: Context, sql: Sql, material: string, hash: string): Promise<boolean> {
	const record = await materialById(sql, material);
	if (record === null) return false;
	if (await isFileOfMaterial(sql, material, hash)) return true;
	const draft = await draftOf(sql, material, ctx.actor.person);
	if (draft !== null && filesOf(draftDocument(draft)).includes(hash)) return true;
	const base = await materialOfFile(sql, record.origin_revision_id ?? "", hash);
	return base !== null && (await authorised(ctx, sql, base, "library.read")).ok;
}

async function isOnReadableParts(ctx: Context, material: string, hash: string): Promise<boolean> {
	for (const id of await projectsOfFile(ctx.db, material, hash))
		if ((await authoriseProject(ctx, ctx.db, id, "project.read")).ok) return true;
	return false;
}
