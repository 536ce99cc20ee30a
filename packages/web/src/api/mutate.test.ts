import { PATHS } from "@alvek/contract";
import { QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { useToasts } from "../stores/toasts";
import { isAffected, mutate } from "./mutate";
import { onRefresh, queryClient } from "./queries";
import { runMutation } from "./runMutation";
import { serverOf } from "./testing";

const questions = Object.entries(PATHS)
	.filter(([name, route]) => route.method === "GET" || /Plan$/.test(name))
	.map(([name]) => name);
const asked = (name: keyof typeof PATHS, ...steps: readonly string[]): readonly string[] =>
	questions.filter((question) => isAffected(name, steps, question)).sort();

describe("what a change asks for again", () => {
	it("a saved draft: what shows drafts", () => {
		expect(asked("saveDraft", "draft.save")).toEqual([
			"findAlike",
			"findColumns",
			"findMaterials",
			"getLibrary",
			"getMaterials",
			"getProject",
			"getSheet",
			"listSteps",
			"publishPlan",
			"search",
		]);
	});

	it("a star or a view is nobody else's, and in no log: only what shows it", () => {
		expect(asked("starMaterial")).toEqual(["findColumns", "findMaterials", "getMaterials", "getSheet", "search"]);
		expect(asked("saveView")).toEqual(["listViews"]);
	});

	it("a request that recorded nothing changed nothing", () => {
		expect(asked("publishDrafts")).toEqual([]);
		expect(asked("assign")).toEqual([]);
	});

	it("several steps together change what any of them does", () => {
		const both = asked("assign", "draft.save", "parts.assign");
		for (const question of [...asked("assign", "draft.save"), ...asked("assign", "parts.assign")])
			expect(both).toContain(question);
		expect(both).not.toContain("listPeople");
	});
});

describe("a change", () => {
	/** Questions on screen, by how often each was asked. */
	let counts: Record<string, number>;
	let leave: (() => void)[];
	beforeEach(() => {
		counts = {};
		leave = ["getSheet", "listViews", "publishPlan"].map((name) =>
			new QueryObserver(queryClient, {
				queryKey: [name, {}],
				queryFn: () => {
					counts[name] = (counts[name] ?? 0) + 1;
					return {};
				},
			}).subscribe(() => undefined),
		);
	});
	afterEach(() => {
		for (const away of leave) away();
		queryClient.clear();
		vi.unstubAllGlobals();
		useToasts.setState({ toasts: [] });
	});

	it("asks again for what it changed and for nothing else; not for what the reply brought", async () => {
		serverOf({ saveDraft: { value: {}, steps: "draft.save" } });
		await mutate("saveDraft", { id: "m" } as never);
		expect(counts).toEqual({ getSheet: 2, listViews: 1, publishPlan: 2 });
		await mutate("saveDraft", { id: "m" } as never, ["getSheet", "publishPlan"]);
		expect(counts).toEqual({ getSheet: 2, listViews: 1, publishPlan: 2 });
	});

	it("that was refused asks for nothing", async () => {
		serverOf({ saveDraft: { code: "forbidden" } });
		expect((await mutate("saveDraft", { id: "m" } as never)).ok).toBe(false);
		expect(counts).toEqual({ getSheet: 1, listViews: 1, publishPlan: 1 });
	});

	it("tells whoever has said that what is shown is out of date", async () => {
		serverOf({ saveView: { value: {} } });
		const told: string[] = [];
		const stop = onRefresh((affected) => told.push(...["listViews", "getSheet"].filter(affected)));
		await mutate("saveView", {} as never);
		stop();
		await mutate("saveView", {} as never);
		expect(told).toEqual(["listViews"]);
	});

	it("is said with its way back, where there is one; a refusal is said, or taken by whoever asked", async () => {
		serverOf({ changeMaterial: { value: { event: 7 } }, undo: { value: { event: 8 } } });
		const reply = await runMutation("changeMaterial", { id: "m" } as never, (r) => `step ${(r as { event: number }).event}`);
		expect([reply, useToasts.getState().toasts.map((t) => [t.text, t.action?.label])]).toEqual([
			{ event: 7 },
			[["step 7", "Undo"]],
		]);
		useToasts.getState().toasts[0]?.action?.run();
		await vi.waitFor(() => expect(useToasts.getState().toasts.at(-1)?.text).toBe("Undone: step 7"));
		serverOf({ changeMaterial: { value: { event: 0 } } });
		await runMutation("changeMaterial", { id: "m" } as never, "the same");
		expect(useToasts.getState().toasts.at(-1)).toMatchObject({ text: "the same" });
		expect(useToasts.getState().toasts.at(-1)?.action).toBeUndefined();
		serverOf({ changeMaterial: { code: "forbidden" } });
		expect(await runMutation("changeMaterial", { id: "m" } as never, "done")).toBeNull();
		expect(useToasts.getState().toasts.at(-1)?.tone).toBe("wrong");
		const taken: string[] = [];
		const shown = useToasts.getState().toasts.length;
		await runMutation("changeMaterial", { id: "m" } as never, "done", (issues) => taken.push(...issues.map((i) => i.code)));
		expect([taken, useToasts.getState().toasts.length]).toEqual([["forbidden"], shown]);
	});
});
