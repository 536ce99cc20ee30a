import { Worker } from "node:worker_threads";
import { fail, type Result } from "@alvek/core/result";
import type { KernelReply, KernelRequest } from "./messages";
import type { StepGeometry } from "./read";

export { type Body, bodiesOf } from "./bodies";
export type { GeometryDoubt, Mesh, ReadSolid, StepGeometry } from "./read";

export type ReadRequest = {
	readonly bytes: Uint8Array;
	readonly mesh: boolean;
	readonly signal?: AbortSignal;
	readonly onProgress?: (done: number, total: number) => void;
};

export type Kernel = {
	/** Reads one STEP file; calls queue up. Cancelling ends the worker: a synchronous kernel sees no message. */
	read(request: ReadRequest): Promise<Result<StepGeometry>>;
	close(): Promise<void>;
};

export type KernelOptions = {
	/** The built worker file. */
	readonly workerUrl: URL;
	/** Reading stops when nothing is reported for so long, ms. */
	readonly stallLimit?: number;
};

const DEFAULT_STALL_LIMIT = 120_000;

/** What we make in the kernel's memory is freed; what it leaks itself while it tessellates goes with its worker. */
const MOST_READS = 20;

/** The kernel behind a queue, in a worker that is started when first needed and replaced when it was ended. */
export function createKernel(options: KernelOptions): Kernel {
	let worker: Promise<Worker> | null = null;
	let queue: Promise<unknown> = Promise.resolve();

	/** Files that the running worker has read. */
	let reads = 0;

	const ready = (): Promise<Worker> => {
		worker ??= startWorker(options.workerUrl);
		return worker;
	};
	const end = async (): Promise<void> => {
		const running = worker;
		worker = null;
		reads = 0;
		if (running !== null) await (await running).terminate();
	};

	const readNow = async (request: ReadRequest): Promise<Result<StepGeometry>> => {
		if (request.signal?.aborted) return fail({ code: "cancelled" });
		// a kernel that is still starting goes on starting, for the next one
		const thread = await Promise.race([ready(), aborted(request.signal)]);
		if (thread === null) return fail({ code: "cancelled" });
		const result = await exchange(thread, request, options.stallLimit ?? DEFAULT_STALL_LIMIT);
		const broken = !result.ok && ["cancelled", "time-limit", "kernel-crashed"].includes(result.issues[0]?.code ?? "");
		if (broken || ++reads >= MOST_READS) await end();
		return result;
	};

	return {
		read(request) {
			const turn = queue.then(() => readNow(request));
			queue = turn.catch(() => undefined);
			// whoever waits behind another file is let go at once
			const gone = aborted(request.signal).then(() => fail({ code: "cancelled" }));
			return Promise.race([turn, gone]);
		},
		close: end,
	};
}

/** Resolves when it is cancelled; never without a signal. */
function aborted(signal: AbortSignal | undefined): Promise<null> {
	return new Promise((resolve) => {
		if (signal?.aborted === true) return resolve(null);
		signal?.addEventListener("abort", () => resolve(null), { once: true });
	});
}

function startWorker(url: URL): Promise<Worker> {
	return new Promise((resolve, reject) => {
		const worker = new Worker(url, { resourceLimits: { stackSizeMb: 16 } });
		// an idle worker must not keep a script alive
		worker.unref();
		worker.once("error", reject);
		worker.once("message", (reply: KernelReply) => {
			worker.off("error", reject);
			if (reply.type === "ready") resolve(worker);
		});
	});
}

function exchange(worker: Worker, request: ReadRequest, stallLimit: number): Promise<Result<StepGeometry>> {
	return new Promise((resolve) => {
		worker.ref();
		let timer = setTimeout(() => finish(stalled()), stallLimit);
		const stalled = () => fail({ code: "time-limit", expected: `${Math.round(stallLimit / 1000)} s without progress` });
		const onMessage = (reply: KernelReply): void => {
			if (reply.type === "progress") {
				clearTimeout(timer);
				timer = setTimeout(() => finish(stalled()), stallLimit);
				request.onProgress?.(reply.done, reply.total);
			} else if (reply.type === "done") finish(reply.result);
		};
		const onError = (cause: unknown): void => finish(fail({ code: "kernel-crashed", actual: String(cause).slice(0, 200) }));
		const onAbort = (): void => finish(fail({ code: "cancelled" }));
		const finish = (result: Result<StepGeometry>): void => {
			clearTimeout(timer);
			worker.off("message", onMessage);
			worker.off("error", onError);
			worker.off("exit", onError);
			request.signal?.removeEventListener("abort", onAbort);
			worker.unref();
			resolve(result);
		};
		worker.on("message", onMessage);
		worker.on("error", onError);
		worker.on("exit", onError);
		request.signal?.addEventListener("abort", onAbort);
		const message: KernelRequest = { type: "read", bytes: request.bytes, mesh: request.mesh };
		worker.postMessage(message);
	});
}
