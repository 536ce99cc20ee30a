import type { HandedOver, RouteInput } from "@alvek/contract";
import { difference, type Edit, mergeEdits } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db/connection";
import type { Context } from "../db/write";
import type { Finding } from "../materials/finding";
import { type DraftRecord, draftBase, draftDocument, draftEdits, draftOf, materialById, nextVersion } from "../materials/store";
import { assignmentsOnDraft, setAssignments } from "../parts/assignments";
import { keepsAnAdministrator, manage, personById } from "./service";

/** Somebody leaves: all that would be an orphan goes to another person in one step, and nothing opens for them any more. */
export async function handOver(ctx: Context, finding: Finding, input: RouteInput<"handOver">): Promise<Result<HandedOver>> {
	const touched: string[] = [];
	const event = { action: "person.leave", kind: "person", subject: input.id, changeset: { to: input.to } } as const;
	const done = await manage<HandedOver>(ctx, event, async (sql) => {
		if (input.id === input.to) return fail({ code: "same-person" });
		const leaver = await personById(sql, input.id);
		if (!leaver.ok) return leaver;
		const heir = await personById(sql, input.to);
		if (!heir.ok) return heir;
		const kept = await keepsAnAdministrator(sql, input.id);
		if (!kept.ok) return kept;
		const people = { from: input.id, to: input.to };
		const drafts = await handOverDrafts(ctx, sql, people, touched);
		const grants = await handOverGrants(sql, people);
		for (const table of ["material", "library"]) await sql.run(`UPDATE ${table} SET owner = $to WHERE owner = $from`, people);
		await sql.run("UPDATE grid_view SET person_id = $to WHERE person_id = $from AND shared = 1", people);
		for (const table of ["session", "token", "ticket", "member", "grid_view", "star"])
			await sql.run(`DELETE FROM ${table} WHERE person_id = $from`, { from: input.id });
		await sql.run("UPDATE person SET left_at = $at, secret = NULL, login = '', admin = 0 WHERE id = $id", {
			at: ctx.now(),
			id: input.id,
		});
		return ok({ ...drafts, ...grants });
	});
	if (done.ok) await ctx.db.afterCommit(() => finding.refresh(touched));
	return done;
}

type People = { readonly from: string; readonly to: string };

async function handOverDrafts(
	ctx: Context,
	sql: Sql,
	{ from, to }: People,
	touched: string[],
): Promise<Pick<HandedOver, "drafts" | "kept">> {
	const kept: { material: string; at: string }[] = [];
	const drafts = await sql.all<{ id: string; material_id: string }>("SELECT id, material_id FROM draft WHERE person_id = $from", {
		from,
	});
	for (const { id, material_id } of drafts) {
		touched.push(material_id);
		const theirs = (await draftOf(sql, material_id, from)) as DraftRecord;
		const own = await draftOf(sql, material_id, to);
		if (own === null) {
			await sql.run("UPDATE draft SET person_id = $to, version = $version WHERE id = $id", {
				id,
				to,
				version: await nextVersion(sql),
			});
			continue;
		}
		const { edits, lost } = joined(own, theirs);
		await sql.run("UPDATE draft SET edits = $edits, version = $version, saved_at = $at WHERE id = $id", {
			id: own.id,
			edits: JSON.stringify(edits),
			version: await nextVersion(sql),
			at: ctx.now(),
		});
		// parts that try the leaver's draft try the joined one
		const trying = await assignmentsOnDraft(sql, id);
		await setAssignments(
			sql,
			trying.map((s) => ({ ...s, draft: own.id })),
		);
		await sql.run("DELETE FROM draft WHERE id = $id", { id });
		const name = (await materialById(sql, material_id))?.name ?? material_id;
		kept.push(...lost.map((at) => ({ material: name, at })));
	}
	return { drafts: drafts.length, kept };
}

/** Both drafts as one on the receiver's base: the leaver's edits are added where the receiver changed nothing. */
function joined(own: DraftRecord, theirs: DraftRecord): { edits: readonly Edit[]; lost: readonly string[] } {
	const base = draftBase(own);
	const lost: string[] = [];
	let document = draftDocument(own);
	for (const edit of draftEdits(theirs)) {
		const merged = mergeEdits(draftBase(theirs), [edit], document);
		if (merged.ok) document = merged.value;
		else lost.push(edit.at);
	}
	return { edits: difference(base, document), lost };
}

/** Roles of the leaver become the receiver's, where those are not stronger already. */
async function handOverGrants(sql: Sql, people: People): Promise<Pick<HandedOver, "libraries" | "projects">> {
	const grants = await sql.all<{ kind: string; target: string; role: string }>(
		"SELECT kind, target, role FROM access_grant WHERE subject_kind = 'person' AND subject = $from",
		{ from: people.from },
	);
	for (const grant of grants) {
		await sql.run(
			`INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $to, $kind, $target, $role)
			 ON CONFLICT DO UPDATE SET role = excluded.role WHERE access_grant.role = 'reader' OR excluded.role IN ('steward', 'owner')`,
			{ ...grant, to: people.to },
		);
	}
	await sql.run("DELETE FROM access_grant WHERE subject_kind = 'person' AND subject = $from", { from: people.from });
	return {
		libraries: grants.filter((g) => g.kind !== "project" && g.role === "steward").length,
		projects: grants.filter((g) => g.kind === "project" && g.role === "owner").length,
	};
}
