import { afterEach, describe, expect, it, vi } from "vitest";
import { useLostReplies, useSignedOut } from "../stores/session";
import { bytesOf, call, newId, pendingChanges, send, TAB, upload } from "./client";

type Sent = { readonly address: string; readonly init: RequestInit };

/** The network: what was sent, and what it answers. */
function network(answer: (sent: Sent) => Response | Promise<Response>): readonly Sent[] {
	const sent: Sent[] = [];
	vi.stubGlobal("fetch", async (address: string, init: RequestInit = {}) => {
		sent.push({ address, init });
		return answer({ address, init });
	});
	return sent;
}
const answered = (value: unknown, init?: ResponseInit): Response => Response.json({ ok: true, value }, init);
const refused = (code: string, status = 403): Response => Response.json({ ok: false, issues: [{ code }] }, { status });
const down = (): never => {
	throw new TypeError("connection refused");
};

afterEach(() => {
	vi.unstubAllGlobals();
	useSignedOut.setState({ out: false });
});

describe("a question", () => {
	it("stands in the address, without what was not said", async () => {
		const sent = network(() => answered({ rows: [] }));
		await call("findMaterials", { text: "a & b", library: undefined, sort: "name" } as never);
		expect(sent[0]?.address).toBe("/api/v1/materials?text=a+%26+b&sort=name");
		expect(sent[0]?.init.body).toBeUndefined();
		await call("getSheet", { id: "m 1" });
		expect(sent[1]?.address).toBe("/api/v1/materials/m%201");
	});

	it("is answered with what the server says, its value or its issues", async () => {
		network(() => answered(7));
		expect(await call("getSheet", { id: "m" })).toEqual({ ok: true, value: 7 });
		network(() => refused("not-found", 404));
		expect(await call("getSheet", { id: "m" })).toEqual({ ok: false, issues: [{ code: "not-found" }] });
	});

	it("of another program is no answer, whatever JSON it is, and a refusal of ours is one", async () => {
		for (const body of [7, "ok", true, [1], {}, { value: 1 }, null]) {
			network(() => Response.json(body, { status: 418 }));
			expect([body, await call("getSheet", { id: "m" })]).toEqual([
				body,
				{ ok: false, issues: [{ code: "unreachable", actual: 418 }] },
			]);
		}
	});

	it.each([
		["a change whose reply never came", "starMaterial", down, true],
		["a change that another program answered", "starMaterial", () => new Response("<html>", { status: 502 }), true],
		["a change that was refused", "starMaterial", () => refused("forbidden"), false],
		["a change that was taken", "starMaterial", () => answered(null), false],
		["a question without an answer", "getSheet", down, false],
		["a question that another program answered", "getSheet", () => new Response("<html>", { status: 502 }), false],
	] as const)("%s: whether it may have happened unseen is %s", async (_, name, answer, lost) => {
		useLostReplies.setState({ lost: false });
		network(answer);
		await call(name as "getSheet", { id: "m" });
		expect(useLostReplies.getState().lost).toBe(lost);
		useLostReplies.setState({ lost: false });
	});

	it("never throws: no network, no JSON and another program's JSON are a server out of reach", async () => {
		for (const answer of [
			down,
			() => new Response("<html>", { status: 502 }),
			() => Response.json(["x"]),
			() => Response.json(null),
		]) {
			network(answer);
			expect(await call("getSheet", { id: "m" })).toMatchObject({ ok: false, issues: [{ code: "unreachable" }] });
		}
	});

	it("that the server no longer answers for this person is noticed by the page", async () => {
		network(() => refused("forbidden"));
		await call("getSheet", { id: "m" });
		expect(useSignedOut.getState().out).toBe(false);
		network(() => refused("signed-out", 401));
		await call("getSheet", { id: "m" });
		expect(useSignedOut.getState().out).toBe(true);
	});
});

describe("a change", () => {
	it("carries its input as JSON with the page's name, and tells the steps that it recorded", async () => {
		const sent = network(() => answered({}, { headers: { "X-Alvek-Steps": "draft.save,material.publish" } }));
		const { steps } = await send("starMaterial", { id: "m", on: true });
		expect(steps).toEqual(["draft.save", "material.publish"]);
		expect(sent[0]).toMatchObject({
			address: "/api/v1/materials/m/star",
			init: { method: "POST", headers: { "X-Alvek-Tab": TAB }, body: '{"on":true}' },
		});
		network(() => answered({}));
		expect((await send("starMaterial", { id: "m", on: true })).steps).toEqual([]);
	});

	it("is pending until it is answered, also when it never is; a question is not", async () => {
		let reply: (r: Response) => void = () => undefined;
		network(() => new Promise((resolve) => (reply = resolve)));
		const change = call("starMaterial", { id: "m", on: true });
		expect(pendingChanges()).toBe(1);
		reply(answered({}));
		await change;
		expect(pendingChanges()).toBe(0);
		network(down);
		await call("starMaterial", { id: "m", on: true });
		expect(pendingChanges()).toBe(0);
		network(() => new Promise((resolve) => (reply = resolve)));
		const question = call("getSheet", { id: "m" });
		expect(pendingChanges()).toBe(0);
		reply(answered({}));
		await question;
	});
});

describe("bytes", () => {
	it("come as they are; a refusal says why", async () => {
		network(() => new Response(new Uint8Array([1, 2, 3])));
		const got = await bytesOf("getMesh", { id: "p", hash: "h" } as never);
		expect(got.ok && [...new Uint8Array(got.value)]).toEqual([1, 2, 3]);
		network(() => refused("not-found", 404));
		expect(await bytesOf("getMesh", { id: "p", hash: "h" } as never)).toMatchObject({ issues: [{ code: "not-found" }] });
		network(down);
		expect(await bytesOf("getMesh", { id: "p", hash: "h" } as never)).toMatchObject({ issues: [{ code: "unreachable" }] });
	});
});

describe("a file", () => {
	/** The part of XMLHttpRequest that sends a file, driven by the test. */
	class Request {
		static latest: Request;
		readonly headers: Record<string, string> = {};
		readonly upload: { onprogress?: (e: { loaded: number; total: number }) => void } = {};
		opened = "";
		sent: unknown = null;
		responseText = "";
		onload = (): void => undefined;
		onerror = (): void => undefined;
		onabort = (): void => undefined;
		constructor() {
			Request.latest = this;
		}
		open(method: string, path: string): void {
			this.opened = `${method} ${path}`;
		}
		setRequestHeader(name: string, value: string): void {
			this.headers[name] = value;
		}
		send(body: unknown): void {
			this.sent = body;
		}
		abort(): void {
			this.onabort();
		}
	}
	const begin = (signal = new AbortController().signal, shares: number[] = []) => {
		vi.stubGlobal("XMLHttpRequest", Request);
		const file = new File(["x"], "x.step");
		return { done: upload("/files", file, (share) => shares.push(share), signal), request: Request.latest, file };
	};

	it("is the body as it is, tells how far it is, and is answered like any other request", async () => {
		const shares: number[] = [];
		const { done, request, file } = begin(undefined, shares);
		request.upload.onprogress?.({ loaded: 0, total: 0 });
		request.upload.onprogress?.({ loaded: 1, total: 4 });
		request.responseText = '{"ok":true,"value":9}';
		request.onload();
		expect([await done, request.opened, request.sent, shares]).toEqual([
			{ ok: true, value: 9 },
			"POST /api/v1/files",
			file,
			[0, 0.25],
		]);
		expect(request.headers).toEqual({ "Content-Type": "application/octet-stream", "X-Alvek-Tab": TAB });
	});

	it("that is refused, answered with no JSON, or stopped ends in an issue", async () => {
		const first = begin();
		first.request.onerror();
		const second = begin();
		second.request.responseText = "<html>";
		second.request.onload();
		const stop = new AbortController();
		const third = begin(stop.signal);
		stop.abort();
		const codes = [await first.done, await second.done, await third.done].map((r) => (r.ok ? "" : r.issues[0]?.code));
		expect(codes).toEqual(["upload-refused", "unreachable", "cancelled"]);
	});
});

describe("an id", () => {
	it("is new each time, and later ones sort behind", async () => {
		const ids = Array.from({ length: 50 }, newId);
		expect(new Set(ids).size).toBe(50);
		await new Promise((resolve) => setTimeout(resolve, 3));
		expect(newId() > (ids[0] as string)).toBe(true);
	});
});
