import type { ProposalView } from "@alvek/contract";
import { difference, type Edit } from "@alvek/core/material";
import type { Sql } from "../db/connection";
import type { Context } from "../db/write";
import { baseDocument } from "../materials/drafts";
import { draftDocument, draftOf, materialById } from "../materials/store";

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
		stale: number;
	}>(
		`SELECT p.id, p.actor, w.name AS "by", p.at, p.note, m.id AS material, m.name,
			COALESCE(f.version, -1) <> i.row_change ->> 'version' AS stale
		 FROM publish p JOIN person w ON w.id = p.actor JOIN publish_item i ON i.publish_id = p.id JOIN material m ON m.id = i.material_id
		 LEFT JOIN draft f ON f.id = i.row_change ->> 'draft'
		 WHERE p.place = $library AND p.state = 'proposed' ORDER BY p.at, m.name`,
		{ library },
	);
	const proposals = new Map<string, { -readonly [K in keyof ProposalView]: ProposalView[K] }>();
	for (const { id, actor, by, at, note, material, name, stale } of rows) {
		const known = proposals.get(id) ?? { id, by, mine: actor === ctx.actor.person, at, note, materials: [] };
		known.materials = [
			...known.materials,
			{ id: material, name, stale: stale === 1, edits: await editsOf(sql, material, actor) },
		];
		proposals.set(id, known);
	}
	return [...proposals.values()];
}

/** What a person's draft changes of a material as it is published now: what an approver has to see. */
async function editsOf(sql: Sql, id: string, person: string): Promise<readonly Edit[]> {
	const [material, draft] = [await materialById(sql, id), await draftOf(sql, id, person)];
	return material === null || draft === null ? [] : difference(baseDocument(material), draftDocument(draft));
}
