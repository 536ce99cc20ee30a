import type { LiveEvent } from "@alvek/contract";
import { QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { TAB } from "../api/client";
import { mutate } from "../api/mutate";
import { queryClient } from "../api/queries";
import { useLostReplies } from "../stores/session";
import { clearNews, dropNews, take, useNews } from "./news";

const event = (more: Partial<LiveEvent> = {}): LiveEvent => ({
	seq: 1,
	at: "2026-11-26T00:00:00.000Z",
	by: { id: "okke", name: "Okke Brandt" },
	action: "material.publish",
	kind: "material",
	subject: "m1",
	name: "Gudgeon bronze 5",
	place: "orrisay",
	revision: 5,
	tab: null,
	...more,
});
const news = () => useNews.getState().news.map((e) => e.subject);

/** How often each question was asked by what stands on screen. */
let asked: Record<string, number>;
let leave: (() => void)[];

/** A question that something on screen is an answer to. */
async function show(name: string, input: Record<string, unknown>, data: unknown = {}): Promise<void> {
	const observer = new QueryObserver(queryClient, {
		queryKey: [name, input],
		queryFn: () => {
			asked[name] = (asked[name] ?? 0) + 1;
			return data;
		},
	});
	leave.push(observer.subscribe(() => undefined));
	await settle();
}
const settle = () => new Promise((resolve) => setTimeout(resolve, 5));

beforeEach(() => {
	useLostReplies.setState({ lost: false });
	asked = {};
	leave = [];
});
afterEach(() => {
	for (const away of leave) away();
	queryClient.clear();
	useLostReplies.setState({ lost: false });
	useNews.setState({ link: "live", lostAt: null, news: [], missed: false });
	vi.unstubAllGlobals();
});

describe("news for a page", () => {
	it("changes no number on screen: it says what happened, once a subject, and only of what is shown", async () => {
		await show("getSheet", { id: "m1" });
		take({ kind: "event", event: event({ action: "draft.save" }) });
		take({ kind: "event", event: event({ seq: 2 }) });
		take({ kind: "event", event: event({ seq: 3, subject: "m2" }) });
		await settle();
		expect([news(), asked.getSheet]).toEqual([["m1"], 1]);
		expect(useNews.getState().news[0]?.action).toBe("material.publish");
		clearNews();
		expect(news()).toEqual([]);
	});

	it("asks again at once for what holds no number", async () => {
		await show("listLibraries", {});
		await show("getSheet", { id: "m1" });
		take({ kind: "event", event: event({ action: "library.lock", kind: "library", subject: "orrisay" }) });
		await settle();
		expect([asked.listLibraries, asked.getSheet, news()]).toEqual([2, 1, []]);
	});

	it("one's own steps are no news, because the reply told what they changed", async () => {
		await show("getSheet", { id: "m1" });
		take({ kind: "event", event: event({ tab: TAB }) });
		await settle();
		expect([asked.getSheet, news()]).toEqual([1, []]);
	});

	it("is forgotten when the page asks again for what it concerns, and stays for the rest", async () => {
		await show("getSheet", { id: "m1" });
		await show("getProject", { id: "p1" });
		take({ kind: "event", event: event() });
		take({ kind: "event", event: event({ seq: 2, action: "parts.assign", kind: "project", subject: "p1" }) });
		take({ kind: "missed" });
		expect(news()).toEqual(["m1", "p1"]);
		dropNews((question) => question === "getSheet");
		expect([news(), useNews.getState().missed]).toEqual([["p1"], true]);
		dropNews(() => true);
		expect([news(), useNews.getState().missed]).toEqual([[], false]);
	});

	it("tells since when the server is out of reach, and keeps that when it is back", () => {
		take({ kind: "state", state: "lost" });
		const { lostAt } = useNews.getState();
		expect(lostAt).toBeInstanceOf(Date);
		take({ kind: "state", state: "lost" });
		take({ kind: "state", state: "live" });
		expect(useNews.getState()).toMatchObject({ link: "live", lostAt });
	});
});

describe("a change whose reply was lost", () => {
	it("is learnt from the stream, and what it changed is asked for again", async () => {
		await show("getProject", { id: "p1" });
		vi.stubGlobal("fetch", async () => {
			throw new TypeError("connection reset");
		});
		const result = await mutate("assign", { id: "p1", parts: ["a"], material: "m1" } as never);
		expect(result).toMatchObject({ ok: false, issues: [{ code: "unreachable" }] });
		expect(asked.getProject).toBe(1);
		take({ kind: "event", event: event({ action: "parts.assign", kind: "project", subject: "p1", tab: TAB }) });
		await settle();
		expect([asked.getProject, news()]).toEqual([2, []]);
	});
});
