import type { JobView, RouteInput, StreamMessage } from "@alvek/contract";
import { fail, type Result } from "@alvek/core/result";

/** What following a job needs of the world. */
export type JobPorts = {
	readonly getJob: (input: RouteInput<"getJob">) => Promise<Result<JobView>>;
	readonly wait: (ms: number) => Promise<void>;
};

const followers = new Map<string, Set<(job: JobView) => void>>();

/** The stream has told something of a job. */
export function tellFollowers(message: StreamMessage): void {
	for (const follower of followers.get(message.id) ?? []) follower(message.data);
}

/** The stream may be away, or a message be missed: now and then the job is asked for all the same. */
const ASK_MS = 5_000;

/**
 * Follows a job to its end by what the stream tells of it. To be called before the job is begun, so that nothing is missed.
 * @returns what waits for the end, and what gives up waiting
 */
export function followJob(
	id: string,
	ports: JobPorts,
	onProgress: (job: JobView) => void,
): { readonly ended: () => Promise<Pick<JobView, "state" | "issues">>; readonly stop: () => void } {
	let end: Pick<JobView, "state" | "issues"> | null = null;
	let wake: () => void = () => undefined;
	const hear = (job: JobView): void => {
		if (job.state === "running") return onProgress(job);
		end = job;
		wake();
	};
	const here = followers.get(id) ?? new Set();
	followers.set(id, here.add(hear));
	const stop = (): void => {
		here.delete(hear);
		if (here.size === 0) followers.delete(id);
	};
	return {
		stop,
		async ended() {
			try {
				while (end === null) {
					const told = new Promise<void>((resolve) => {
						wake = resolve;
					});
					await Promise.race([told, ports.wait(ASK_MS)]);
					if (end !== null) break;
					const job = await ports.getJob({ id });
					if (job.ok) hear(job.value);
					else if (job.issues[0]?.code !== "unreachable") end = { state: "failed", issues: fail(...job.issues).issues };
				}
				return end;
			} finally {
				stop();
			}
		},
	};
}
