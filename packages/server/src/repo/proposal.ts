import type { Sql } from "../db";

export type Proposal = { readonly place: string; readonly actor: string; readonly note: string };

export function proposalById(sql: Sql, id: string): Promise<Proposal | null> {
	return sql.find("publish", { id, state: "proposed" });
}

/** What a proposed draft held, and its id. */
export type Proposed = { readonly draft: string; readonly hash?: string };

export type ProposedItem = { readonly material: string; readonly proposed: Proposed };

export async function itemsOf(sql: Sql, publish: string): Promise<readonly ProposedItem[]> {
	const rows = await sql.all<{ material_id: string; row_change: string }>(
		"SELECT material_id, row_change FROM publish_item WHERE publish_id = $publish",
		{ publish },
	);
	return rows.map((r) => ({ material: r.material_id, proposed: JSON.parse(r.row_change) as Proposed }));
}

/** Materials that wait in a library for a second person, proposal by proposal, the oldest first. */
export async function proposedIn(sql: Sql, library: string) {
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
	return rows.map(({ change, ...row }) => ({ ...row, proposed: JSON.parse(change) as Proposed }));
}

/** Puts drafts of one person into a proposal; older proposals of theirs about the same materials lose them. */
export async function addToProposal(sql: Sql, publish: string, person: string, items: readonly ProposedItem[]): Promise<void> {
	const rows = JSON.stringify(items.map((i) => ({ material: i.material, change: JSON.stringify(i.proposed) })));
	const from = sql.dialect.rows("rows", "j", { material: "text", change: "text" });
	const older = await sql.all<{ id: string }>(
		`SELECT DISTINCT i.publish_id AS id FROM publish_item i JOIN publish p ON p.id = i.publish_id
		 WHERE p.state = 'proposed' AND p.actor = $person AND p.id <> $publish AND i.material_id IN (SELECT j.material FROM ${from})`,
		{ rows, publish, person },
	);
	const bind = { rows, older: JSON.stringify(older.map((o) => o.id)) };
	await sql.run(
		`DELETE FROM publish_item WHERE publish_id IN ${sql.dialect.list("older")} AND material_id IN (SELECT j.material FROM ${from})`,
		bind,
	);
	await sql.run(
		`DELETE FROM publish WHERE id IN ${sql.dialect.list("older")}
		 AND NOT EXISTS (SELECT 1 FROM publish_item i WHERE i.publish_id = publish.id)`,
		{ older: bind.older },
	);
	await sql.run(
		`INSERT INTO publish_item (publish_id, material_id, row_change)
		 SELECT ${sql.dialect.typed("publish", "text")}, j.material, j.change FROM ${from}`,
		{ rows, publish },
	);
}

/** A proposal becomes a publish; revisions take the place of its items. */
export async function approveProposal(sql: Sql, id: string, by: string, at: string): Promise<void> {
	await sql.remove("publish_item", { publish_id: id });
	await sql.update("publish", { id }, { state: "done", approved_by: by, at });
}

export async function removeProposal(sql: Sql, id: string): Promise<void> {
	await sql.remove("publish_item", { publish_id: id });
	await sql.remove("publish", { id });
}
