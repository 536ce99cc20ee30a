import type { Result } from "@alvek/core/result";

/** To a worker: one task at a time. */
export type WorkerRequest = { readonly type: "run"; readonly task: string; readonly input: unknown };

/** From a worker. */
export type WorkerReply =
	| { readonly type: "ready" }
	/** How far it is, 0 to 1, and what it is at. */
	| { readonly type: "progress"; readonly done: number; readonly stage: string }
	| { readonly type: "done"; readonly result: Result<unknown> };
