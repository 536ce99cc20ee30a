import type { ProposalView } from "@alvek/contract";
import { difference } from "@alvek/core/material";
import type { Context, Sql } from "../db";
import {
	type DraftRecord,
	draftDocument,
	draftsOn,
	hashOfDocument,
	type MaterialRecord,
	materialsById,
	type Proposed,
	proposedIn,
} from "../repo";
import { baseDocument, seenOf } from "./publishable";

/** Publishes that wait for a second person, the oldest first; `stale`: the draft was changed since. */
export async function proposalsIn(ctx: Context, sql: Sql, library: string): Promise<readonly ProposalView[]> {
	const rows = await proposedIn(sql, library);
	const ids = [...new Set(rows.map((r) => r.material))];
	const materials = await materialsById(sql, ids);
	const drafts = new Map((await draftsOn(sql, ids)).map((d) => [`${d.material_id} ${d.person_id}`, d]));
	const proposals = new Map<string, { -readonly [K in keyof ProposalView]: ProposalView[K] }>();
	for (const { id, actor, by, at, note, material, name, proposed } of rows) {
		const known = proposals.get(id) ?? { id, by, mine: actor === ctx.actor.person, at, note, materials: [] };
		const seen = seenByApprover(materials.get(material), drafts.get(`${material} ${actor}`), proposed);
		known.materials = [...known.materials, { id: material, name, ...seen }];
		proposals.set(id, known);
	}
	return [...proposals.values()];
}

type Seen = Pick<ProposalView["materials"][number], "isNew" | "stale" | "hash" | "edits">;

/** What would come out if this were approved now: what an approver has to see, and to send back. */
function seenByApprover(material: MaterialRecord | undefined, draft: DraftRecord | undefined, proposed: Proposed): Seen {
	if (material === undefined || draft === undefined)
		return { isNew: material?.revision_no == null, stale: true, hash: "", edits: [] };
	const { document, hash, issues } = seenOf(material, draft);
	const stale = hashOfDocument(draftDocument(draft)) !== proposed.hash || issues.length > 0;
	return { isNew: material.revision_no === null, stale, hash, edits: difference(baseDocument(material), document) };
}
