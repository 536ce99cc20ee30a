import type { AlikeRow, DuplicatePairs, MaterialRow, RouteInput, Undoable } from "@alvek/contract";
import { type Likened, likeness, nameKey } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { numbersOf } from "@alvek/core/table";
import { authorised, authoriseLibrary, viewerOf } from "../access";
import { type Context, inWrite } from "../db";
import type { MaterialQueries } from "../material-index";
import { apartFrom, linkedTo, originsAmong, putApart, recordEvent } from "../repo";

/** Answers of one question; a list that is longer helps nobody before saving. */
const MOST_ALIKE = 12;
/** Pairs whose documents are compared in full. */
const MOST_PAIRS = 400;

const likened = (row: MaterialRow): Likened => ({ name: row.name, material: row.document, numbers: numbersOf(row.document) });

/**
 * Materials that are made from one another on purpose: a variant, a layer or a local change is like its base, and so is a
 * copy in another library. A similar one is not among them: whoever publishes one unchanged has entered it twice.
 */
async function relatives(ctx: Context, ids: readonly string[]): Promise<(a: string, b: string) => boolean> {
	const rows = await originsAmong(ctx.db, ids);
	const related = new Set(rows.flatMap((r) => [`${r.id} ${r.base}`, `${r.base} ${r.id}`]));
	return (a, b) => related.has(`${a} ${b}`);
}

/** Pairs of which somebody has said that they are not one. */
async function keptApart(ctx: Context, ids: readonly string[]): Promise<(a: string, b: string) => boolean> {
	const rows = await apartFrom(ctx.db, ids);
	const apart = new Set(rows.flatMap((r) => [`${r.a} ${r.b}`, `${r.b} ${r.a}`]));
	return (a, b) => apart.has(`${a} ${b}`);
}

/** Two look-alikes are said not to be one, or to be perhaps one again; whoever may change the first may say so. */
export function keepApart(ctx: Context, input: RouteInput<"keepApart">): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const one = await authorised(ctx, sql, input.id, "library.edit");
		if (!one.ok) return one;
		const other = await authorised(ctx, sql, input.other, "library.read");
		if (!other.ok) return other;
		if (input.id === input.other) return fail({ code: "merge-itself" });
		await putApart(ctx, sql, [input.id, input.other], input.on);
		await recordEvent(ctx, sql, {
			action: input.on ? "material.apart" : "material.alike",
			kind: "material",
			subject: input.id,
			// whoever reads this history need not be able to read the other one's library
			changeset: { other: input.other, name: other.value.library_id === one.value.library_id ? other.value.name : "" },
			inverse: null,
		});
		return ok({ event: 0, value: null });
	});
}

/** Told before saving: what may be the same material as this one, or as a name that is being typed. */
export async function findAlike(
	ctx: Context,
	queries: MaterialQueries,
	input: RouteInput<"findAlike">,
): Promise<Result<readonly AlikeRow[]>> {
	const viewer = await viewerOf(ctx);
	let seed: Likened | null = null;
	if (input.material !== undefined) {
		// it may be one of a project's own, or of a library that is left out of one's choosers
		const [row] = await queries.rows([input.material], await viewerOf(ctx, "all"));
		if (row === undefined) return fail({ code: "not-found", path: "The material" });
		seed = likened(row);
	}
	const name = input.name ?? seed?.name ?? "";
	const asked: Likened = {
		...(seed ?? { material: { family: null, condition: "", composition: [] }, numbers: new Map() }),
		name,
	};
	const linked = new Set(await linkedTo(ctx.db, name));
	const ids = [...new Set([...linked, ...(await queries.alike(asked, viewer))])].filter((id) => id !== input.material);
	const mine = input.material ?? "";
	const related = await relatives(ctx, [...ids, ...(mine === "" ? [] : [mine])]);
	const apart = await keptApart(ctx, mine === "" ? [] : [mine]);
	const rows = await queries.rows(
		ids.filter((id) => !related(id, mine) && !apart(id, mine)),
		viewer,
	);
	const alike = rows.flatMap((row): readonly AlikeRow[] => {
		const like = likeness(asked, likened(row));
		const link = row.knownAs.find((l) => nameKey(l.name) === nameKey(name));
		const known = link === undefined ? {} : { knownAs: link };
		// somebody has said already that this name stands for it
		return link !== undefined || like.likely || like.name !== null
			? [{ row, ...like, ...known, likely: like.likely || link !== undefined }]
			: [];
	});
	const rank = (a: AlikeRow): number =>
		(a.likely ? 0 : 1000) - a.shared.length - (a.name?.kind === "same" || a.knownAs !== undefined ? 100 : 0);
	return ok([...alike].sort((a, b) => rank(a) - rank(b)).slice(0, MOST_ALIKE));
}

/** The finder of existing ones. */
export async function listDuplicates(
	ctx: Context,
	queries: MaterialQueries,
	input: { id: string },
): Promise<Result<DuplicatePairs>> {
	const library = await authoriseLibrary(ctx, ctx.db, input.id, "library.read");
	if (!library.ok) return library;
	const viewer = await viewerOf(ctx);
	const found = await queries.duplicates(input.id, viewer, (progress) => {
		ctx.work?.tell(progress, "comparing");
		return ctx.work?.signal.aborted !== true;
	});
	if (found === null) return fail({ code: "cancelled" });
	const some = found.pairs.slice(0, MOST_PAIRS);
	const ids = [...new Set(some.flat())];
	const rows = new Map((await queries.rows(ids, viewer)).map((r) => [r.id, r]));
	const related = await relatives(ctx, ids);
	const apart = await keptApart(ctx, ids);
	const pairs = some.flatMap(([x, y]): DuplicatePairs["pairs"] => {
		const [a, b] = [rows.get(x), rows.get(y)];
		if (a === undefined || b === undefined || related(x, y)) return [];
		const like = likeness(likened(a), likened(b));
		return like.likely ? [{ a, b, apart: apart(x, y), ...like }] : [];
	});
	return ok({ pairs, complete: found.complete && found.pairs.length <= MOST_PAIRS });
}
