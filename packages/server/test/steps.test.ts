import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { fixture, newId, type Running, startServer, value } from "./harness";

/** Steps that people expect to take back, after the server was started anew. */
let api: Running;
beforeAll(async () => {
	api = await startServer();
});
afterAll(() => api.stop());

async function published(name: string, density: string): Promise<string> {
	const id = newId();
	await api.must("createMaterial", { id, libraryId: "own", name, group: "Plates" });
	await api.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", density) }] });
	await api.publish([id], "first");
	return id;
}

describe("undo across a restart", () => {
	it("assign, bring forward, move, retire, delete, edits of the grid: each is listed, taken back, and can be done again", async () => {
		const a = await published("Step plate", "2.70 g/cm3");
		const b = await published("Other plate", "2.80 g/cm3");
		const c = await published("Third plate", "2.90 g/cm3");
		const project = newId();
		await api.must("createProject", { id: project, name: "Steps" });
		await api.importFile(project, "nested.step", fixture("nested.step"));
		const [part] = (await api.must("getProject", { id: project })).parts;
		await api.must("assign", { id: project, parts: [part?.id ?? ""], materialId: a });

		const state = async (): Promise<unknown> => {
			const view = await api.must("getProject", { id: project });
			const rows = await api.must("getMaterials", { ids: [a, b, c].join(",") });
			const sheets = await Promise.all([a, b, c].map((id) => api.call("getSheet", { id })));
			return {
				part: [view.parts[0]?.assignment?.material, view.parts[0]?.assignment?.revision, view.parts[0]?.mass_kg?.mass],
				rows: rows.map((r) => [r.name, r.group, r.retired !== null]),
				densities: sheets.map((s) => (s.ok ? (s.value.row.document.values.density as { entered?: string })?.entered : "gone")),
			};
		};
		const { row } = await api.must("getSheet", { id: a });
		await api.must("saveDraft", {
			id: a,
			edits: [{ at: "density", from: row.document.values.density ?? null, to: value("density", "2.71 g/cm3") }] as never,
		});
		await api.publish([a], "second");

		const start = await state();
		const states = [start];
		const does: readonly (() => Promise<unknown>)[] = [
			() => api.must("bringForward", { id: project, parts: [part?.id ?? ""] }),
			() => api.must("assign", { id: project, parts: [part?.id ?? ""], materialId: b }),
			() => api.must("manyMaterials", { ids: [a, c], act: "move", group: "Elsewhere" }),
			() => api.must("manyMaterials", { ids: [c], act: "retire", successor: a }),
			async () => {
				const items = await Promise.all(
					[a, b].map(async (id) => {
						const sheet = await api.must("getSheet", { id });
						return {
							id,
							edits: [{ at: "density", from: sheet.row.document.values.density ?? null, to: value("density", "3 g/cm3") }],
						};
					}),
				);
				await api.must("saveDrafts", { items } as never);
			},
			() => api.must("removeMaterial", { id: c }),
		];
		for (const act of does) {
			await act();
			states.push(await state());
		}
		expect(new Set(states.map((s) => JSON.stringify(s))).size).toBe(does.length + 1);

		api = await api.restart();
		const steps = await api.must("listSteps", {});
		expect(steps.slice(0, 6).map((s) => s.did)).toEqual([
			"moved to the bin",
			"changed cells of 2 materials",
			"retired",
			"moved 2 materials",
			`gave Other plate rev 1 to ${part?.name}`,
			`brought ${part?.name} forward to Step plate rev 2`,
		]);
		const taken: number[] = [];
		for (const [i, step] of steps.slice(0, 6).entries()) {
			taken.push((await api.must("undo", { event: step.seq })).event);
			expect(await state()).toEqual(states[does.length - 1 - i]);
		}
		// and forward again, each step back being a step itself
		for (const [i, event] of taken.reverse().entries()) {
			await api.must("undo", { event });
			expect(await state()).toEqual(states[i + 1]);
		}
		// what was taken back is not offered again
		expect((await api.must("listSteps", {})).some((s) => steps.slice(0, 6).some((t) => t.seq === s.seq))).toBe(false);
	});
});
