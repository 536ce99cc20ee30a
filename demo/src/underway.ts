import { readFile } from "node:fs/promises";
import { Readable } from "node:stream";
import { type Edit, makeValue } from "@alvek/core/material";
import { describeIssue, type Result } from "@alvek/core/result";
import type { Installation, newContext } from "@alvek/server";
import { PROPOSED, TOVES, TRIAL_MATERIALS } from "./underway.data";

type Context = ReturnType<typeof newContext>;

/**
 * Work that is under way when somebody looks in: a library where a second person approves, with a proposal that waits; a
 * library of one person's own with drafts; a material that one project changed and could give back; a surface as a picture.
 */
export async function workUnderWay({ services }: Installation, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	const as = (person: string): Context => ({ ...ctx, actor: { person, admin: false } });
	await trialLibrary(services, { okke: as("okke"), ines: as("ines") }, ids);
	await ownBench(services, as("tove"));
	await changedHere(services, as("tove"), ids);
	await pictured(services, ctx, ids);
}

type Services = Installation["services"];

/** What the prototype shop tries out, kept by Okke; Ines has proposed what she weighed. */
async function trialLibrary(
	{ json }: Services,
	{ okke, ines }: { readonly okke: Context; readonly ines: Context },
	ids: ReadonlyMap<string, string>,
): Promise<void> {
	const id = "prototypes";
	must(
		await json.createLibrary(okke, { id, name: "Prototype shop", description: "What is tried out; a second person approves." }),
	);
	must(await json.openLock(okke, { id }));
	const materials = TRIAL_MATERIALS.map((name) => ids.get(name) as string);
	const copied = must(await json.copyMany(okke, { ids: materials, libraryId: id, group: "On trial" }));
	must(await json.closeLock(okke, { id }));
	must(await json.shareLibrary(okke, { id, by: "person", subject: "ines", role: "editor" }));
	must(await json.shareLibrary(okke, { id, by: "everyone", subject: "", role: "reader" }));
	must(await json.changeLibrary(okke, { id, approval: true }));
	const material = copied.value.ids[0] as string;
	const { row } = must(await json.getSheet(ines, { id: material }));
	const edits = PROPOSED.values.map(([property, text, details]): Edit => {
		const to = must(makeValue(property, text, {}, { evidence: "measured", ...details }));
		return { at: property, from: row.document.values[property] ?? null, to };
	});
	const { hash } = must(await json.saveDraft(ines, { id: material, edits }));
	must(await json.publishDrafts(ines, { items: [{ id: material, hash }], note: PROPOSED.note }));
}

/** A library that nobody but Tove sees, with what she has begun. */
async function ownBench({ json }: Services, tove: Context): Promise<void> {
	const id = "tove-bench";
	must(await json.createLibrary(tove, { id, name: "Tove's bench", description: "Begun, not yet anybody's business." }));
	for (const { name, group, values } of TOVES) {
		const material = tove.newId();
		must(await json.createMaterial(tove, { id: material, libraryId: id, name, group }));
		const edits = values.map(([property, text]): Edit => {
			const to = must(makeValue(property, text, {}, { evidence: "estimated" }));
			return { at: property, from: null, to };
		});
		must(await json.saveDraft(tove, { id: material, edits }));
	}
}

/** The brake disc of the winch was measured on the machine: changed for this project only, and not given back yet. */
async function changedHere({ json }: Services, tove: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	const project = "winch";
	const material = tove.newId();
	must(await json.createLocal(tove, { id: project, material, from: ids.get("Havrin stainless 18") as string }));
	const { row } = must(await json.getSheet(tove, { id: material }));
	const to = must(
		makeValue("hardness", "192-204 HBW", {}, { evidence: "measured", source: "brake disc, measured on the winch" }),
	);
	const edits: Edit[] = [{ at: "hardness", from: row.document.values.hardness ?? null, to }];
	const draft = must(await json.saveDraft(tove, { id: material, edits }));
	must(await json.publishDraft(tove, { id: material, note: "measured on the winch", hash: draft.hash }));
	const { parts } = must(await json.getProject(tove, { id: project }));
	const discs = parts.filter((p) => p.name === "Brake disc").map((p) => p.id);
	must(await json.assign(tove, { id: project, parts: discs, materialId: material }));
}

/** The surface of the ash as a picture, so that others can take it. */
async function pictured({ json, raw }: Services, ctx: Context, ids: ReadonlyMap<string, string>): Promise<void> {
	const id = ids.get("Osier ash") as string;
	const bytes = await readFile(new URL("../grain.png", import.meta.url));
	const stored = must(
		await raw.uploadFile(
			ctx,
			{ id, file: "ash grain.png", as: "picture" },
			{ stream: Readable.from([bytes]), length: bytes.length },
		),
	);
	const { row } = must(await json.getSheet(ctx, { id }));
	const { look } = row.document;
	const texture = { kind: "picture", hash: stored.hash, name: stored.name, size_mm: [60, 60], offset_mm: [0, 0] } as const;
	const draft = must(await json.saveDraft(ctx, { id, edits: [{ at: "field:look", from: look, to: { ...look, texture } }] }));
	must(await json.publishDraft(ctx, { id, note: "Its grain as a picture", hash: draft.hash }));
}

function must<T>(result: Result<T>): T {
	if (!result.ok) throw new Error(`demo data: ${result.issues.map(describeIssue).join(" ")}`);
	return result.value;
}
