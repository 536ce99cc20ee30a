import type { RouteInput, StoredFile } from "@alvek/contract";
import { cleanFileName, sniff } from "@alvek/core/file";
import { type Edit, filesOf, LIMITS } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Blobs } from "../db/blobs";
import type { Sql } from "../db/connection";
import { authoriseProject } from "../db/rights";
import { type Context, inWrite } from "../db/write";
import type { Upload } from "../jobs/service";
import { authorised } from "./access";
import { draftDocument, draftOf, materialById } from "./store";

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
		await sql.run("INSERT INTO blob (hash, size, at) VALUES ($hash, $size, $at) ON CONFLICT DO NOTHING", { hash, size, at });
		await sql.run("INSERT INTO file_upload (hash, person_id, at) VALUES ($hash, $person, $at) ON CONFLICT DO NOTHING", {
			hash,
			person: ctx.actor.person,
			at,
		});
		const pixels = picture === null ? null : ([picture.width, picture.height] as const);
		return ok({ hash, bytes: size, name: name.value, format, pixels });
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
		? (await isNamed(ctx, ctx.db, input.id, input.hash)) || (await isMine(ctx, ctx.db, input.hash))
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
		if (!(await isMine(ctx, sql, hash)) && !(await isNamed(ctx, sql, material, hash)))
			return fail({ code: "not-found", path: "The file" });
	}
	return ok(null);
}

async function isMine(ctx: Context, sql: Sql, hash: string): Promise<boolean> {
	const found = await sql.one("SELECT 1 AS x FROM file_upload WHERE hash = $hash AND person_id = $person", {
		hash,
		person: ctx.actor.person,
	});
	return found !== null;
}

/**
 * Does a revision of the material, of a base that the actor may read, or the actor's draft name the file? What a document
 * names was found when it was decoded; the same letters in a note mean nothing.
 */
async function isNamed(ctx: Context, sql: Sql, material: string, hash: string): Promise<boolean> {
	const record = await materialById(sql, material);
	if (record === null) return false;
	const own = await sql.one(
		`SELECT 1 AS x FROM revision r JOIN document_file n ON n.document_hash = r.document_hash
		 WHERE r.material_id = $material AND n.file_hash = $hash LIMIT 1`,
		{ material, hash },
	);
	if (own !== null) return true;
	const draft = await draftOf(sql, material, ctx.actor.person);
	if (draft !== null && filesOf(draftDocument(draft)).includes(hash)) return true;
	const base = await sql.one<{ id: string }>(
		`SELECT r.material_id AS id FROM revision r JOIN document_file n ON n.document_hash = r.document_hash
		 WHERE r.id = $origin AND n.file_hash = $hash`,
		{ origin: record.origin_revision_id ?? "", hash },
	);
	return base !== null && (await authorised(ctx, sql, base.id, "library.read")).ok;
}

async function isOnReadableParts(ctx: Context, material: string, hash: string): Promise<boolean> {
	const projects = await ctx.db.all<{ id: string }>(
		`SELECT DISTINCT p.project_id AS id FROM assignment a JOIN part p ON p.id = a.part_id
		 JOIN revision r ON r.id = a.revision_id JOIN document_file n ON n.document_hash = r.document_hash
		 WHERE r.material_id = $material AND n.file_hash = $hash`,
		{ material, hash },
	);
	for (const { id } of projects) if ((await authoriseProject(ctx, ctx.db, id, "project.read")).ok) return true;
	return false;
}
