import type { ProposalView } from "@alvek/contract";
import { applyEdits, BLANK, canonicalJson, type Material } from "@alvek/core/material";
import type { Result } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { seeded } from "../../core/src/quantity/testing";
import { verify } from "../src/backup";
import { newContext } from "../src/index";
import { newId, personWith, type Running, startServer, value } from "./harness";
import { edit } from "./team";

/** Four people and thirty materials on a long day: whatever is published is what whoever let it through had seen. */
const STEPS = 2_000;
const MATERIALS = 30;
const PEOPLE = ["local", "ann", "bob", "cy"] as const;
type Person = (typeof PEOPLE)[number];

let server: Running;
beforeAll(async () => {
	server = await startServer();
	for (const person of PEOPLE.slice(1)) await personWith(server, person, { own: person === "cy" ? "steward" : "editor" });
});
afterAll(() => server.stop());

/** What somebody looked at, with the document that would come out. */
type Seen = { readonly by: Person; readonly id: string; readonly hash: string; readonly document: string };
type SeenProposal = { readonly by: Person; readonly proposal: ProposalView; readonly documents: ReadonlyMap<string, string> };

describe("a long day of four people", () => {
	it(`${STEPS} steps: what is published is what was seen, nobody is told nonsense, and the data hold together`, async () => {
		const next = seeded(20261129);
		const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
		const { json } = server.installation.services;
		const as = (person: Person) => ({ ...newContext(server.installation.db), actor: { person, admin: person === "local" } });
		const counts: Record<string, number> = {};
		const codes: Record<string, number> = {};
		const note = <T>(what: string, result: Result<T>): T | null => {
			counts[what] = (counts[what] ?? 0) + 1;
			if (result.ok) {
				counts[`${what} done`] = (counts[`${what} done`] ?? 0) + 1;
				return result.value;
			}
			const code = result.issues[0]?.code ?? "";
			codes[code] = (codes[code] ?? 0) + 1;
			return null;
		};
		const must = <T>(result: Result<T>): T => {
			if (!result.ok) throw new Error(JSON.stringify(result.issues));
			return result.value;
		};

		const ids: string[] = [];
		for (let i = 0; i < MATERIALS; i++) {
			const id = newId();
			must(await json.openLock(as("local"), { id: "own", takeOver: true }));
			must(await json.createMaterial(as("local"), { id, libraryId: "own", name: `Model ${i}` }));
			const saved = must(
				await json.saveDraft(as("local"), { id, edits: [edit("density", null, value("density", `${1000 + i} kg/m3`))] } as never),
			);
			must(await json.publishDraft(as("local"), { id, hash: saved.hash, note: "first" }));
			ids.push(id);
		}
		const headOf = async (id: string): Promise<Material> => {
			const row = await server.installation.db.one<{ bytes: Buffer }>(
				"SELECT d.bytes FROM revision r JOIN document d ON d.hash = r.document_hash WHERE r.material_id = $id ORDER BY r.no DESC LIMIT 1",
				{ id },
			);
			return row === null ? BLANK : (JSON.parse(row.bytes.toString("utf8")) as Material);
		};
		const afterwards = (head: Material, edits: readonly unknown[]): string =>
			canonicalJson(must(applyEdits(head, edits as never)).material);
		/** Most of the day is about a few of them. */
		const some = (): string => ids[Math.floor(next() ** 4 * ids.length)] as string;
		let seen: Seen[] = [];
		let proposals: SeenProposal[] = [];
		const events: { readonly by: Person; readonly event: number }[] = [];
		const took = (by: Person, done: { readonly event?: number } | null): void => {
			if (done?.event !== undefined && done.event > 0) events.push({ by, event: done.event });
		};

		const acts: readonly (readonly [weight: number, act: (by: Person) => Promise<void>])[] = [
			[
				22,
				async (by) => {
					const id = some();
					const sheet = await json.getSheet(as(by), { id });
					if (!sheet.ok) return;
					const { document } = sheet.value.row;
					const edits =
						next() < 0.6
							? [edit("density", document.values.density ?? null, value("density", `${1000 + Math.floor(next() * 9000)} kg/m3`))]
							: [edit("field:notes", document.notes, `note ${Math.floor(next() * 1e6)}`)];
					note("save", await json.saveDraft(as(by), { id, edits } as never));
				},
			],
			[
				16,
				async (by) => {
					const id = some();
					const plan = await json.publishPlan(as(by), { ids: [id] });
					const effect = plan.ok ? plan.value.materials[0] : undefined;
					if (effect === undefined || effect.issues.length > 0) return;
					seen.push({ by, id, hash: effect.hash, document: afterwards(await headOf(id), effect.edits) });
				},
			],
			[
				16,
				async () => {
					const look = pick(seen);
					if (look === undefined) return;
					const before = await server.installation.db.one<{ n: number }>(
						"SELECT COUNT(*) AS n FROM revision WHERE material_id = $id",
						{ id: look.id },
					);
					const done = note("publish", await json.publishDraft(as(look.by), { id: look.id, hash: look.hash, note: "seen" }));
					seen = seen.filter((s) => s !== look);
					if (done === null || done.published === 0) return;
					expect(canonicalJson(await headOf(look.id)), `${look.by} published ${look.id}`).toBe(look.document);
					expect(done.revision).toBe((before?.n ?? 0) + 1);
				},
			],
			[
				8,
				async (by) => {
					const library = await json.getLibrary(as(by), { id: "own" });
					const proposal = library.ok ? pick(library.value.proposals) : undefined;
					if (proposal === undefined) return;
					const documents = new Map<string, string>();
					for (const m of proposal.materials) documents.set(m.id, afterwards(await headOf(m.id), m.edits));
					proposals.push({ by, proposal, documents });
				},
			],
			[
				8,
				async () => {
					const look = pick(proposals);
					if (look === undefined) return;
					proposals = proposals.filter((p) => p !== look);
					const items = look.proposal.materials.map(({ id, hash }) => ({ id, hash }));
					const done = note(
						"approve",
						items.some((i) => i.hash === "")
							? ({ ok: false, issues: [{ code: "proposal-stale" }] } as const)
							: await json.approvePublish(as(look.by), { id: look.proposal.id, items }),
					);
					if (done === null) return;
					for (const [id, document] of look.documents)
						expect(canonicalJson(await headOf(id)), `${look.by} approved ${id}`).toBe(document);
				},
			],
			[
				3,
				async (by) =>
					void note("decline", await json.declinePublish(as(by), { id: pick(proposals)?.proposal.id ?? newId(), note: "no" })),
			],
			[6, async (by) => took(by, note("discard", await json.discardDraft(as(by), { id: some() })))],
			[7, async (by) => void note("lock", await json.openLock(as(by), { id: "own", takeOver: true }))],
			[2, async (by) => took(by, note("approval", await json.changeLibrary(as(by), { id: "own", approval: next() < 0.6 })))],
			[
				3,
				async (by) =>
					took(
						by,
						note(
							"move",
							await json.manyMaterials(as(by), {
								ids: [some(), some()],
								act: "move",
								group: pick(["A", "B", "B / C", ""]),
							}),
						),
					),
			],
			[
				2,
				async (by) =>
					took(
						by,
						note("retire", await json.manyMaterials(as(by), { ids: [some()], act: "retire", successor: pick([null, some()]) })),
					),
			],
			[2, async (by) => took(by, note("revive", await json.manyMaterials(as(by), { ids: [some()], act: "revive" })))],
			[
				2,
				async (by) => {
					const plan = await json.mergePlan(as(by), { id: some(), other: some() });
					if (!plan.ok) return;
					const { keep, drop, edits } = plan.value;
					const take = edits.filter((e) => e.at === "density").map((e) => e.at);
					const input = {
						id: keep.id,
						other: drop.id,
						take,
						code: false,
						keepRevision: keep.revision,
						dropRevision: drop.revision,
						note: "one",
					};
					took(by, note("merge", await json.mergeMaterials(as(by), input)));
				},
			],
			[
				2,
				async (by) => {
					const id = some();
					took(
						by,
						note(
							"rebase",
							await json.rebaseDraft(as(by), {
								id,
								chosen: [
									{ at: "density", side: pick(["mine", "theirs"] as const) },
									{ at: "field:notes", side: "mine" },
								],
							}),
						),
					);
				},
			],
			[
				12,
				async (by) => {
					const step = pick(events);
					if (step !== undefined) took(by, note("undo", await json.undo(as(next() < 0.8 ? step.by : by), { event: step.event })));
				},
			],
		];
		const whole = acts.reduce((n, [weight]) => n + weight, 0);
		for (let i = 0; i < STEPS; i++) {
			const at = next() * whole;
			let passed = 0;
			const [, act] = acts.find(([weight]) => {
				passed += weight;
				return at < passed;
			}) as (typeof acts)[number];
			// somebody in a hurry looks, and acts long after
			if (seen.length > 40) seen = seen.slice(-30);
			if (proposals.length > 20) proposals = proposals.slice(-15);
			await act(pick(PEOPLE));
		}
		// the day did meet what it is about
		for (const what of ["save", "publish", "approve", "discard", "undo", "merge", "move", "retire"])
			expect([what, (counts[`${what} done`] ?? 0) > 0]).toEqual([what, true]);
		expect(codes["not-as-seen"] ?? 0, JSON.stringify([counts, codes])).toBeGreaterThan(10);
		expect(codes["proposal-stale"] ?? 0).toBeGreaterThan(0);
		expect(codes.internal ?? 0).toBe(0);
		const { dataDir } = server;
		await server.installation.close();
		expect((await verify(dataDir)).wrong).toEqual([]);
		server = await startServer(dataDir);
	}, 120_000);
});
