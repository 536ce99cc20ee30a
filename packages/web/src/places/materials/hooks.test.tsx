// @vitest-environment happy-dom

import { act, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { createMemoryRouter, RouterProvider, useNavigate } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { serverOf } from "../../api/testing";
import { usePreferences } from "../../stores/preferences";
import { useToasts } from "../../stores/toasts";
import { useMarking } from "./many/useMarking";
import { usePanels } from "./Toolbar";
import { rowsOf, rowWith } from "./testing";
import { useGridView } from "./view";

afterEach(() => {
	vi.unstubAllGlobals();
	usePreferences.setState({ target: null, filtersOpen: true, briefOpen: true });
});

/** A hook below the router, at an address. */
function at<T>(address: string, hook: () => T) {
	let router: ReturnType<typeof createMemoryRouter> | undefined;
	const wrapper = ({ children }: { children: ReactNode }) => {
		router ??= createMemoryRouter([{ path: "*", element: children }], { initialEntries: [address] });
		return <RouterProvider router={router} />;
	};
	const { result } = renderHook(hook, { wrapper });
	return { now: () => result.current, search: () => router?.state.location.search ?? "" };
}

describe("the view of the grid and its address", () => {
	it("is what the address says, and a change stands in the address", async () => {
		const { now, search } = at("/materials?sort=name&ready=mass", useGridView);
		expect([now()[0].sort, now()[0].facets.ready]).toEqual(["name", ["mass"]]);
		await act(async () => now()[1]({ text: "bronze", dir: "desc" }));
		expect([now()[0].text, now()[0].dir, now()[0].sort]).toEqual(["bronze", "desc", "name"]);
		expect(new URLSearchParams(search()).get("text")).toBe("bronze");
	});

	it("several changes in one breath are all kept", async () => {
		const { now, search } = at("/materials", useGridView);
		await act(async () => {
			now()[1]({ starred: true });
			now()[1]({ sort: "density" });
			now()[1]({ row: "m1" });
		});
		expect([now()[0].starred, now()[0].sort, now()[0].row]).toEqual([true, "density", "m1"]);
		expect(Object.fromEntries(new URLSearchParams(search()))).toEqual({ starred: "1", sort: "density", row: "m1" });
	});

	it("another navigation counts over what was shown ahead", async () => {
		const { now } = at("/materials", () => ({ view: useGridView(), go: useNavigate() }));
		await act(async () => now().view[1]({ text: "bronze" }));
		await act(async () => void now().go("/materials?text=steel"));
		expect(now().view[0].text).toBe("steel");
		await act(async () => now().view[1]({ starred: true }));
		expect([now().view[0].text, now().view[0].starred]).toEqual(["steel", true]);
	});
});

const NARROWING = { text: "bronze", retired: "hide", sort: "name", dir: "asc" } as const;

describe("marked rows", () => {
	const rows = rowsOf(["a", "b", "c", "d"].map((id) => rowWith(id, {})));
	const marked = () => {
		const { result } = renderHook(() => useMarking(rows, NARROWING));
		return { now: () => result.current, ids: () => [...result.current.ids] };
	};

	it("are toggled one by one, and extended from the last one that was", () => {
		const { now, ids } = marked();
		act(() => now().toggle(1));
		act(() => now().extend(3));
		expect(ids()).toEqual(["b", "c", "d"]);
		act(() => now().toggle(2));
		expect(ids()).toEqual(["b", "d"]);
		act(() => now().extend(0));
		expect(ids().sort()).toEqual(["a", "b", "c", "d"]);
	});

	it("all that pass are marked, also those that are not here yet; more than one step takes are told", async () => {
		const { now, ids } = marked();
		const asked = serverOf({ findMaterials: { value: { total: 5, rows: [rowWith("a", {}), rowWith("z", {})] } } });
		await act(() => now().all());
		expect(ids()).toEqual(["a", "z"]);
		expect(asked[0]?.input).toMatchObject({ ...NARROWING, limit: "1000" });
		expect(useToasts.getState().toasts).toEqual([]);
		serverOf({ findMaterials: { value: { total: 1200, rows: [rowWith("a", {})] } } });
		await act(() => now().all());
		expect(useToasts.getState().toasts[0]?.text).toContain("of 1200");
		useToasts.setState({ toasts: [] });
	});

	it("extending without one begins there; clearing forgets where it began; rows not here are left out", () => {
		const { now, ids } = marked();
		act(() => now().extend(2));
		act(() => now().extend(9));
		expect(ids()).toEqual(["c", "d"]);
		act(() => now().clear());
		act(() => now().extend(0));
		expect(ids()).toEqual(["a"]);
		act(() => now().toggle(9));
		expect(ids()).toEqual(["a"]);
	});
});

describe("filters and brief", () => {
	const panels = (narrow: boolean) => {
		vi.stubGlobal("matchMedia", () => ({
			matches: narrow,
			addEventListener: () => undefined,
			removeEventListener: () => undefined,
		}));
		const { result } = renderHook(usePanels);
		return {
			now: () => [result.current.filters, result.current.brief],
			toggle: (p: "filters" | "brief") => act(() => result.current.toggle(p)),
		};
	};

	it("stand both where there is room, as they were left", () => {
		const { now, toggle } = panels(false);
		expect(now()).toEqual([true, true]);
		toggle("brief");
		expect([now(), usePreferences.getState().briefOpen]).toEqual([[true, false], false]);
	});

	it("stand one at a time in a narrow window, none at first, and nothing is remembered", () => {
		const { now, toggle } = panels(true);
		expect(now()).toEqual([false, false]);
		toggle("filters");
		toggle("brief");
		expect(now()).toEqual([false, true]);
		toggle("brief");
		expect([now(), usePreferences.getState().briefOpen]).toEqual([[false, false], true]);
	});
});
