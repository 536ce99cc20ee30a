import { packFound } from "@alvek/contract";
import { MaterialTable, packColumns } from "@alvek/core/table";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { queryClient } from "../../../api/queries";
import { columnsQuestion, findFirst } from "./useColumns";

const NARROWING = { ready: "mass", where: "density:1..2", retired: "hide", sort: "name", dir: "asc" } as const;
const QUESTION = columnsQuestion(NARROWING, ["youngs_modulus", "density", "density"]);
const PAGE = { total: 3, rows: [] };

/** Paths that were asked for, in order. */
let asked: string[];

beforeEach(() => {
	asked = [];
	vi.stubGlobal("fetch", async (address: string) => {
		asked.push(address.split("?")[0] ?? "");
		if (address.includes("/materials-with-columns?")) {
			const columns = packColumns(new MaterialTable(), new Int32Array(), ["density", "youngs_modulus"]);
			return new Response(packFound(new TextEncoder().encode(JSON.stringify(PAGE)), columns) as BlobPart);
		}
		return Response.json({ ok: true, value: PAGE });
	});
});
afterEach(() => {
	vi.unstubAllGlobals();
	vi.useRealTimers();
	queryClient.clear();
});

const find = (question = QUESTION) => findFirst(NARROWING, question, new AbortController().signal);
const ROWS = "/api/v1/materials";
const BOTH = "/api/v1/materials-with-columns";

describe("rows and the columns of strips", () => {
	it("the columns know nothing of spans and order, and name each property once", () => {
		expect(QUESTION).toEqual({ ready: "mass", retired: "hide", properties: "density,youngs_modulus" });
		expect(columnsQuestion(NARROWING, [])).toBeNull();
	});

	it("come in one reply when the columns are not here; afterwards rows alone are asked", async () => {
		expect(await find()).toMatchObject({ ok: true, value: PAGE });
		expect(queryClient.getQueryData(["findColumns", QUESTION])).toMatchObject({ rows: 0 });
		await find();
		expect(asked).toEqual([BOTH, ROWS]);
	});

	it("without strips rows alone are asked", async () => {
		await find(null);
		expect(asked).toEqual([ROWS]);
	});

	it("come together again when a change put them out of date, and when others may have", async () => {
		vi.useFakeTimers({ toFake: ["Date"] });
		await find();
		await queryClient.invalidateQueries({ queryKey: ["findColumns"] });
		await find();
		vi.setSystemTime(Date.now() + 20_000);
		await find();
		expect(asked).toEqual([BOTH, BOTH, BOTH]);
	});

	it("an unreachable server, a refusal and bytes of another version are failures, and leave the columns as they were", async () => {
		await find();
		await queryClient.invalidateQueries({ queryKey: ["findColumns"] });
		const before = queryClient.getQueryData(["findColumns", QUESTION]);
		const replies: readonly (() => Response)[] = [
			() => {
				throw new TypeError("no network");
			},
			() => Response.json({ ok: false, issues: [{ code: "forbidden" }] }, { status: 403 }),
			() => new Response(new Uint8Array(64)),
		];
		const codes: string[] = [];
		for (const reply of replies) {
			vi.stubGlobal("fetch", async () => reply());
			const result = await find();
			codes.push(result.ok ? "" : (result.issues[0]?.code ?? ""));
		}
		expect(codes).toEqual(["unreachable", "forbidden", "bad-file"]);
		expect(queryClient.getQueryData(["findColumns", QUESTION])).toBe(before);
	});
});
