import { fail, ok, type Result } from "@alvek/core/result";
import type { WorkerReply, WorkerRequest } from "./messages";

/** What a worker can do: a plain function that may tell how far it is. It sees no cancelling: that ends its worker. */
export type Task<I, O> = (input: I, tell: (done: number, stage: string) => void) => Result<O> | Promise<Result<O>>;
// biome-ignore lint/suspicious/noExplicitAny: tasks of every input stand in one table; `WorkerTasks.run` types each by its name
export type Tasks = Readonly<Record<string, Task<any, unknown>>>;

/** A thread's own end, or one of a channel in a test. */
export type Port = {
	on(event: "message", listener: (request: WorkerRequest) => void): unknown;
	postMessage(reply: WorkerReply): void;
};

/** Answers requests by the tasks of a worker; the shell of every worker file. */
export function serveTasks(port: Port, tasks: Tasks): void {
	port.on("message", (request) => {
		// never rejects: what a task throws is its answer
		void answer(port, tasks, request).then((result) => port.postMessage({ type: "done", result }));
	});
	port.postMessage({ type: "ready" });
}

async function answer(port: Port, tasks: Tasks, { task, input }: Omit<WorkerRequest, "type">): Promise<Result<unknown>> {
	if (!Object.hasOwn(tasks, task)) return fail({ code: "internal", expected: `one of ${Object.keys(tasks).join(", ")}` });
	try {
		const result = await (tasks[task] as Task<unknown, unknown>)(input, (done, stage) =>
			port.postMessage({ type: "progress", done, stage }),
		);
		return result.ok ? ok(result.value) : result;
	} catch (cause) {
		// the one catch of this boundary: whoever asked reports it and ends this worker
		return fail({ code: "worker-crashed", actual: String(cause).slice(0, 200) });
	}
}
