import { rmSync } from "node:fs";
import { random } from "./lib/crowd";
import { crowdInstallation } from "./lib/crowd-db";
import { projectsOn } from "./lib/projects";
import { startsOn } from "./lib/starts";
import { quantile } from "./lib/team";

/**
 * 100,000 materials in ten libraries with 100 projects, beside the same questions at 1,000: start, where used, history,
 * search, publish effects, look-alikes, over HTTP.
 */
const GOAL_MS = 300;
const ROUNDS = Number(process.env.ROUNDS ?? 40);

async function measure(count: number): Promise<Readonly<Record<string, number>>> {
	const crowd = await crowdInstallation(count, null);
	const projects = await projectsOn(crowd.installation.db, { projects: 100, parts: 200, materials: count });
	await crowd.installation.reload();
	const next = random(11);
	const ask = async (path: string, init: RequestInit = {}): Promise<{ ms: number; value: unknown }> => {
		const headers = { ...crowd.headers, ...(init.body === undefined ? {} : { "Content-Type": "application/json" }) };
		const began = performance.now();
		const response = await fetch(`${crowd.base}/api/v1${path}`, { ...init, headers });
		const text = await response.text();
		const ms = performance.now() - began;
		const reply = JSON.parse(text) as { ok: boolean; value: unknown; issues?: unknown };
		if (!reply.ok) throw new Error(`${path}: ${text.slice(0, 300)}`);
		return { ms, value: reply.value };
	};
	const body = (value: unknown, method = "POST"): RequestInit => ({ method, body: JSON.stringify(value) });
	const some = (): number => Math.floor(next() * count);
	/** A material that parts stand on. */
	const used = (): string => projects.used[Math.floor(next() * projects.used.length)] as string;
	const drafted = async (): Promise<string> => {
		const id = used();
		const { value } = await ask(`/materials/${id}`);
		const { document } = (value as { row: { document: { notes: string } } }).row;
		await ask(
			`/materials/${id}/draft`,
			body({ edits: [{ at: "field:notes", from: document.notes, to: `note ${next()}` }] }, "PATCH"),
		);
		return id;
	};
	for (let l = 0; l < 10; l++) await ask(`/libraries/library-${l}/lock`, body({}));
	const questions: Readonly<Record<string, () => Promise<number>>> = {
		sheet_where_used: async () => (await ask(`/materials/${used()}`)).ms,
		library_where_used: async () => (await ask(`/libraries/library-${Math.floor(next() * 10)}`)).ms,
		history_of_library: async () => (await ask(`/history/library/library-${Math.floor(next() * 10)}`)).ms,
		history_narrowed: async () =>
			(await ask(`/history/library/library-${Math.floor(next() * 10)}?what=published&text=weighed&from=2026-01-01`)).ms,
		history_of_material: async () => (await ask(`/history/material/${used()}`)).ms,
		search: async () => (await ask(`/search?text=${["havrin+mar", "gugdeon", "tolvane+12"][some() % 3]}`)).ms,
		list: async () => (await ask(`/materials?text=marine&limit=60&library=library-${some() % 10}`)).ms,
		project: async () => (await ask(`/projects/project-${some() % 100}`)).ms,
		notices: async () => (await ask("/notices")).ms,
		alike_by_name: async () => (await ask(`/materials-alike?name=${encodeURIComponent(`Havrin plate ${some()}`)}`)).ms,
		publish_effects: async () => {
			const id = await drafted();
			const { ms } = await ask("/drafts/plan", body({ ids: [id] }));
			await ask(`/materials/${id}/draft`, { method: "DELETE" });
			return ms;
		},
		publish: async () => {
			const id = await drafted();
			const plan = (await ask("/drafts/plan", body({ ids: [id] }))).value as { materials: { hash: string }[] };
			return (await ask("/drafts/publish", body({ items: [{ id, hash: plan.materials[0]?.hash }], note: "weighed" }))).ms;
		},
		draft_saved: async () => {
			const id = `m${some()}`;
			const { value } = await ask(`/materials/${id}`);
			const { document } = (value as { row: { document: { notes: string } } }).row;
			return (
				await ask(
					`/materials/${id}/draft`,
					body({ edits: [{ at: "field:notes", from: document.notes, to: `n${next()}` }] }, "PATCH"),
				)
			).ms;
		},
	};
	const figures: Record<string, number> = {};
	for (const [name, question] of Object.entries(questions).filter(([n]) => (process.env.ONLY ?? n).split(",").includes(n))) {
		if (process.env.TRACE) console.error(count, name);
		await question();
		const ms: number[] = [];
		for (let i = 0; i < ROUNDS; i++) ms.push(await question());
		figures[name] = Number(quantile(ms, 0.95).toFixed(1));
		if (process.env.TRACE) console.error(figures[name]);
	}
	const began = performance.now();
	await ask("/libraries/library-0/duplicates");
	figures.duplicates_of_a_library_ms = Math.round(performance.now() - began);
	await crowd.stop();
	Object.assign(figures, await startsOn(crowd.dataDir, Math.ceil(ROUNDS / 4)));
	rmSync(crowd.dataDir, { recursive: true, force: true });
	return figures;
}

const small = await measure(1000);
const large = await measure(Number(process.env.ROWS ?? 100_000));
const questions = Object.keys(large).filter((k) => !k.endsWith("_ms"));
console.log(
	JSON.stringify({
		bench: "scale",
		setup: "10 libraries, 100 projects of 200 parts, 20,000 events; p95 in ms over HTTP",
		at_100000: large,
		at_1000: small,
		over_goal: questions.filter((k) => (large[k] as number) > GOAL_MS),
		goal_ms: GOAL_MS,
	}),
);
