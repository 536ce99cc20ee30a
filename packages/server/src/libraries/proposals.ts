import type { ProposalView } from "@alvek/contract";
import { difference } from "@alvek/core/material";
import type { Sql } from "../db/connection";
import type { Context } from "../db/write";
import { baseDocument } from "../materials/drafts";
import { documentToPublish, seenOf } from "../materials/publish";
import { draftDocument, draftOf, hashOfDocument, materialById } from "../materials/store";

/** Publishes that wait for a second person, the oldest first; `stale`: the draft was changed since. */
export async function proposalsIn(ctx: Context, sql: Sql, library: string): Promise<readonly ProposalView[]> {
	const rows = await sql.all<{
		id: string;
		actor: string;
		by: string;
		at: string;
		note: string;
		material: string;
		name: string;
		change: string;
	}>(
		`SELECT p.id, p.actor, w.name AS "by", p.at, p.note, m.id AS material, m.name, i.row_change AS change
		 FROM publish p JOIN person w ON w.id = p.actor JOIN publish_item i ON i.publish_id = p.id JOIN material m ON m.id = i.material_id
		 WHERE p.place = $library AND p.state = 'proposed' ORDER BY p.at, m.name`,
		{ library },
	);
	const proposals = new Map<string, { -readonly [K in keyof ProposalView]: ProposalView[K] }>();
	for (const { id, actor, by, at, note, material, name, change } of rows) {
		const known = proposals.get(id) ?? { id, by, mine: actor === ctx.actor.person, at, note, materials: [] };
		known.materials = [...known.materials, { id: material, name, ...(await seenByApprover(sql, material, actor, change)) }];
		proposals.set(id, known);
	}
	return [...proposals.values()];
}

type Seen = Pick<ProposalView["materials"][number], "isNew" | "stale" | "hash" | "edits">;

/** What would come out if this were approved now: what an approver has to see, and to send back. */
async function seenByApprover(sql: Sql, id: string, person: string, change: string): Promise<Seen> {
	const [material, draft] = [await materialById(sql, id), await draftOf(sql, id, person)];
	if (material === null || draft === null) return { isNew: material?.revision_no == null, stale: true, hash: "", edits: [] };
	const proposed = JSON.parse(change) as { hash?: string };
	const { document, hash } = seenOf(material, draft);
	const stale = hashOfDocument(draftDocument(draft)) !== proposed.hash || !documentToPublish(material, draft).ok;
	return { isNew: material.revision_no === null, stale, hash, edits: difference(baseDocument(material), document) };
}
