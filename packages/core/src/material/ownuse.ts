import { formById, propertyById } from "../property";
import { fail, ok, type Result } from "../result";
import { plainObject } from "./shape";
import { PURPOSES } from "./types";

/** A use that a library adds to the built-in ones: ready where its entries are there, and a file where it asks for one. */
export type OwnUse = {
	readonly uid: string;
	readonly name: string;
	/** Ids of properties, curves, sets and models; `own:…` for properties of the library. Each of them is needed. */
	readonly needs: readonly string[];
	/** An attached file of this purpose whose name ends so; null where none is needed. */
	readonly file: { readonly purpose: (typeof PURPOSES)[number]; readonly ending: string } | null;
	/** Put away: nothing is judged by it any more. */
	readonly off: boolean;
};

/** How readiness, filters and addresses name a use of a library. */
export type OwnUseId = `own:${string}`;
export const ownUseId = (uid: string): OwnUseId => `own:${uid}`;

const MOST_NEEDS = 40;

/** The content of an own use: a name, at least one thing that it needs, and only things that there are. */
export function decodeOwnUse(input: unknown): Result<OwnUse> {
	const shape = plainObject(input, ["uid", "name", "needs", "file", "off"], "use");
	if (!shape.ok) return shape;
	const { uid, name, needs, file = null, off = false } = shape.value;
	if (typeof uid !== "string" || !/^[0-9a-zA-Z-]{1,64}$/.test(uid)) return fail({ code: "bad-key", path: "use.uid" });
	if (typeof name !== "string" || name.trim() === "" || name.length > 60)
		return fail({ code: "name-missing", path: "use.name", expected: "a name of at most 60 characters" });
	if (!Array.isArray(needs) || needs.length > MOST_NEEDS || !needs.every((n) => typeof n === "string"))
		return fail({ code: "wrong-type", path: "use.needs", expected: `at most ${MOST_NEEDS} ids of entries` });
	const unknown = needs.find((id) => !isEntry(id));
	if (unknown !== undefined)
		return fail({
			code: "unknown-choice",
			path: "use.needs",
			actual: unknown.slice(0, 80),
			expected: "an entry of the catalogue",
		});
	if (typeof off !== "boolean") return fail({ code: "wrong-type", path: "use.off", expected: "true or false" });
	const wanted = decodeFile(file);
	if (!wanted.ok) return wanted;
	if (needs.length === 0 && wanted.value === null)
		return fail({ code: "empty", path: "use.needs", expected: "an entry or a file that the use needs" });
	return ok({ uid, name: name.trim().normalize("NFC"), needs: [...new Set(needs as string[])], file: wanted.value, off });
}

const isEntry = (id: string): boolean =>
	/^own:[0-9a-zA-Z-]{1,64}$/.test(id) || propertyById(id) !== undefined || formById(id) !== undefined;

function decodeFile(input: unknown): Result<OwnUse["file"]> {
	if (input === null) return ok(null);
	const shape = plainObject(input, ["purpose", "ending"], "use.file");
	if (!shape.ok) return shape;
	const { purpose, ending = "" } = shape.value;
	const known = PURPOSES.find((p) => p === purpose);
	if (known === undefined)
		return fail({
			code: "unknown-choice",
			path: "use.file.purpose",
			actual: String(purpose).slice(0, 80),
			expected: PURPOSES.join(", "),
		});
	if (typeof ending !== "string" || !/^[0-9a-zA-Z]{0,12}$/.test(ending))
		return fail({ code: "wrong-type", path: "use.file.ending", expected: "letters and digits such as pdf, or nothing" });
	return ok({ purpose: known, ending: ending.toLowerCase() });
}
