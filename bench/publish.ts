import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { BLANK, difference, type Material } from "@alvek/core/material";
import { propertyById } from "@alvek/core/property";
import { builtWorkers, installLibrary, newContext, openInstallation } from "@alvek/server";
import { storeDocument } from "../packages/server/src/repo";
import { madeUp, random } from "./lib/crowd";

/**
 * Plan and publish of many drafts, beside what storing their documents alone takes in the same run: the canonical bytes,
 * their hash, and one statement each, in one transaction.
 */
const COUNT = Number(process.env.COUNT ?? 1000);
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const dataDir = mkdtempSync(join(tmpdir(), "alvek-publish-"));
const workers = builtWorkers(pathToFileURL(`${process.cwd()}/`));
const installation = await openInstallation({ dataDir, workers, version: "bench" });
const { db, services } = installation;
const ctx = newContext(db);
const must = <T>(result: { ok: true; value: T } | { ok: false; issues: unknown }): T => {
	if (!result.ok) throw new Error(JSON.stringify(result.issues));
	return result.value;
};
must(await installLibrary(ctx, { id: "own", name: "Own", kind: "own", materials: [] }));
const next = random(11);

/** A made-up document without the shares, of which a bare number is asked whether it is percent. */
function typed(i: number): Material {
	const { document } = madeUp(i, next);
	const values = Object.entries(document.values).filter(([, v]) => propertyById(v.property)?.siUnit !== "1");
	return { ...document, values: Object.fromEntries(values) };
}

const figures: { documents_ms: number; plan_ms: number; publish_ms: number; statements: number }[] = [];
for (let round = 0; round < ROUNDS; round++) {
	const made = Array.from({ length: COUNT }, (_, i) => ({ id: ctx.newId(), document: typed(round * COUNT + i) }));
	for (const [n, { id, document }] of made.entries()) {
		must(await services.json.createMaterial(ctx, { id, libraryId: "own", name: `Made ${round} ${n}` }));
		must(await services.json.saveDraft(ctx, { id, edits: difference(BLANK, document) as never }));
	}
	await installation.reload();
	const timed = async (work: () => Promise<void>): Promise<number> => {
		const began = performance.now();
		await work();
		return performance.now() - began;
	};
	const documents_ms = await timed(() =>
		db.transaction(async (sql) => {
			for (const { id, document } of made) await storeDocument(sql, { ...document, notes: `alone ${id}` });
			return { commit: true, value: undefined };
		}),
	);
	let items: { id: string; hash: string }[] = [];
	const before = db.state.statements;
	const plan_ms = await timed(async () => {
		const plan = must(await services.json.publishPlan(ctx, { ids: made.map((m) => m.id) }));
		items = plan.materials.map(({ id, hash }) => ({ id, hash }));
	});
	const publish_ms = await timed(async () => {
		must(await services.json.publishDrafts(ctx, { items, note: "all of them" }));
	});
	figures.push({ documents_ms, plan_ms, publish_ms, statements: db.state.statements - before });
}
await installation.close();
rmSync(dataDir, { recursive: true, force: true });
const median = (pick: (f: (typeof figures)[number]) => number): number =>
	figures.map(pick).sort((a, b) => a - b)[Math.floor(figures.length / 2)] ?? 0;
console.log(
	JSON.stringify({
		bench: "publish",
		drafts: COUNT,
		documents_alone_ms: Math.round(median((f) => f.documents_ms)),
		plan_ms: Math.round(median((f) => f.plan_ms)),
		publish_ms: Math.round(median((f) => f.publish_ms)),
		ratio: Number(median((f) => (f.plan_ms + f.publish_ms) / f.documents_ms).toFixed(2)),
		statements_per_draft: Number((median((f) => f.statements) / COUNT).toFixed(2)),
	}),
);
