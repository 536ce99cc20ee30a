// @vitest-environment happy-dom

import type { LibraryView, MaterialRow } from "@alvek/contract";
import { act, renderHook } from "@testing-library/react";
import type { ClipboardEvent, KeyboardEvent } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { closeToast, useToasts } from "../../../stores/toasts";
import { columnOf, libraryWith, rowsOf, rowWith } from "../testing";
import { useEditing } from "./useEditing";

const COLUMNS = [columnOf("density", "g/cm^3"), columnOf("youngs_modulus", "GPa")];
const LIBRARIES: readonly LibraryView[] = [libraryWith("own", true), libraryWith("supplied", false)];
const LIST: readonly MaterialRow[] = [
	rowWith("a", { density: "2.70 g/cm3" }),
	rowWith("b", {}),
	rowWith("c", { density: "1 g/cm3" }),
	rowWith("s", {}, "supplied"),
];

type Item = { readonly id: string; readonly edits: readonly { readonly at: string; readonly to: { low?: number } | null }[] };
/** Drafts that were sent, each as material, place and SI number. */
let sent: (readonly (readonly [string, string, number | null])[])[];
let answer: () => Response;

beforeEach(() => {
	sent = [];
	answer = () => Response.json({ ok: true, value: { event: 7, drafts: [] } });
	vi.stubGlobal("fetch", async (_: string, init: RequestInit) => {
		const { items } = JSON.parse(String(init.body)) as { items: readonly Item[] };
		sent.push(items.flatMap(({ id, edits }) => edits.map((e) => [id, e.at, e.to?.low ?? null] as const)));
		return answer();
	});
});
afterEach(() => {
	vi.unstubAllGlobals();
	for (const toast of useToasts.getState().toasts) closeToast(toast.id);
});

const toasts = () => useToasts.getState().toasts.map((t) => t.text);
const leave = vi.fn();

/** The grid as far as its cells need it. */
function grid() {
	const focused: number[] = [];
	const { result } = renderHook(() =>
		useEditing({
			active: true,
			rows: rowsOf(LIST),
			columns: COLUMNS,
			libraries: LIBRARIES,
			onRow: (row) => focused.push(row),
			leave,
		}),
	);
	const step = (row: number, by: number): number | null => (row + by >= 0 && row + by < LIST.length ? row + by : null);
	const now = () => result.current;
	return {
		now,
		focused,
		press: (key: string, more: Partial<KeyboardEvent> = {}) =>
			act(async () => {
				const event = { key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, preventDefault: vi.fn(), ...more };
				now().onKeyDown(event as unknown as KeyboardEvent, { step, page: 2, reveal: () => undefined });
			}),
		/** What stands in the field that lies over the cell. */
		type: (text: string) => act(async () => (now().field as { props: { onChange: (t: string) => void } }).props.onChange(text)),
		field: () => (now().field as { props: { text: string; error: string | null } } | null)?.props,
		paste: (text: string) =>
			act(async () => {
				const clipboardData = { getData: () => text };
				now().onPaste({ clipboardData, preventDefault: () => undefined } as unknown as ClipboardEvent);
			}),
		copied: (): string => {
			let text = "";
			const clipboardData = { setData: (_: string, t: string) => (text = t) };
			act(() => now().onCopy({ clipboardData, preventDefault: () => undefined } as unknown as ClipboardEvent));
			return text;
		},
	};
}

describe("cells by the keyboard", () => {
	it("a character begins over what is there; Enter takes it and goes below, Tab to the right", async () => {
		const { press, type, now, field, focused } = grid();
		await press("7");
		expect(field()).toMatchObject({ text: "7", error: null });
		await type("7.85");
		await press("Enter");
		expect([sent, now().cursor, focused]).toEqual([[[["a", "density", 7850]]], { row: 1, col: 0 }, [1]]);
		await press("Enter");
		expect(field()?.text).toBe("");
		await type("9");
		await press("Tab");
		expect([now().cursor, sent[1]]).toEqual([{ row: 1, col: 1 }, [["b", "density", 9000]]]);
		expect([...now().touched].sort()).toEqual(["a", "b"]);
		expect(toasts().at(-1)).toContain("1 cell of 1 material changed, as drafts");
	});

	it("what cannot be read stays in its field with the reason, and nothing is sent", async () => {
		const { press, type, now, field } = grid();
		await press("Enter");
		expect(field()?.text).toBe("2.70");
		await type("soft");
		await press("Enter");
		expect([field()?.text, now().cursor, sent]).toEqual(["soft", { row: 0, col: 0 }, []]);
		expect(field()?.error).toMatch(/./);
		await type("soft?");
		expect(field()?.error).toBeNull();
		await press("Escape");
		expect([field(), sent]).toEqual([undefined, []]);
	});

	it("the text that is there already changes nothing", async () => {
		const { press, field } = grid();
		await press("Enter");
		await press("Enter");
		expect([field(), sent]).toEqual([undefined, []]);
	});

	it("a row that may not be edited opens no field and says why", async () => {
		const { press, field, now } = grid();
		await act(async () => now().choose({ row: 3, col: 0 }, "only"));
		await press("5");
		expect([field(), toasts()]).toEqual([undefined, [expect.stringContaining("read-only")]]);
	});

	it("Shift extends what is chosen; fill, clear and leaving by their keys", async () => {
		const { press, now } = grid();
		await press("ArrowDown", { shiftKey: true });
		await press("ArrowRight", { shiftKey: true });
		expect([now().size, now().chosenIds(), now().cellsOf(1), now().cellsOf(2)]).toEqual([
			{ rows: 2, columns: 2 },
			["a", "b"],
			{ spans: [[0, 1]], active: 1 },
			{ spans: [], active: -1 },
		]);
		await press("ArrowDown", { altKey: true });
		expect(sent).toEqual([[["b", "density", 2700]]]);
		await press("Delete");
		expect(sent[1]).toEqual([["a", "density", null]]);
		await press("Escape");
		expect(leave).toHaveBeenCalledOnce();
	});

	it("several blocks are chosen one after the other; clearing and Ctrl+Enter reach all of them in one step", async () => {
		const { press, now, type, field } = grid();
		await act(async () => now().choose({ row: 2, col: 0 }, "add"));
		await act(async () => now().choose({ row: 1, col: 1 }, "add"));
		expect([now().chosen, now().chosenIds()]).toEqual([{ blocks: 3, cells: 3 }, ["a", "c", "b"]]);
		expect([0, 1, 2].map((row) => now().cellsOf(row)?.spans)).toEqual([[[0, 0]], [[1, 1]], [[0, 0]]]);
		await press("Delete");
		expect(sent).toEqual([
			[
				["a", "density", null],
				["c", "density", null],
			],
		]);
		await press("x");
		await press("Enter", { ctrlKey: true });
		expect([field()?.error, sent.length]).toEqual([expect.stringContaining("x"), 1]);
		await type("3");
		await press("Enter", { ctrlKey: true });
		expect(sent[1]).toEqual([
			["a", "density", 3000],
			["c", "density", 3000],
			["b", "youngs_modulus", 3e9],
		]);
		// a plain step chooses one cell again
		await press("ArrowDown");
		expect(now().chosen).toEqual({ blocks: 1, cells: 1 });
	});

	it("a block that lies over another counts once", async () => {
		const { press, now } = grid();
		await press("ArrowDown", { shiftKey: true });
		await act(async () => now().choose({ row: 0, col: 0 }, "add"));
		await press("Delete");
		expect(sent).toEqual([[["a", "density", null]]]);
	});

	it("walks stay inside the grid", async () => {
		const { press, now } = grid();
		await press("ArrowUp");
		await press("ArrowLeft");
		expect(now().cursor).toEqual({ row: 0, col: 0 });
		await press("End");
		await press("ArrowRight");
		await press("PageDown");
		expect(now().cursor).toEqual({ row: 2, col: 1 });
		await press("PageDown");
		expect(now().cursor).toEqual({ row: 2, col: 1 });
	});
});

describe("cells by the clipboard", () => {
	it("several blocks take one copied cell with its unit; blocks of one column are copied one below the other", async () => {
		const { paste, now, copied } = grid();
		await act(async () => now().choose({ row: 2, col: 0 }, "add"));
		expect(copied().split("\r\n")).toEqual(["Density [g/cm^3]", "2.70", "1"]);
		await paste("1\t2");
		expect([sent, toasts().at(-1)]).toEqual([[], expect.stringContaining("one copied cell")]);
		await paste("Density [kg/m^3]\n7850");
		expect(sent).toEqual([
			[
				["a", "density", 7850],
				["c", "density", 7850],
			],
		]);
		await act(async () => now().choose({ row: 1, col: 1 }, "add"));
		expect([copied(), toasts().at(-1)]).toEqual(["", expect.stringContaining("different columns")]);
	});

	it("a pasted block is laid from the first chosen cell on, chosen afterwards, and each refused cell is named", async () => {
		const { paste, now } = grid();
		await paste("7.85\t210\nsoft\t70\n1\t2\n3\t4");
		expect(sent).toEqual([
			[
				["a", "density", 7850],
				["a", "youngs_modulus", 210e9],
				["b", "youngs_modulus", 70e9],
				["c", "youngs_modulus", 2e9],
			],
		]);
		expect(now().refused.map((r) => [r.material, r.text])).toEqual([
			["Material s", "3"],
			["Material s", "4"],
			["Material b", "soft"],
		]);
		expect(now().size).toEqual({ rows: 4, columns: 2 });
		act(() => now().dismiss());
		expect(now().refused).toEqual([]);
	});

	it("what is copied has names and units in its first row", async () => {
		const { press, copied } = grid();
		await press("ArrowDown", { shiftKey: true });
		expect(copied().split("\r\n")).toEqual(["Density [g/cm^3]", "2.70", ""]);
		expect(toasts().at(-1)).toContain("2 × 1 cells are in the clipboard");
	});

	it("an empty clipboard is told; a field that is open takes the clipboard itself", async () => {
		const { paste, press, copied } = grid();
		await paste("");
		expect([sent, toasts().length]).toEqual([[], 1]);
		await press("7");
		await paste("1\t2");
		expect([sent, copied()]).toEqual([[], ""]);
	});

	it("a refusal of the server is told and marks nothing as changed", async () => {
		answer = () => Response.json({ ok: false, issues: [{ code: "forbidden" }] }, { status: 403 });
		const { paste, now } = grid();
		await paste("7.85");
		expect([now().touched.size, toasts().length]).toEqual([0, 1]);
	});
});
