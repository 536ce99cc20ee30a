import type { Server } from "node:http";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createClock } from "./clock";
import { createStandIns, listen } from "./server";

let real = Date.UTC(2026, 10, 29);
const clock = createClock(() => real);
let server: Server;
let base: string;
beforeAll(async () => {
	server = createStandIns([clock]);
	base = await listen(server, 0);
});
afterAll(() => server.close());

const ask = async (path: string, init: RequestInit = {}) => {
	const reply = await fetch(base + path, init);
	return [reply.status, await reply.json()];
};
const put = (body: unknown) => ask("/clock", { method: "PUT", body: typeof body === "string" ? body : JSON.stringify(body) });

describe("the clock", () => {
	it("shows the real time until it is set, and then runs as fast as it is told", async () => {
		expect(await ask("/clock")).toEqual([200, { now: "2026-11-29T00:00:00.000Z", rate: 1 }]);
		real += 1500;
		expect(await ask("/clock")).toEqual([200, { now: "2026-11-29T00:00:01.500Z", rate: 1 }]);
		expect(await put({ now: "2027-01-01T00:00:00Z", rate: 60 })).toEqual([200, { now: "2027-01-01T00:00:00.000Z", rate: 60 }]);
		real += 1000;
		expect(clock.now()).toBe(Date.UTC(2027, 0, 1, 0, 1));
		expect(await put({ rate: 0 })).toEqual([200, { now: "2027-01-01T00:01:00.000Z", rate: 0 }]);
		real += 1000;
		expect((await ask("/clock"))[1]).toEqual({ now: "2027-01-01T00:01:00.000Z", rate: 0 });
		await put({ rate: 1e6 });
		real = Number.MAX_SAFE_INTEGER;
		expect((await ask("/clock"))[0]).toBe(200);
	});

	it.each([
		[{ now: "soon" }, "now is a time such as 2026-11-29T08:00:00Z"],
		[{ now: 5 }, "now is a time such as 2026-11-29T08:00:00Z"],
		[{ rate: -1 }, "rate is a number from 0 to 1000000"],
		[{ rate: "fast" }, "rate is a number from 0 to 1000000"],
		[7, "{ now, rate } is needed, each of them or both"],
	])("refuses %j", async (body, why) => {
		expect(await put(body)).toEqual([422, { why }]);
	});
});

describe("the process", () => {
	it("lists what there is, and says what there is not", async () => {
		expect(await ask("/")).toEqual([200, [{ path: "/clock", about: clock.about }]]);
		expect((await ask("/scale"))[0]).toBe(404);
		expect((await ask("/clock/hands"))[0]).toBe(404);
		expect((await ask("/clock", { method: "DELETE" }))[0]).toBe(405);
	});

	it("takes JSON of a bounded size", async () => {
		expect(await put("{")).toEqual([400, { why: "JSON is needed" }]);
		expect(await put(`"${"x".repeat(1024 * 1024)}"`)).toEqual([400, { why: "at most 1 MB" }]);
	});

	it("takes a free port where its own is taken", async () => {
		const taken = Number(new URL(base).port);
		const other = createStandIns();
		const address = await listen(other, taken);
		expect(address).not.toBe(base);
		expect((await fetch(`${address}/clock`)).status).toBe(200);
		other.close();
	});
});
