import { readFile } from "node:fs/promises";
import { Readable } from "node:stream";
import { BLANK, fromSimilar, type Material, makeValue } from "@alvek/core/material";
import { describeIssue, type Result } from "@alvek/core/result";
import { type Installation, type InstalledMaterial, installLibrary, newContext } from "@alvek/server";
import { OWN, type Row, SUPPLIED, type Value } from "./materials.data";
import { PROJECTS } from "./projects.data";

type Context = ReturnType<typeof newContext>;

/** Fills an empty installation with the firm's libraries and its projects; a second start changes nothing. */
export async function seedDemo(installation: Installation, say: (line: string) => void): Promise<void> {
	const ctx = newContext(installation.db);
	const already = await installation.db.one("SELECT 1 AS x FROM library");
	if (already !== null) return;
	say("Filling the demo data ...");
	const ids = new Map<string, string>();
	must(
		await installLibrary(ctx, {
			id: "orrisay",
			name: "Orrisay Works",
			kind: "own",
			materials: OWN.map((row) => installed(ctx, row, OWN, ids)),
		}),
	);
	must(
		await installLibrary(ctx, {
			id: "tolvane",
			name: "Tolvane, supplied",
			kind: "supplied",
			materials: SUPPLIED.map((row) => installed(ctx, row, SUPPLIED, ids)),
		}),
	);
	await installation.reload();
	for (const project of PROJECTS) await seedProject(installation, ctx, project, ids);
	await revise(installation, ctx, ids);
	await draftSteel(installation, ctx, ids);
}

/** Throws with the sentence: the demo's own data must be sound. */
function must<T>(result: Result<T>): T {
	if (!result.ok) throw new Error(`demo data: ${result.issues.map(describeIssue).join(" ")}`);
	return result.value;
}

function installed(ctx: Context, row: Row, all: readonly Row[], ids: Map<string, string>): InstalledMaterial {
	const id = ctx.newId();
	ids.set(row.name, id);
	const base = row.from === undefined ? null : (all.find((r) => r.name === row.from) as Row);
	const origin = base === null ? null : { kind: "similar" as const, materialId: ids.get(base.name) as string };
	return {
		id,
		name: row.name,
		group: row.group,
		itemCode: row.code ?? "",
		shopName: row.shop ?? "",
		origin,
		revisions: [{ note: row.note ?? "First issue", document: documentOf(row, base, origin?.materialId ?? "") }],
	};
}

function documentOf(row: Row, base: Row | null, baseId: string): Material {
	const start = base === null ? BLANK : fromSimilar(documentOf(base, null, ""), { name: base.name, uid: baseId, revision: 1 });
	return withValues(
		{
			...start,
			family: row.family,
			colour: row.colour,
			condition: row.condition ?? start.condition,
			productForm: row.form ?? start.productForm,
			supplier: row.supplier ?? start.supplier,
			designations: row.designation === undefined ? start.designations : [{ text: row.designation }],
			description: row.description ?? start.description,
			price: row.price === undefined ? start.price : { amount: row.price, currency: "EUR", date: "2026-09-01" },
		},
		row.values,
	);
}

function withValues(material: Material, values: readonly Value[]): Material {
	const next = { ...material.values };
	for (const [property, text, evidence, details] of values) {
		next[property] = must(makeValue(property, property, text, {}, { ...(evidence === "" ? {} : { evidence }), ...details }));
	}
	return { ...material, values: next };
}

async function seedProject(
	{ services, idle }: Installation,
	ctx: Context,
	project: (typeof PROJECTS)[number],
	ids: ReadonlyMap<string, string>,
): Promise<void> {
	must(await services.json.createProject(ctx, { id: project.id, name: project.name }));
	if (project.file === null) return;
	const bytes = await readFile(new URL(`../${project.file}`, import.meta.url));
	const upload = { stream: Readable.from([bytes]), length: bytes.length };
	const job = `demo-${project.id}`;
	must(await services.raw.importGeometry(ctx, { id: project.id, file: project.file, job }, upload));
	await idle();
	const done = must(await services.json.getJob(ctx, { id: job }));
	if (done.state !== "done") throw new Error(`demo data: ${done.issues.map(describeIssue).join(" ")}`);
	const view = must(await services.json.getProject(ctx, { id: project.id }));
	for (const [material, parts] of Object.entries(project.assign)) {
		const chosen = view.parts.filter((p) => parts.includes(p.name)).map((p) => p.id);
		if (chosen.length !== parts.length) throw new Error(`demo data: ${material} names a part that the file does not hold`);
		must(await services.json.assign(ctx, { id: project.id, parts: chosen, materialId: ids.get(material) as string }));
	}
}

/** Second revisions come after the projects were assigned, so that their parts are behind. */
async function revise({ services }: Installation, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	for (const row of OWN) {
		if (row.revised === undefined) continue;
		const id = ids.get(row.name) as string;
		const { row: facts } = must(await services.json.getSheet(ctx, { id }));
		const after = withValues(facts.document, row.revised.values);
		const edits = row.revised.values.map(([property]) => ({
			at: property,
			from: facts.document.values[property] ?? null,
			to: after.values[property] ?? null,
		}));
		const draft = must(await services.json.saveDraft(ctx, { id, edits }));
		must(await services.json.publishDraft(ctx, { id, note: row.revised.note, version: draft.version }));
	}
}

/** An open draft: the heat treatment of the shaft steel is being measured anew. */
async function draftSteel({ services }: Installation, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	const id = ids.get("Havrin 34 quenched") as string;
	const { row } = must(await services.json.getSheet(ctx, { id }));
	const value = must(
		makeValue("density", "density", "7.82-7.86 g/cm3", {}, { evidence: "measured", source: "weighed bars, November 2026" }),
	);
	must(
		await services.json.saveDraft(ctx, { id, edits: [{ at: "density", from: row.document.values.density ?? null, to: value }] }),
	);
}
