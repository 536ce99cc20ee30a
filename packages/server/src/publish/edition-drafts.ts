import { difference } from "@alvek/core/material";
import { ok, type Result } from "@alvek/core/result";
import { authoriseLibrary } from "../access";
import { type Context, inWrite } from "../db";
import { editionNo } from "../libraries";
import { writeDraft } from "../materials";
import { documentsOf, draftDocument, draftsOf, headDocument, materialsById, recordEvent, stateIn, stateNow } from "../repo";

/**
 * Drafts of mine that would make the library as an edition was: publishing them is one act with one list of effects. What
 * came later is not in the edition; it is named, so that it can be retired.
 */
export function draftEdition(
	ctx: Context,
	input: { id: string; no: string },
): Promise<Result<{ drafts: readonly string[]; later: readonly { id: string; name: string }[] }>> {
	return inWrite(ctx, async (sql) => {
		const library = await authoriseLibrary(ctx, sql, input.id, "library.edit");
		if (!library.ok) return library;
		const edition = await editionNo(sql, input.id, Number(input.no));
		if (!edition.ok) return edition;
		const [then, now] = [await stateIn(sql, edition.value.id), await stateNow(sql, input.id)];
		const moved = [...then.values()].filter((e) => now.has(e.id) && now.get(e.id)?.revision !== e.revision);
		const documents = await documentsOf(
			sql,
			moved.map((e) => e.revision),
		);
		const ids = moved.map((e) => e.id);
		const heads = await materialsById(sql, ids);
		const mine = new Map((await draftsOf(sql, ids, ctx.actor.person)).map((d) => [d.material_id, d]));
		const drafts: string[] = [];
		for (const entry of moved) {
			const target = documents.get(entry.revision);
			const [head, draft] = [heads.get(entry.id), mine.get(entry.id)];
			const current = draft !== undefined ? draftDocument(draft) : head === undefined ? null : headDocument(head);
			if (target === undefined || current === null) continue;
			const edits = difference(current, target);
			if (edits.length === 0) continue;
			const written = await writeDraft(ctx, sql, { id: entry.id, edits });
			if (!written.ok) return written;
			drafts.push(entry.id);
		}
		await recordEvent(ctx, sql, {
			action: "edition.draft",
			kind: "library",
			subject: input.id,
			changeset: { no: edition.value.no, drafts },
			inverse: null,
		});
		const later = [...now.values()].filter((e) => !then.has(e.id)).map(({ id, name }) => ({ id, name }));
		return ok({ drafts, later });
	});
}
