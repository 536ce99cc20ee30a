import type { JobView } from "@alvek/contract";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { closeToast, useToasts } from "../stores/toasts";
import { useWorks } from "../stores/works";
import { answerAsJob, isMany, runAsJob } from "./asJob";
import { tellFollowers } from "./jobs";

const tell = (id: string, state: JobView["state"], more: Partial<JobView> = {}): void =>
	tellFollowers({
		type: "job",
		id,
		data: { id, kind: "request", state, progress: 0, stage: "comparing", issues: [], ...more },
	});

/** Addresses that were asked, and the id that the job was given. */
let asked: string[];
let job: string;
let refuses: boolean;

beforeEach(() => {
	[asked, job, refuses] = [[], "", false];
	vi.stubGlobal("fetch", async (address: string, init: RequestInit = {}) => {
		asked.push(`${init.method ?? "GET"} ${address.replace(/\/[0-9a-f-]{36}/, "/ID")}`);
		const header = (init.headers as Record<string, string> | undefined)?.["X-Alvek-Job"];
		if (header !== undefined) job = header;
		if (refuses) return Response.json({ ok: false, issues: [{ code: "locked" }] }, { status: 409 });
		if (header !== undefined) return Response.json({ ok: true, value: { id: header, state: "running" } }, { status: 202 });
		return Response.json({ ok: true, value: { event: 4, value: { materials: 3 }, id: "e", no: 2 } });
	});
});
afterEach(() => {
	vi.unstubAllGlobals();
	for (const toast of useToasts.getState().toasts) closeToast(toast.id);
});

const toasts = () => useToasts.getState().toasts.map((t) => t.text);
const freeze = { id: "own", note: "n" };
const words = { what: "Freezing Own", said: () => "Frozen." };
const begun = () => vi.waitFor(() => expect(job).not.toBe(""));

describe("a request that is run as a job", () => {
	it("is told while it goes, and answers what the request would have answered", async () => {
		const answer = answerAsJob("freezeEdition", freeze, "Freezing Own");
		await begun();
		tell(job, "running", { progress: 0.4, stage: "freezing" });
		expect(useWorks.getState().works).toEqual([{ id: job, what: "Freezing Own", stage: "freezing", progress: 0.4 }]);
		tell(job, "done");
		expect(await answer).toMatchObject({ ok: true, value: { no: 2 } });
		expect(asked).toEqual(["POST /api/v1/libraries/own/editions", "GET /api/v1/jobs/ID/result"]);
		expect(useWorks.getState().works).toEqual([]);
	});

	it("that changed something says so with its way back", async () => {
		const done = runAsJob("freezeEdition", freeze, words);
		await begun();
		tell(job, "done");
		expect(await done).toMatchObject({ no: 2 });
		expect(useToasts.getState().toasts.map((t) => [t.text, t.action?.label])).toEqual([["Frozen.", "Undo"]]);
	});

	it("that was stopped, refused, or failed leaves the bar and says what became of it", async () => {
		const stopped = runAsJob("freezeEdition", freeze, words);
		await begun();
		tell(job, "cancelled", { issues: [{ code: "cancelled" }] });
		expect([await stopped, toasts()]).toEqual([null, ["Freezing Own: stopped, nothing was changed."]]);
		refuses = true;
		expect(await answerAsJob("freezeEdition", freeze, "Freezing Own")).toMatchObject({ ok: false, issues: [{ code: "locked" }] });
		expect(useWorks.getState().works).toEqual([]);
	});
});

it("a few are done at once", () => expect([isMany(0), isMany(1999), isMany(2000)]).toEqual([false, false, true]));
