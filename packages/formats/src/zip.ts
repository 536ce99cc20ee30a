import { buffer } from "node:stream/consumers";
import { crc32 } from "node:zlib";
import { type Finding, fail, finding, type IssueCode, ok, type Result } from "@alvek/core/result";
import { type Entry, fromBufferPromise, getFileNameLowLevel, type ZipFile } from "yauzl";

export type ZipLimits = {
	/** Files in it. */
	readonly entries: number;
	/** Bytes of one file, unpacked. */
	readonly part: number;
	/** Bytes of all files, unpacked. */
	readonly unpacked: number;
};

const MB = 1024 * 1024;
export const ZIP_LIMITS: ZipLimits = { entries: 2000, part: 256 * MB, unpacked: 512 * MB };

/** A file in a ZIP. */
export type ZipEntry = {
	/** With its folders, divided by `/`. */
	readonly name: string;
	/** Bytes, unpacked, as the directory of the ZIP says. */
	readonly size: number;
	/** Its content: as long as the directory says and with the checksum that it says, or refused. */
	read(): Promise<Result<Uint8Array>>;
};

export type Zip = {
	readonly entries: readonly ZipEntry[];
	/** What was in it and is not offered, by name. */
	readonly findings: readonly Finding[];
};

/** Does the content begin as a ZIP does, an empty one too? */
export const isZip = (bytes: Uint8Array): boolean =>
	bytes[0] === 0x50 && bytes[1] === 0x4b && ((bytes[2] === 3 && bytes[3] === 4) || (bytes[2] === 5 && bytes[3] === 6));

/**
 * The directory of a ZIP. Nothing is unpacked before what its files would take altogether is within the limits; names
 * that lead out of it, links, locked files and names that come twice are refused by name, each as a finding.
 * @returns refused: `zip-broken`, `too-many-entries`, `unpacks-too-large`
 */
export async function openZip(bytes: Uint8Array, limits: ZipLimits = ZIP_LIMITS): Promise<Result<Zip>> {
	let zip: ZipFile;
	const raw: Entry[] = [];
	try {
		zip = await fromBufferPromise(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), {
			decodeStrings: false,
			validateEntrySizes: true,
		});
		if (zip.entryCount > limits.entries)
			return fail({ code: "too-many-entries", actual: zip.entryCount, expected: String(limits.entries) });
		for await (const entry of zip.eachEntry()) raw.push(entry);
	} catch (cause) {
		return fail({ code: "zip-broken", actual: (cause as Error).message });
	}
	const files = raw.map((entry) => ({ entry, name: nameOf(entry) })).filter(({ name }) => !name.endsWith("/"));
	const total = files.reduce((sum, { entry }) => sum + entry.uncompressedSize, 0);
	if (total > limits.unpacked)
		return fail({ code: "unpacks-too-large", actual: inMegabytes(total), expected: inMegabytes(limits.unpacked) });
	const counts = new Map<string, number>();
	for (const { name } of files) counts.set(name, (counts.get(name) ?? 0) + 1);
	const entries: ZipEntry[] = [];
	const findings: Finding[] = [];
	for (const { entry, name } of files) {
		const why = refusal(entry, name, { limits, count: counts.get(name) as number });
		if (why === null) entries.push({ name, size: entry.uncompressedSize, read: () => read(zip, entry, name) });
		else
			findings.push(finding({ severity: "wrong", place: { path: name }, remedy: why.remedy }, { code: why.code, actual: name }));
	}
	return ok({ entries, findings });
}

/** As it says itself in UTF-8, else in the code page that the format was made with; divided by `/`. */
const nameOf = (entry: Entry): string =>
	getFileNameLowLevel(entry.generalPurposeBitFlag, entry.fileNameRaw, entry.extraFields, false);

const inMegabytes = (size: number): string => `${Math.ceil(size / MB)} MB`;

/** What the upper half of the outer attributes of a symbolic link begins with, in archives that Unix made. */
const isLink = (entry: Entry): boolean => ((entry.externalFileAttributes >>> 16) & 0xf000) === 0xa000;

/** Why a file of it is not offered. */
function refusal(
	entry: Entry,
	name: string,
	{ limits, count }: { limits: ZipLimits; count: number },
): { readonly code: IssueCode; readonly remedy: string } | null {
	if (/^\/|^[a-z]:|(^|\/)\.\.(\/|$)|\0/i.test(name) || name === "")
		return { code: "zip-path", remedy: "Pack it again from within its folder." };
	if (isLink(entry)) return { code: "zip-link", remedy: "Pack the file itself." };
	if (count > 1) return { code: "zip-entry-twice", remedy: "Give each file a name of its own." };
	if (entry.isEncrypted()) return { code: "zip-locked", remedy: "Pack it again without a password." };
	if (entry.compressionMethod !== 0 && entry.compressionMethod !== 8)
		return { code: "zip-method", remedy: "Pack it again by the usual method (deflate)." };
	if (entry.uncompressedSize > limits.part) return { code: "zip-part-too-large", remedy: "Bring it in in smaller parts." };
	return null;
}

async function read(zip: ZipFile, entry: Entry, name: string): Promise<Result<Uint8Array>> {
	try {
		const content = await buffer(await zip.openReadStreamPromise(entry));
		if (crc32(content) !== entry.crc32)
			return fail({ code: "zip-broken", path: name, actual: "the content is not what its checksum says" });
		return ok(content);
	} catch (cause) {
		return fail({ code: "zip-broken", path: name, actual: (cause as Error).message });
	}
}
