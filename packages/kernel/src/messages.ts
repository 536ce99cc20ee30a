import type { Result } from "@alvek/core/result";
import type { StepGeometry } from "./read";

/** To the worker: one file at a time. */
export type KernelRequest = { readonly type: "read"; readonly bytes: Uint8Array; readonly mesh: boolean };

/** From the worker. */
export type KernelReply =
	| { readonly type: "ready" }
	| { readonly type: "progress"; readonly done: number; readonly total: number }
	| { readonly type: "done"; readonly result: Result<StepGeometry> };
