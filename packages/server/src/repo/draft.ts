import { applyStored, BLANK, type Edit, type Material, upgradedContent, upgradedPlace } from "@alvek/core/material";
import type { Context, Sql } from "../db";
import { parseDocument } from "./document";
import { nextVersion } from "./event";
import type { DraftState } from "./inverse";

export type DraftRecord = {
	readonly id: string;
	readonly material_id: string;
	readonly person_id: string;
	readonly base_revision_id: string | null;
	readonly edits: string;
	readonly version: number;
	readonly saved_at: string;
	readonly base_bytes: Buffer | null;
};

const SELECT_DRAFT = `SELECT f.id, f.material_id, f.person_id, f.base_revision_id, f.edits, f.version, f.saved_at, d.bytes AS base_bytes
	FROM draft f LEFT JOIN revision r ON r.id = f.base_revision_id LEFT JOIN document d ON d.hash = r.document_hash`;

export function allDrafts(sql: Sql): Promise<DraftRecord[]> {
	return sql.all<DraftRecord>(SELECT_DRAFT);
}

/** Drafts of these materials, whoever wrote them. */
export function draftsOn(sql: Sql, materials: readonly string[]): Promise<DraftRecord[]> {
	return sql.all<DraftRecord>(`${SELECT_DRAFT} WHERE f.material_id IN ${sql.dialect.list("ids")}`, {
		ids: JSON.stringify(materials),
	});
}

/** A person's drafts of these materials. */
export function draftsOf(sql: Sql, materials: readonly string[], person: string): Promise<DraftRecord[]> {
	return sql.all<DraftRecord>(`${SELECT_DRAFT} WHERE f.person_id = $person AND f.material_id IN ${sql.dialect.list("ids")}`, {
		person,
		ids: JSON.stringify(materials),
	});
}

export function draftOf(sql: Sql, material: string, person: string): Promise<DraftRecord | null> {
	return sql.one<DraftRecord>(`${SELECT_DRAFT} WHERE f.material_id = $material AND f.person_id = $person`, { material, person });
}

/** Drafts by their own ids. */
export async function draftsById(sql: Sql, ids: readonly string[]): Promise<ReadonlyMap<string, DraftRecord>> {
	if (ids.length === 0) return new Map();
	const rows = await sql.all<DraftRecord>(`${SELECT_DRAFT} WHERE f.id IN ${sql.dialect.list("ids")}`, {
		ids: JSON.stringify(ids),
	});
	return new Map(rows.map((d) => [d.id, d]));
}

/** Materials that a person has drafts of, with the draft of each. */
export function draftIdsOf(sql: Sql, person: string): Promise<{ id: string; material_id: string }[]> {
	return sql.all("SELECT id, material_id FROM draft WHERE person_id = $person", { person });
}

/** The material as the draft shows it: its base with the edits. */
export function draftDocument(draft: DraftRecord): Material {
	const base = draftBase(draft);
	const applied = applyStored(base, draftEdits(draft));
	if (applied === null) throw new Error(`draft ${draft.id} does not apply to its base`);
	return applied;
}

/** Edits of drafts as they were read, for as long as anybody holds the record. */
const read = new WeakMap<object, readonly Edit[]>();

/** The edits of a draft; those saved under an older schema are seen as today's. */
export function draftEdits(draft: Pick<DraftRecord, "edits">): readonly Edit[] {
	const known = read.get(draft);
	if (known !== undefined) return known;
	const edits = (JSON.parse(draft.edits) as Edit[]).map(({ at, from, to }) => ({
		at: upgradedPlace(at),
		from: upgradedContent(from),
		to: upgradedContent(to),
	}));
	read.set(draft, edits);
	return edits;
}

export function draftBase(draft: Pick<DraftRecord, "base_bytes">): Material {
	return draft.base_bytes === null ? BLANK : parseDocument(draft.base_bytes);
}

export function draftState(draft: DraftRecord): DraftState {
	const { id, material_id, person_id, base_revision_id, edits, version } = draft;
	return { id, material: material_id, person: person_id, base: base_revision_id, edits, version };
}

/** Opens a draft of the actor's; its id. */
export async function insertDraft(
	ctx: Context,
	sql: Sql,
	draft: { readonly material: string; readonly base: string | null; readonly edits: readonly Edit[] },
): Promise<string> {
	const id = ctx.newId();
	await putDraft(ctx, sql, {
		id,
		material: draft.material,
		person: ctx.actor.person,
		base: draft.base,
		edits: JSON.stringify(draft.edits),
		version: await nextVersion(sql),
	});
	return id;
}

/** A draft as this state has it, in the place of whatever draft the person has of the material. */
export async function putDraft(ctx: Context, sql: Sql, state: DraftState): Promise<void> {
	await sql.run(
		`INSERT INTO draft (id, material_id, person_id, base_revision_id, edits, version, saved_at)
		 VALUES ($id, $material, $person, $base, $edits, $version, $at)
		 ON CONFLICT (material_id, person_id) DO UPDATE SET edits = excluded.edits, base_revision_id = excluded.base_revision_id,
		 version = excluded.version, saved_at = excluded.saved_at`,
		{ ...state, at: ctx.now() },
	);
}

/** Drafts of one person on many materials that have none yet, each with the same beginning: nothing published. */
export async function insertFirstDrafts(ctx: Context, sql: Sql, drafts: ReadonlyMap<string, readonly Edit[]>): Promise<void> {
	const version = await nextVersion(sql);
	const rows = [...drafts].map(([material, edits]) => ({ id: ctx.newId(), material, edits: JSON.stringify(edits) }));
	await sql.run(
		`INSERT INTO draft (id, material_id, person_id, edits, version, saved_at)
		 SELECT j.id, j.material, ${sql.dialect.typed("person", "text")}, j.edits, ${sql.dialect.typed("version", "integer")}, ${sql.dialect.typed("at", "text")}
		 FROM ${sql.dialect.rows("rows", "j", { id: "text", material: "text", edits: "text" })}`,
		{ rows: JSON.stringify(rows), person: ctx.actor.person, version, at: ctx.now() },
	);
}

export async function removeDrafts(sql: Sql, ids: readonly string[]): Promise<void> {
	await sql.run(`DELETE FROM draft WHERE id IN ${sql.dialect.list("ids")}`, { ids: JSON.stringify(ids) });
}

/** A draft becomes another person's. */
export const giveDraft = async (sql: Sql, id: string, person: string): Promise<void> =>
	sql.update("draft", { id }, { person_id: person, version: await nextVersion(sql) });

/** Others who have drafts of these materials. */
export function draftsOfOthers(
	sql: Sql,
	materials: readonly string[],
	person: string,
): Promise<{ material: string; name: string; savedAt: string }[]> {
	return sql.all(
		`SELECT m.name AS material, p.name, f.saved_at AS "savedAt" FROM draft f JOIN material m ON m.id = f.material_id
		 JOIN person p ON p.id = f.person_id WHERE f.person_id <> $person AND f.material_id IN ${sql.dialect.list("ids")}
		 ORDER BY m.name, f.saved_at DESC`,
		{ ids: JSON.stringify(materials), person },
	);
}

/** How many drafts each person has in a library. */
export function draftsPerPerson(sql: Sql, library: string): Promise<{ person: string; name: string; drafts: number }[]> {
	// drafts are few beside the materials of a library
	return sql.all(
		`SELECT p.id AS person, p.name, COUNT(*) AS drafts FROM draft f ${sql.dialect.joinInOrder} material m ON m.id = f.material_id JOIN person p ON p.id = f.person_id
		 WHERE m.library_id = $library AND m.removed_at IS NULL GROUP BY p.id, p.name ORDER BY p.name`,
		{ library },
	);
}

/** A page that saves: which one, and the number of its step. */
export type ClientStep = { readonly material: string; readonly person: string; readonly client: string; readonly step: number };

/** The last step of this page that the draft has taken; -1: none. */
export async function lastStep(sql: Sql, { material, person, client }: Omit<ClientStep, "step">): Promise<number> {
	return (await sql.find("draft_client", { material_id: material, person_id: person, client }))?.step ?? -1;
}

/** Remembers a step; pages that have said nothing since `forget` are forgotten. */
export async function noteStep(sql: Sql, step: ClientStep, at: string, forget: string): Promise<void> {
	await sql.run(
		`INSERT INTO draft_client (material_id, person_id, client, step, at) VALUES ($material, $person, $client, $step, $at)
		 ON CONFLICT (material_id, person_id, client) DO UPDATE SET step = excluded.step, at = excluded.at`,
		{ ...step, at },
	);
	await sql.run("DELETE FROM draft_client WHERE material_id = $material AND person_id = $person AND at < $forget", {
		material: step.material,
		person: step.person,
		forget,
	});
}
