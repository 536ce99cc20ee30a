import { Worker } from "node:worker_threads";
import { fail, type Result } from "@alvek/core/result";
import PQueue from "p-queue";
import type { Task, Tasks, WorkerReply, WorkerRequest } from "../worker";

/** The built worker files. */
export type WorkerFiles = { readonly kernel: URL; readonly exchange: URL };
export type WorkerKind = keyof WorkerFiles;

/** Where `npm run build` puts them. @param root the checkout, with a slash at its end */
export const builtWorkers = (root: URL): WorkerFiles => ({
	kernel: new URL("packages/kernel/dist/worker.js", root),
	exchange: new URL("packages/server/dist/exchange.js", root),
});

export type RunOptions = {
	/** Cancels: the worker is ended, since a loop that computes sees no message. */
	readonly signal?: AbortSignal;
	/** Told how far the work is, 0 to 1, and what it is at. */
	readonly tell?: (done: number, stage: string) => void;
	/** Ended when it takes longer, ms. */
	readonly limitMs?: number;
};

type InputOf<T> = T extends Task<infer I, unknown> ? I : never;
type OutputOf<T> = T extends Task<never, infer O> ? O : never;

/** Heavy work in threads of their own, so that whoever only looks something up waits for none of it. */
export type Workers = {
	/**
	 * Runs a task of a worker: `workers.run<typeof TASKS, "edition">("exchange", "edition", bytes)`.
	 * @returns what the task returns; refused: `cancelled`, `time-limit`, `out-of-memory`, `worker-crashed`
	 */
	run<T extends Tasks, N extends keyof T & string>(
		kind: WorkerKind,
		task: N,
		input: InputOf<T[N]>,
		options?: RunOptions,
	): Promise<Result<OutputOf<T[N]>>>;
	/** Waits for a turn for work of the kernel, which has a worker of its own and reads one file at a time. */
	kernelTurn<T>(work: () => Promise<Result<T>>, signal: AbortSignal): Promise<Result<T>>;
	close(): Promise<void>;
};

/** Heavy works at once, of all kinds together: more would only share the same cores and memory. */
const MOST_AT_ONCE = 2;
const HEAP_MB = 1024;
const LIMIT_MS = 60_000;
/** What a worker leaves in its memory goes with it. */
const MOST_TASKS = 50;

export function createWorkers(files: WorkerFiles, { most = MOST_AT_ONCE, heapMb = HEAP_MB } = {}): Workers {
	const queue = new PQueue({ concurrency: most });
	// a file that waits for the one before it keeps nobody else's turn
	const kernel = new PQueue({ concurrency: 1 });
	const idle = new Map<WorkerKind, Spare>();
	const all = new Set<Worker>();

	const start = async (kind: WorkerKind): Promise<Spare> => {
		const worker = new Worker(files[kind], { resourceLimits: { maxOldGenerationSizeMb: heapMb, stackSizeMb: 16 } });
		all.add(worker);
		worker.once("exit", () => all.delete(worker));
		await ready(worker);
		return { worker, tasks: 0 };
	};

	const runNow = async (kind: WorkerKind, request: WorkerRequest, options: RunOptions): Promise<Result<unknown>> => {
		const spare = idle.get(kind) ?? (await start(kind));
		idle.delete(kind);
		const { result, whole } = await exchange(spare.worker, request, options);
		// one of each kind is kept warm
		if (whole && ++spare.tasks < MOST_TASKS && !idle.has(kind)) idle.set(kind, spare);
		else await spare.worker.terminate();
		return result;
	};

	const turn = async <T>(of: PQueue, work: () => Promise<Result<T>>, signal?: AbortSignal): Promise<Result<T>> => {
		// whoever is cancelled in the queue is let go at once, and passed over when the turn comes
		const still = (): Promise<Result<T>> => (signal?.aborted === true ? Promise.resolve(CANCELLED) : work());
		// typed as empty-handed too, for queues with a time limit
		const done = of.add(still) as Promise<Result<T>>;
		return signal === undefined ? done : Promise.race([done, whenAborted(signal)]);
	};

	return {
		run: (kind, task, input, options = {}) =>
			// what a task returns is typed where the tasks stand; a message carries it as it is
			turn(queue, () => runNow(kind, { type: "run", task, input }, options), options.signal) as Promise<Result<never>>,
		kernelTurn: (work, signal) => turn(kernel, () => turn(queue, work, signal), signal),
		async close() {
			queue.clear();
			await Promise.all([...all].map((worker) => worker.terminate()));
		},
	};
}

const CANCELLED = fail({ code: "cancelled" });

/** Never without a signal that is given. */
function whenAborted(signal: AbortSignal): Promise<typeof CANCELLED> {
	return new Promise((resolve) => {
		if (signal.aborted) resolve(CANCELLED);
		else signal.addEventListener("abort", () => resolve(CANCELLED), { once: true });
	});
}

type Spare = { readonly worker: Worker; tasks: number };

function ready(worker: Worker): Promise<void> {
	// an idle worker must not keep a script alive
	worker.unref();
	return new Promise((resolve, reject) => {
		worker.once("error", reject);
		worker.once("message", () => {
			worker.off("error", reject);
			resolve();
		});
	});
}

/** One task in a worker; not whole: the worker may not be used again. */
function exchange(
	worker: Worker,
	request: WorkerRequest,
	{ signal, tell, limitMs = LIMIT_MS }: RunOptions,
): Promise<{ readonly result: Result<unknown>; readonly whole: boolean }> {
	return new Promise((resolve) => {
		worker.ref();
		const onMessage = (reply: WorkerReply): void => {
			if (reply.type === "progress") tell?.(reply.done, reply.stage);
			else if (reply.type === "done") end(reply.result, reply.result.ok || reply.result.issues[0]?.code !== "worker-crashed");
		};
		const onError = (cause: unknown): void => {
			const full = (cause as { code?: string }).code === "ERR_WORKER_OUT_OF_MEMORY";
			end(fail(full ? { code: "out-of-memory" } : { code: "worker-crashed", actual: String(cause).slice(0, 200) }), false);
		};
		const onAbort = (): void => end(CANCELLED, false);
		const timer = setTimeout(
			() => end(fail({ code: "time-limit", expected: `${Math.round(limitMs / 1000)} s` }), false),
			limitMs,
		);
		const end = (result: Result<unknown>, whole: boolean): void => {
			clearTimeout(timer);
			worker.off("message", onMessage);
			worker.off("error", onError);
			worker.off("exit", onError);
			signal?.removeEventListener("abort", onAbort);
			worker.unref();
			resolve({ result, whole });
		};
		worker.on("message", onMessage);
		worker.on("error", onError);
		worker.on("exit", onError);
		signal?.addEventListener("abort", onAbort);
		worker.postMessage(request);
	});
}
