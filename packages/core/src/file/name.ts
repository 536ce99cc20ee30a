import { fail, ok, type Result } from "../result";
import { ENDINGS } from "./sniff";

const LONGEST = 120;

/**
 * The name of a file as it is kept: without folders, control characters or leading dots, at most 120 characters with
 * its ending. A name never becomes a path here; files are stored by their checksum.
 * @returns issue `name-missing` when nothing is left
 */
export function cleanFileName(input: string): Result<string> {
	const base = input.normalize("NFC").split(/[/\\]/).at(-1) ?? "";
	const plain = base
		.replace(/[\p{Cc}\p{Cf}]/gu, "")
		.replace(/["<>:|?*]/g, "_")
		.replace(/^[. ]+|[. ]+$/g, "");
	if (plain === "") return fail({ code: "name-missing", path: "file", expected: "a file name" });
	if (plain.length <= LONGEST) return ok(plain);
	const ending = endingOf(plain);
	const kept = ending === "" || ending.length > 10 ? "" : `.${ending}`;
	return ok(plain.slice(0, LONGEST - kept.length) + kept);
}

/** `pdf` of `Sheet.PDF`; empty where there is none. */
export function endingOf(name: string): string {
	const at = name.lastIndexOf(".");
	return at <= 0 ? "" : name.slice(at + 1).toLowerCase();
}

/** What a person should know before opening it: the content is not what the name says. Null when they agree. */
export function mismatch(name: string, format: string): string | null {
	const ending = endingOf(name);
	const known = ENDINGS[format];
	if (known === undefined || known.includes(ending)) return null;
	return `its content looks like ${format}, its name ends in ${ending === "" ? "nothing" : `.${ending}`}`;
}
