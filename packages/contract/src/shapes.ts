import { FACETS, type FacetId } from "@alvek/core/table";
import * as yup from "yup";

/** Shapes of inputs that several routes share. They check form and size; core checks meaning. */

export const id = yup
	.string()
	.strict()
	.required()
	.matches(/^[0-9a-zA-Z-]{1,64}$/, "an id");
/** SHA-256 of content that was seen; it is sent back as it came. */
export const hash = yup
	.string()
	.strict()
	.required()
	.matches(/^[0-9a-f]{64}$/, "a SHA-256 in hexadecimal");
export const text = (max: number) => yup.string().strict().max(max);
// a generous ceiling of shape; core says what a name may be, with its own message
export const name = yup.string().strict().required().max(50_000);
export const partIds = yup.array(id).strict().required().min(1).max(50_000);

export function shape<T extends yup.ObjectShape>(fields: T) {
	return yup.object(fields).strict().noUnknown();
}

/** An edit of a document. Core decodes what it puts in, so `from` and `to` may be anything here. */
export const edit = yup
	.object({ at: yup.string().strict().required().max(320), from: yup.mixed().nullable(), to: yup.mixed().nullable() })
	.strict()
	.noUnknown();

export const digits = (most: number) =>
	yup
		.string()
		.strict()
		.matches(new RegExp(`^\\d{1,${most}}$`), "a whole number");

/** Words of each facet, between commas. */
const facetWords = Object.fromEntries(FACETS.map((f) => [f.id, text(f.letters)])) as Record<FacetId, ReturnType<typeof text>>;

/** What narrows a list of materials; every entry is optional. */
export const narrowing = {
	text: text(200),
	...facetWords,
	starred: yup.string().strict().oneOf(["1"]),
	review: yup.string().strict().oneOf(["passed"]),
	/** Retired ones are left out, unless the marks ask for them. */
	retired: yup.string().strict().oneOf(["hide"]),
	/** Where nothing says the text, names a few slips away stand in for it. */
	near: yup.string().strict().oneOf(["show"]),
	where: text(4000),
	sort: text(100),
	dir: yup.string().strict().oneOf(["asc", "desc"]),
};

/** Whom a role is for: a person or a team by id; everyone has none. */
export const grantee = {
	by: yup
		.string()
		.strict()
		.oneOf(["person", "team", "everyone"] as const)
		.required(),
	subject: text(64).defined(),
};

/** One of these roles; null takes it away. */
export const roleOf = <R extends string>(roles: readonly R[]) =>
	yup.string().strict().oneOf(roles).nullable().defined().default(null);
