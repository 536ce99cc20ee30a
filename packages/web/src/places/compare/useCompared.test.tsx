// @vitest-environment happy-dom

import { QueryClientProvider } from "@tanstack/react-query";
import { renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { queryClient } from "../../api/queries";
import { type Asked, serverOf } from "../../api/testing";
import { rowWith } from "../materials/testing";
import { labelOf, useCompared } from "./useCompared";

const part = (id: string, assignment: unknown) => ({ id, name: `Part ${id}`, quantity: 2, volume_m3: 0.5, assignment });
const project = (...parts: readonly unknown[]) => ({ value: { id: "p1", name: "Winch", parts } });
const standing = (materialId: string, revision: number, draft = false) => ({ materialId, revision, draft });

function rows({ input }: Asked) {
	const ids = String(input.ids)
		.split(",")
		.filter((id) => id !== "hidden");
	return { value: ids.map((id) => ({ ...rowWith(id, { density: "2 g/cm3" }), revision: 3 })) };
}
const revision = ({ input }: Asked) => ({
	value: { document: rowWith("x", { density: "1 g/cm3" }).document, name: `Material ${input.id}`, no: Number(input.no), own: [] },
});

afterEach(() => {
	queryClient.clear();
	vi.unstubAllGlobals();
});

function at(address: string) {
	const wrapper = ({ children }: { children: ReactNode }) => (
		<QueryClientProvider client={queryClient}>
			<MemoryRouter initialEntries={[address]}>{children}</MemoryRouter>
		</QueryClientProvider>
	);
	const { result } = renderHook(useCompared, { wrapper });
	return result;
}
const shown = async (address: string) => {
	const result = at(address);
	await waitFor(() => expect(result.current.waiting).toBe(false));
	return result.current;
};

describe("what an address compares", () => {
	it("materials in the order asked for; what may not be seen is counted", async () => {
		serverOf({ getMaterials: rows });
		const { columns, left, forParts } = await shown("/compare?ids=b,hidden,a");
		expect([columns.map((c) => c.key), left, forParts]).toEqual([["b", "a"], 1, null]);
	});

	it("six at the most", async () => {
		serverOf({ getMaterials: rows });
		const { columns, left } = await shown("/compare?ids=a,b,c,d,e,f,g,h");
		expect([columns.length, left]).toEqual([6, 2]);
	});

	it("nothing, when nothing is asked for: no request, no waiting", async () => {
		const asked = serverOf({});
		const { columns, waiting } = at("/compare").current;
		expect([columns, waiting, asked]).toEqual([[], false, []]);
	});

	it("for parts: what they are made of now comes first, at its own revision", async () => {
		serverOf({ getMaterials: rows, getRevision: revision, getProject: project(part("x", standing("a", 2)), part("y", null)) });
		const { columns, forParts } = await shown("/compare?ids=b,a&part=p1/x%2By");
		expect(columns.map((c) => [c.key, c.present, c.revision])).toEqual([
			["a@2", true, 2],
			["b", false, 3],
			["a", false, 3],
		]);
		expect(forParts).toMatchObject({ name: "2 parts", pieces: 4, volume: 2 });
	});

	it("for a part that stands on just what a column shows, that column is the present one", async () => {
		serverOf({ getMaterials: rows, getRevision: revision, getProject: project(part("x", standing("a", 3))) });
		const { columns, forParts } = await shown("/compare?ids=b,a&part=p1/x");
		expect(columns.map((c) => [c.key, c.present])).toEqual([
			["b", false],
			["a", true],
		]);
		expect(forParts?.name).toBe("Part x");
	});

	it("a refusal ends the waiting and is told", async () => {
		serverOf({ getMaterials: { code: "forbidden" }, getProject: { code: "not-found" } });
		const result = at("/compare?ids=a&part=p1/x");
		await waitFor(() => expect(result.current.error?.issues[0]?.code).toBe("forbidden"));
		expect(result.current.forParts).toBeNull();
	});
});

describe("the label of a column", () => {
	const column = (key: string, name: string, more = {}) => ({ key, name, revision: 2, draft: false, ...more }) as never;
	it("is the name, with the revision or the draft where two have the same", () => {
		const all = [column("a", "Bronze"), column("b", "Bronze", { draft: true }), column("c", "Steel")];
		expect(all.map((c) => labelOf(c, all))).toEqual(["Bronze (rev 2)", "Bronze (draft)", "Steel"]);
	});
});
