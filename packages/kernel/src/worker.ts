import { parentPort } from "node:worker_threads";
import { fail } from "@alvek/core/result";
import type { KernelReply, KernelRequest } from "./messages";
import { bootKernel } from "./occ";
import { readStepFile } from "./read";

const port = parentPort;
if (port === null) throw new Error("the kernel worker is started as a worker thread");
const post = (reply: KernelReply): void => port.postMessage(reply);

const occ = await bootKernel();
post({ type: "ready" });

port.on("message", (request: KernelRequest) => {
	try {
		const report = (done: number, total: number): void => post({ type: "progress", done, total });
		post({ type: "done", result: readStepFile(occ, request.bytes, { mesh: request.mesh }, report) });
	} catch (cause) {
		// the one catch of this boundary: a crash inside the kernel becomes an issue, and the owner ends this worker
		post({ type: "done", result: fail({ code: "kernel-crashed", actual: String(cause).slice(0, 200) }) });
	}
});
