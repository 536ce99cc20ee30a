import { createHash } from "node:crypto";
import { addressIssue, cleanName, decodeMaterial, filesOf, type Material, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";

export const FORMAT = "alvek-edition";

type FileMaterial = {
	readonly uid: string;
	readonly name: string;
	readonly group: string;
	readonly itemCode: string;
	readonly retired: boolean;
	readonly document: Material;
};

export type EditionFile = {
	readonly library: { readonly uid: string; readonly name: string; readonly description: string };
	readonly no: number;
	readonly note: string;
	readonly materials: readonly FileMaterial[];
	/** Content of attachments and pictures that the documents name, base64 by checksum. */
	readonly files: Readonly<Record<string, string>>;
};

/** Reads an edition's file whole before anything of it is believed; the first thing wrong is named with its place. */
export function readEditionFile(bytes: Uint8Array): Result<EditionFile> {
	let raw: unknown;
	try {
		raw = JSON.parse(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("utf8"));
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
		return fail({ code: "not-an-edition", expected: "a file written by an edition's “Export”" });
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
	if (!clean.ok) return fail(...clean.issues.map((i) => ({ ...i, path: `${at}.name` })));
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
