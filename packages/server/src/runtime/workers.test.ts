import { MessageChannel } from "node:worker_threads";
import { fail, ok, type Result } from "@alvek/core/result";
import { afterEach, describe, expect, it } from "vitest";
import { serveTasks, type Task, type WorkerReply } from "../worker";
import { createWorkers, type Workers } from "./workers";

describe("the shell of a worker", () => {
	it("says that it is ready, tells how far it is, and answers what the task returned or threw", async () => {
		const { port1, port2 } = new MessageChannel();
		const replies: WorkerReply[] = [];
		const wanted = 6;
		const all = new Promise<void>((resolve) =>
			port2.on("message", (reply: WorkerReply) => {
				replies.push(reply);
				if (replies.length === wanted) resolve();
			}),
		);
		serveTasks(port1, {
			twice: (n: number, tell) => {
				tell(0.5, "half");
				return ok(2 * n);
			},
			refuses: () => fail({ code: "empty-file", actual: "x" }),
			breaks: () => {
				throw new Error("out of range");
			},
		});
		for (const task of ["twice", "refuses", "breaks", "toString"]) port2.postMessage({ type: "run", task, input: 21 });
		await all;
		port1.close();
		expect(replies).toEqual([
			{ type: "ready" },
			{ type: "progress", done: 0.5, stage: "half" },
			{ type: "done", result: ok(42) },
			{ type: "done", result: fail({ code: "empty-file", actual: "x" }) },
			{ type: "done", result: fail({ code: "worker-crashed", actual: "Error: out of range" }) },
			{ type: "done", result: fail({ code: "internal", expected: "one of twice, refuses, breaks" }) },
		]);
	});
});

/** A worker as the built ones are, without a file. */
const FILE = new URL(
	`data:text/javascript,${encodeURIComponent(`
		import { parentPort, threadId } from "node:worker_threads";
		const until = (ms) => { const end = Date.now() + ms; while (Date.now() < end); };
		parentPort.on("message", ({ task, input }) => {
			const done = (value) => parentPort.postMessage({ type: "done", result: { ok: true, value } });
			if (task === "thread") { until(input); done(threadId); }
			if (task === "span") { const from = Date.now(); until(input); done([from, Date.now()]); }
			if (task === "forever") { parentPort.postMessage({ type: "progress", done: 0.1, stage: "at it" }); for (;;); }
			if (task === "breaks") parentPort.postMessage({ type: "done", result: { ok: false, issues: [{ code: "worker-crashed" }] } });
			if (task === "throws") throw new Error("gone");
			if (task === "exits") process.exit(3);
			if (task === "fills") { const all = []; for (;;) all.push(new Array(1e5).fill(Math.random())); }
		});
		parentPort.postMessage({ type: "ready" });
	`)}`,
);
type TestTasks = {
	readonly thread: Task<number, number>;
	readonly span: Task<number, readonly [number, number]>;
	readonly forever: Task<null, never>;
	readonly breaks: Task<null, never>;
	readonly throws: Task<null, never>;
	readonly exits: Task<null, never>;
	readonly fills: Task<null, never>;
};

describe("workers", () => {
	let workers: Workers;
	const open = (options = {}): Workers => {
		workers = createWorkers({ kernel: FILE, exchange: FILE }, options);
		return workers;
	};
	afterEach(() => workers.close());
	const codeOf = (result: Result<unknown>): string => (result.ok ? "ok" : (result.issues[0]?.code ?? ""));
	const thread = async (): Promise<number> => {
		const result = await workers.run<TestTasks, "thread">("exchange", "thread", 0);
		if (!result.ok) throw new Error(JSON.stringify(result.issues));
		return result.value;
	};

	it("are kept for the next task, and replaced after one that broke", async () => {
		open();
		const first = await thread();
		expect(await thread()).toBe(first);
		for (const task of ["breaks", "throws", "exits"] as const) {
			expect([task, codeOf(await workers.run<TestTasks, typeof task>("exchange", task, null))]).toEqual([task, "worker-crashed"]);
			expect(await thread()).not.toBe(first);
		}
	});

	it("are two at once at the most, of all kinds together", async () => {
		open();
		const spans = await Promise.all(
			(["exchange", "kernel", "exchange", "exchange"] as const).map((kind) => workers.run<TestTasks, "span">(kind, "span", 60)),
		);
		const times = spans.map((s) => (s.ok ? s.value : [0, 0]));
		const atOnce = times.map(
			([from]) => times.filter(([a, b]) => (a as number) <= (from as number) && (from as number) < (b as number)).length,
		);
		expect(Math.max(...atOnce)).toBeLessThanOrEqual(2);
	});

	it("end with what is cancelled, also where it only waits for its turn", async () => {
		open({ most: 1 });
		const [running, waiting] = [new AbortController(), new AbortController()];
		let stage = "";
		const first = workers.run<TestTasks, "forever">("exchange", "forever", null, {
			signal: running.signal,
			tell: (_, at) => {
				stage = at;
				waiting.abort();
			},
		});
		const second = workers.run<TestTasks, "thread">("exchange", "thread", 0, { signal: waiting.signal });
		expect(codeOf(await second)).toBe("cancelled");
		expect(stage).toBe("at it");
		running.abort();
		expect(codeOf(await first)).toBe("cancelled");
		expect(await thread()).toBeGreaterThan(0);
		expect(codeOf(await workers.run<TestTasks, "thread">("exchange", "thread", 0, { signal: running.signal }))).toBe("cancelled");
	});

	it("end what takes too long or too much memory, and the next one goes on", async () => {
		open({ heapMb: 40 });
		expect(codeOf(await workers.run<TestTasks, "forever">("exchange", "forever", null, { limitMs: 100 }))).toBe("time-limit");
		expect(codeOf(await workers.run<TestTasks, "fills">("exchange", "fills", null))).toBe("out-of-memory");
		expect(await thread()).toBeGreaterThan(0);
	});

	it("give the kernel's files their turn one after another, and keep no other's turn meanwhile", async () => {
		open();
		let end = (): void => undefined;
		const order: string[] = [];
		const signal = new AbortController().signal;
		const first = workers.kernelTurn(async () => {
			order.push("first");
			await new Promise<void>((resolve) => (end = resolve));
			return ok(1);
		}, signal);
		const second = workers.kernelTurn(async () => {
			order.push("second");
			return ok(2);
		}, signal);
		expect(await thread()).toBeGreaterThan(0);
		expect(order).toEqual(["first"]);
		end();
		expect([await first, await second]).toEqual([ok(1), ok(2)]);
		expect(order).toEqual(["first", "second"]);
	});
});
