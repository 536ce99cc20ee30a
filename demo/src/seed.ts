import { readFile } from "node:fs/promises";
import { Readable } from "node:stream";
import { BLANK, type Edit, fromSimilar, type Material, makeValue, type Price } from "@alvek/core/material";
import { describeIssue, type Result } from "@alvek/core/result";
import { type Installation, type InstalledMaterial, installLibrary, newContext } from "@alvek/server";
import { withDepth } from "./depth";
import { CARBON, FILES, lookFor, PRICES, STARRED, VIEWS } from "./extras.data";
import { OWN, type Row, SUPPLIED, type Value } from "./materials.data";
import { ABOUT, GRANTS, PEOPLE, TEAMS, WORKING } from "./people.data";
import { PROJECTS } from "./projects.data";
import { workUnderWay } from "./underway";

type Context = ReturnType<typeof newContext>;

/** Fills an empty installation with the firm's libraries and its projects; a second start changes nothing. */
export async function seedDemo(installation: Installation, say: (line: string) => void): Promise<void> {
	const ctx = newContext(installation.db);
	const already = await installation.db.one("SELECT 1 AS x FROM library");
	if (already !== null) return;
	say("Filling the demo data ...");
	await people(installation);
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
	// the first person holds the lock while the years of the firm go by, and closes it at the end
	must(await installation.services.json.openLock(ctx, { id: "orrisay" }));
	must(await installation.services.json.changeLibrary(ctx, { id: "orrisay", description: ABOUT, owner: "okke" }));
	must(await installation.services.json.freezeEdition(ctx, { id: "orrisay", note: "For the first winch" }));
	for (const project of PROJECTS) await seedProject(installation, ctx, project, ids);
	for (const { name, offered } of OWN) {
		const id = ids.get(name) as string;
		if (offered !== undefined) must(await installation.services.json.changeMaterial(ctx, { id, offeredFor: [...offered] }));
	}
	await beginVariant(installation, ctx, ids);
	await ownProperty(installation, ctx);
	await revise(installation, ctx, ids);
	await draftSteel(installation, ctx, ids);
	await keepsakes(installation, ctx, ids);
	await share(installation);
	await workUnderWay(installation, ctx, ids);
	await upkeep(installation, ctx, ids);
	must(await installation.services.json.closeLock(ctx, { id: "orrisay" }));
}

/** What of the supplied list the firm works with, and an edition after the corrections of this autumn. */
async function upkeep({ services }: Installation, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	const materials = WORKING.map((name) => ids.get(name) as string);
	must(await services.json.setWorking(ctx, { id: "tolvane", materials, on: true }));
	must(await services.json.freezeEdition(ctx, { id: "orrisay", note: "Bronze and plate weighed again" }));
}

/** The firm's people; nobody has a password, the demo lets everybody in with one click. */
async function people({ db }: Installation): Promise<void> {
	for (const person of PEOPLE) {
		await db.run(
			`INSERT INTO person (id, name, initials, admin, does) VALUES ($id, $name, $initials, $admin, $does)
			 ON CONFLICT (id) DO UPDATE SET name = $name, initials = $initials, does = $does`,
			{ ...person, admin: person.id === "local" },
		);
	}
	for (const team of TEAMS) {
		await db.run("INSERT INTO team (id, name) VALUES ($id, $name)", { id: team.id, name: team.name });
		for (const person of team.members)
			await db.run("INSERT INTO member (team_id, person_id) VALUES ($team, $person)", { team: team.id, person });
	}
}

/** Who sees and changes what. */
async function share({ db }: Installation): Promise<void> {
	for (const grant of GRANTS)
		await db.run(
			"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ($by, $subject, $kind, $target, $role)",
			grant,
		);
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
	const own = [
		row.designation === undefined ? null : "designations",
		row.supplier === undefined ? null : "supplier",
		row.description === undefined ? null : "description",
		priceOf(row) === null ? null : "price",
		"colour",
		"look",
	];
	const document = withValues(
		{
			...start,
			// what the row says itself is not carried over
			carriedFields: Object.fromEntries(Object.entries(start.carriedFields).filter(([field]) => !own.includes(field))),
			family: row.family,
			colour: row.colour,
			condition: row.condition ?? start.condition,
			productForm: row.form ?? start.productForm,
			supplier: row.supplier ?? start.supplier,
			designations: row.designation === undefined ? start.designations : [{ text: row.designation }],
			description: row.description ?? start.description,
			price: priceOf(row) ?? start.price,
			look: lookFor(row.name, row.family),
		},
		[...row.values, ...carbonOf(row)],
	);
	return withDepth(row.name, document);
}

function priceOf(row: Row): Price | null {
	const [amount, currency] = row.price === undefined ? (PRICES[row.name] ?? []) : [row.price, "EUR"];
	return amount === undefined || currency === undefined ? null : { amount, currency, date: "2026-09-01" };
}

function carbonOf(row: Row): readonly Value[] {
	const text = CARBON[row.name];
	return text === undefined ? [] : [["embodied_carbon", text, "estimated"]];
}

function withValues(material: Material, values: readonly Value[]): Material {
	const next = { ...material.values };
	for (const [property, text, evidence, details] of values) {
		next[property] = must(makeValue(property, text, {}, { ...(evidence === "" ? {} : { evidence }), ...details }));
	}
	return { ...material, values: next };
}

async function seedProject(
	{ services, idle }: Installation,
	ctx: Context,
	project: (typeof PROJECTS)[number],
	ids: ReadonlyMap<string, string>,
): Promise<void> {
	const usual = project.usual === undefined ? {} : { materialId: ids.get(project.usual) as string };
	must(await services.json.createProject(ctx, { id: project.id, name: project.name, ...usual }));
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

/** The firm's cautious variant of its bronze: it follows the bronze but for the strengths that it lowers, with the reason. */
async function beginVariant({ services }: Installation, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	const id = ctx.newId();
	const from = ids.get("Gudgeon bronze 5") as string;
	const name = "Gudgeon bronze 5, cautious";
	must(
		await services.json.createMaterial(ctx, { id, libraryId: "orrisay", name, group: "Metals / Bronze", from, as: "variant" }),
	);
	const { row } = must(await services.json.getSheet(ctx, { id }));
	const source = "house rule 12: nine tenths of the supplier's minimum";
	const lowered = must(
		makeValue(
			"yield_strength",
			">= 112 MPa",
			{},
			{ evidence: "estimated", basis: "guaranteed-minimum", qualifier: "Rp0.2", source },
		),
	);
	const edits = [
		{ at: "yield_strength", from: row.document.values.yield_strength ?? null, to: lowered },
		{ at: "stress_strain", from: row.document.values.stress_strain ?? null, to: null },
		{ at: "field:description", from: row.document.description, to: "For parts that carry people: strengths at nine tenths." },
		{ at: "carriedFields:description", from: row.document.carriedFields.description ?? null, to: null },
	];
	const draft = must(await services.json.saveDraft(ctx, { id, edits }));
	must(await services.json.publishDraft(ctx, { id, note: "House rule 12", hash: draft.hash }));
}

async function ownProperty({ services }: Installation, ctx: Context): Promise<void> {
	const content = {
		uid: "abrasion-index",
		name: "Abrasion index",
		symbol: "I_a",
		siUnit: "m^2",
		unit: "mm^3/m",
		low: 0,
		high: 1e-3,
		explanation: "Volume worn off per metre on our sand drum; lower is better.",
	};
	must(await services.json.saveOwnProperty(ctx, { id: "orrisay", version: 0, content }));
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
		const files = row.name === "Gudgeon bronze 5" ? await attach(services, ctx, id) : [];
		const draft = must(await services.json.saveDraft(ctx, { id, edits: [...edits, ...files] }));
		must(await services.json.publishDraft(ctx, { id, note: row.revised.note, hash: draft.hash }));
	}
}

/** Stores the files and answers the edits that make them part of the record. */
async function attach(services: Installation["services"], ctx: Context, id: string): Promise<Edit[]> {
	const edits: Edit[] = [];
	for (const { name, text, about } of FILES) {
		const bytes = Buffer.from(text);
		const upload = { stream: Readable.from([bytes]), length: bytes.length };
		const stored = must(await services.raw.uploadFile(ctx, { id, file: name, as: "attachment" }, upload));
		const { hash, format } = stored;
		const to = { name: stored.name, format, hash, bytes: stored.bytes, version: 1, date: "2026-10-14", ...about };
		edits.push({ at: `attachments:${ctx.newId()}`, from: null, to });
	}
	return edits;
}

/** What a person keeps for herself: stars and views. */
async function keepsakes({ services }: Installation, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	for (const name of STARRED) must(await services.json.starMaterial(ctx, { id: ids.get(name) as string, on: true }));
	for (const view of VIEWS) must(await services.json.saveView(ctx, { id: ctx.newId(), ...view }));
}

/** An open draft: the heat treatment of the shaft steel is being measured anew. */
async function draftSteel({ services }: Installation, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	const id = ids.get("Havrin 34 quenched") as string;
	const { row } = must(await services.json.getSheet(ctx, { id }));
	const value = must(
		makeValue("density", "7.82-7.86 g/cm3", {}, { evidence: "measured", source: "weighed bars, November 2026" }),
	);
	must(
		await services.json.saveDraft(ctx, { id, edits: [{ at: "density", from: row.document.values.density ?? null, to: value }] }),
	);
}
