import { UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import { cleanFileName } from "@alvek/core/file";
import { fail, ok, type Result } from "@alvek/core/result";
import { openZip, ZIP_LIMITS } from "@alvek/formats";

const STEP_NAME = /\.(step|stp|p21)$/i;

/** The STEP file in an archive: there has to be one alone, or nobody knows which was meant. */
export async function unpackStep(bytes: Uint8Array): Promise<Result<{ readonly name: string; readonly bytes: Uint8Array }>> {
	const zip = await openZip(bytes, { ...ZIP_LIMITS, part: UPLOAD_LIMIT_BYTES });
	if (!zip.ok) return zip;
	const { entries, findings } = zip.value;
	const files = entries.filter((e) => STEP_NAME.test(e.name));
	const refused = findings.find((f) => STEP_NAME.test(f.place.path ?? ""));
	const [file] = files;
	if (refused !== undefined) return fail(refused);
	if (file === undefined || files.length > 1)
		return fail({
			code: "zip-one-file",
			actual: files.length === 0 ? "no STEP file" : files.map((f) => f.name).join(", "),
			expected: "STEP file",
		});
	const name = cleanFileName(file.name);
	if (!name.ok) return name;
	const content = await file.read();
	return content.ok ? ok({ name: name.value, bytes: content.value }) : content;
}
