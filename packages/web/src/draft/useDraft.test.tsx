// @vitest-environment happy-dom

import type { Sheet } from "@alvek/contract";
import { applyEdits, BLANK, type Edit, type Material } from "@alvek/core/material";
import { QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { newId } from "../api/client";
import { queryClient } from "../api/queries";
import { type Answer, type Asked, serverOf } from "../api/testing";
import { rowWith } from "../places/materials/testing";
import { useToasts } from "../stores/toasts";
import { adoptOrphans, dropOrphans, orphansOf, resume, useUnsaved } from "./registry";
import { useDraft } from "./useDraft";

const wrapper = ({ children }: { children: ReactNode }) => (
	<QueryClientProvider client={queryClient}>{children}</QueryClientProvider>
);
const notes = (from: string, to: string): Edit => ({ at: "field:notes", from, to });

let id: string;
let document: Material;
let saves: Asked[];
/** What the server says to the next saves; then it takes everything. */
let refusals: Answer[];

function sheet(): Sheet {
	return { row: { ...rowWith(id, {}), document, draftVersion: saves.length } } as unknown as Sheet;
}

beforeEach(() => {
	id = newId();
	document = BLANK;
	saves = [];
	refusals = [];
	serverOf({
		getSession: { value: { person: { id: "maren", name: "Maren" }, people: 2 } },
		getSheet: () => ({ value: sheet() }),
		saveDraft: (asked) => {
			saves.push(asked);
			const refused = refusals.shift();
			if (refused !== undefined) return refused;
			const applied = applyEdits(document, asked.input.edits as Edit[]);
			if (!applied.ok) return { code: "conflict" };
			document = applied.value.material;
			return { value: { draftId: "d", version: saves.length, hash: "", savedAt: "", base: null } };
		},
	});
});
afterEach(() => {
	vi.unstubAllGlobals();
	queryClient.clear();
	localStorage.clear();
	useToasts.setState({ toasts: [] });
	useUnsaved.setState({ unsaved: [] });
});

async function open() {
	const first = sheet();
	const hook = renderHook(() => useDraft(first), { wrapper });
	await waitFor(() => expect(hook.result.current.keptAs("x")).toContain("maren"));
	return { draft: () => hook.result.current, close: hook.unmount };
}

describe("the draft on a sheet", () => {
	it("shows what was typed at once, saves it, and takes it back", async () => {
		const { draft } = await open();
		act(() => draft().commit([notes("", "measured")], "Notes"));
		expect(draft().material.notes).toBe("measured");
		await act(() => draft().flush());
		expect([saves.length, document.notes, draft().state]).toEqual([1, "measured", "saved"]);
		act(() => expect(draft().undo()).toBe("Notes"));
		await act(() => draft().flush());
		expect([document.notes, draft().undo()]).toEqual(["", null]);
	});

	it("what cannot be an edit is told and not sent", async () => {
		const { draft } = await open();
		act(() => draft().commit([{ at: "field:nonsense", from: null, to: "x" }], "Nonsense"));
		await act(() => draft().flush());
		expect([saves, useToasts.getState().toasts.length]).toEqual([[], 1]);
	});

	it("what is refused stays, named for the page, until it is tried again", async () => {
		refusals = [{ code: "forbidden" }];
		const { draft } = await open();
		act(() => draft().commit([notes("", "measured")], "Notes"));
		await act(() => draft().flush());
		await waitFor(() => expect(draft().refused).toHaveLength(1));
		expect(useUnsaved.getState().unsaved).toMatchObject([{ id, refused: 1, waiting: 0 }]);
		const [refused] = draft().refused;
		act(() => draft().retry(refused as never));
		await act(() => draft().flush());
		expect([draft().refused, document.notes, useUnsaved.getState().unsaved]).toEqual([[], "measured", []]);
	});

	it("a place that somebody else changed is asked with both versions, and settled as the person says", async () => {
		refusals = [{ code: "conflict", path: "field:notes", current: "theirs" } as never];
		const { draft } = await open();
		act(() => draft().commit([notes("", "mine")], "Notes"));
		document = { ...BLANK, notes: "theirs" };
		await act(() => draft().flush());
		await waitFor(() => expect(draft().conflicts).toMatchObject([{ at: "field:notes", mine: "mine", theirs: "theirs" }]));
		const [conflict] = draft().conflicts;
		act(() => draft().settle(conflict as never, "mine"));
		await act(() => draft().flush());
		expect([draft().conflicts, document.notes]).toEqual([[], "mine"]);
	});
});

describe("what a page left behind", () => {
	/** As a page that is gone would have kept it. */
	const orphan = (person: string, material: string): void => {
		const step = { client: newId(), n: 1, edits: [notes("", "kept")] };
		const kept = { material, name: "Bronze", at: "2026-11-26T00:00:00.000Z", queue: [step], contested: [], refused: [] };
		localStorage.setItem(`alvek.queue.${person}.gone-tab.${material}`, JSON.stringify(kept));
	};

	it("is found by its person alone, sent once, and forgotten", async () => {
		orphan("maren", id);
		expect([orphansOf("maren").length, orphansOf("okke").length]).toEqual([1, 0]);
		expect(await adoptOrphans("maren")).toEqual({ sent: 1, lost: [] });
		await waitFor(() => expect(document.notes).toBe("kept"));
		expect([saves.length, orphansOf("maren")]).toEqual([1, []]);
	});

	it("whose material cannot be read stays where it is, named; it can be thrown away", async () => {
		orphan("maren", id);
		serverOf({ getSheet: { code: "not-found" } });
		expect(await adoptOrphans("maren")).toEqual({ sent: 0, lost: ["Bronze"] });
		expect(orphansOf("maren")).toHaveLength(1);
		dropOrphans("maren");
		expect(orphansOf("maren")).toEqual([]);
	});
});

describe("another person at the same page", () => {
	it("sends nothing of whoever was here before", async () => {
		refusals = [{ code: "signed-out" }];
		const { draft, close } = await open();
		act(() => draft().commit([notes("", "mine")], "Notes"));
		await act(() => draft().flush());
		expect(useUnsaved.getState().unsaved).toMatchObject([{ id, phase: "signed-out" }]);
		close();
		act(() => resume("okke"));
		expect([saves.length, document.notes, useUnsaved.getState().unsaved]).toEqual([1, "", []]);
	});

	it("the same person again goes on where they stopped", async () => {
		refusals = [{ code: "signed-out" }];
		const { draft } = await open();
		act(() => draft().commit([notes("", "mine")], "Notes"));
		await act(() => draft().flush());
		act(() => resume("maren"));
		await waitFor(() => expect(document.notes).toBe("mine"));
	});
});
