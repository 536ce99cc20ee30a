// @vitest-environment happy-dom

import type { MaterialRow } from "@alvek/contract";
import { QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { queryClient } from "../../api/queries";
import { type Asked, serverOf } from "../../api/testing";
import { useToasts } from "../../stores/toasts";
import { rowWith } from "./testing";
import { useRows } from "./useRows";

const ALL: readonly MaterialRow[] = Array.from({ length: 450 }, (_, i) => rowWith(`m${i}`, {}));

function page({ input }: Asked) {
	const [offset, limit] = [Number(input.offset ?? 0), Number(input.limit)];
	return { value: { total: ALL.length, all: ALL.length, groups: [], facets: {}, rows: ALL.slice(offset, offset + limit) } };
}
const wrapper = ({ children }: { children: ReactNode }) => (
	<QueryClientProvider client={queryClient}>{children}</QueryClientProvider>
);
const NAME = { retired: "hide", sort: "name", dir: "asc" } as const;

afterEach(() => {
	queryClient.clear();
	vi.unstubAllGlobals();
	useToasts.setState({ toasts: [] });
});

async function shown() {
	const asked = serverOf({ findMaterials: page });
	const { result } = renderHook(() => useRows(NAME, ["density"], null), { wrapper });
	await waitFor(() => expect(result.current.rows.total).toBe(450));
	return { rows: () => result.current.rows, offsets: () => asked.map((a) => Number(a.input.offset ?? 0)), asked };
}

describe("rows of the grid", () => {
	it("come piece by piece as they come into sight, each once", async () => {
		const { rows, offsets, asked } = await shown();
		expect(asked[0]?.input).toEqual({ retired: "hide", sort: "name", dir: "asc", values: "density", limit: "100" });
		expect([rows().at(99)?.id, rows().at(100), rows().complete]).toEqual(["m99", undefined, false]);
		act(() => rows().show(190, 210));
		await waitFor(() => expect(rows().at(200)?.id).toBe("m200"));
		act(() => rows().show(150, 250));
		expect([rows().at(150)?.id, rows().indexOf("m250"), rows().indexOf("m300")]).toEqual(["m150", 250, -1]);
		expect(offsets()).toEqual([0, 100, 200]);
		act(() => rows().show(300, 449));
		await waitFor(() => expect(rows().complete).toBe(true));
		expect(rows().sample).toHaveLength(450);
	});

	it("a range is what is here, or is fetched in one go, cut off at the end", async () => {
		const { rows, asked } = await shown();
		expect((await rows().range(10, 20))?.map((r) => r.id)).toEqual(ALL.slice(10, 30).map((r) => r.id));
		expect(asked).toHaveLength(1);
		expect((await rows().range(90, 20))?.map((r) => r.id)).toEqual(ALL.slice(90, 110).map((r) => r.id));
		expect(asked[1]?.input).toMatchObject({ offset: "90", limit: "20" });
		expect(await rows().range(440, 30)).toHaveLength(10);
	});

	it("a range that cannot be fetched is told, and is nothing", async () => {
		const { rows } = await shown();
		serverOf({ findMaterials: { code: "forbidden" } });
		expect(await rows().range(200, 5)).toBeNull();
		expect(useToasts.getState().toasts).toHaveLength(1);
	});

	it("a refusal is the state of the first piece, with what was there before it", async () => {
		serverOf({ findMaterials: { code: "bad-input" } });
		const { result } = renderHook(() => useRows({ ...NAME, where: "nonsense" }, [], null), { wrapper });
		await waitFor(() => expect(result.current.head.isError).toBe(true));
		expect([result.current.rows.total, result.current.head.error?.issues[0]?.code]).toEqual([0, "bad-input"]);
	});
});
