import {
	API_ROOT,
	fillPath,
	JOB_HEADER,
	type JobRoute,
	type JobView,
	PATHS,
	type RouteInput,
	type RouteName,
	type RouteReply,
	STEPS_HEADER,
	uuid7,
} from "@alvek/contract";
import { fail, type Issue, ok, type Result } from "@alvek/core/result";
import { useLostReplies, useSignedOut } from "../stores/session";

/** Names this page to the server, so that it is not told its own news. */
export const TAB = newId();

/** Changes that were sent and not answered yet; a page that closes now would not know what became of them. */
let pending = 0;
export const pendingChanges = (): number => pending;

/** What came of a request, and the steps that it recorded. */
export type Answered<N extends RouteName> = { readonly result: Result<RouteReply<N>>; readonly steps: readonly string[] };

/** Calls a route of the table. Never throws: an unreachable server is an issue like any other. */
export async function call<N extends RouteName>(
	name: N,
	input: RouteInput<N>,
	signal?: AbortSignal,
): Promise<Result<RouteReply<N>>> {
	return (await send(name, input, signal)).result;
}

/** The same with the steps of the reply; `mutate` asks by them for what changed. */
export async function send<N extends RouteName>(name: N, input: RouteInput<N>, signal?: AbortSignal): Promise<Answered<N>> {
	const { method } = PATHS[name];
	const isGet = method === "GET";
	const { address, present } = addressOf(name, input);
	if (!isGet) pending++;
	try {
		const response = await fetch(address, {
			method,
			...(isGet
				? {}
				: {
						headers: { "Content-Type": "application/json", "X-Alvek-Tab": TAB },
						body: JSON.stringify(Object.fromEntries(present)),
					}),
			...(signal === undefined ? {} : { signal }),
		});
		const steps = (response.headers.get(STEPS_HEADER) ?? "").split(",").filter((s) => s !== "");
		const result = await readReply<RouteReply<N>>(response);
		if (!isGet && !result.ok && result.issues[0]?.code === "unreachable") useLostReplies.setState({ lost: true });
		return { result, steps };
	} catch {
		if (!isGet) useLostReplies.setState({ lost: true });
		return { result: fail({ code: "unreachable" }), steps: [] };
	} finally {
		if (!isGet) pending--;
	}
}

/** Asks for a request to be run as a job of this id; what it answers is asked for when the job has ended. */
export async function sendAsJob<N extends JobRoute>(name: N, input: RouteInput<N>, job: string): Promise<Result<JobView>> {
	const { method } = PATHS[name];
	const { address, present } = addressOf(name, input);
	const headers = { "Content-Type": "application/json", "X-Alvek-Tab": TAB, [JOB_HEADER]: job };
	const body = method === "GET" ? {} : { body: JSON.stringify(Object.fromEntries(present)) };
	try {
		return await readReply<JobView>(await fetch(address, { method, headers, ...body }));
	} catch {
		return fail({ code: "unreachable" });
	}
}

/** The bytes that a route answers with. Never throws either. */
export async function bytesOf<N extends RouteName>(
	name: N,
	input: RouteInput<N>,
	signal?: AbortSignal,
): Promise<Result<ArrayBuffer>> {
	try {
		const response = await fetch(addressOf(name, input).address, signal === undefined ? {} : { signal });
		return response.ok ? ok(await response.arrayBuffer()) : await readReply<ArrayBuffer>(response);
	} catch {
		return fail({ code: "unreachable" });
	}
}

/** Where a route is asked, and what its path does not say: behind the address of a GET, in the body of others. */
function addressOf<N extends RouteName>(name: N, input: RouteInput<N>) {
	const { path, rest } = fillPath(PATHS[name], input as Record<string, unknown>);
	const present = Object.entries(rest).filter(([, v]) => v !== undefined);
	const asked = PATHS[name].method === "GET" && present.length > 0;
	return { address: asked ? `${path}?${new URLSearchParams(present.map(([k, v]) => [k, String(v)]))}` : path, present };
}

async function readReply<T>(response: Response): Promise<Result<T>> {
	const body: unknown = await response.json().catch(() => null);
	if (typeof body === "object" && body !== null && "ok" in body) {
		const result = body as Result<T>;
		if (!result.ok && result.issues[0]?.code === "signed-out") useSignedOut.setState({ out: true });
		return result;
	}
	return fail({ code: "unreachable", actual: response.status });
}

/** Sends a file as the body, with progress; `abort` stops it. */
export function upload(
	path: string,
	file: File,
	onProgress: (share: number) => void,
	signal: AbortSignal,
): Promise<Result<unknown>> {
	return new Promise((resolve) => {
		const request = new XMLHttpRequest();
		request.open("POST", API_ROOT + path);
		request.setRequestHeader("Content-Type", "application/octet-stream");
		request.setRequestHeader("X-Alvek-Tab", TAB);
		request.upload.onprogress = (e) => onProgress(e.total === 0 ? 0 : e.loaded / e.total);
		request.onload = () => {
			try {
				resolve(JSON.parse(request.responseText) as Result<unknown>);
			} catch {
				resolve(fail({ code: "unreachable" }));
			}
		};
		request.onerror = () =>
			resolve(fail({ code: "upload-refused", expected: "a file of at most 200 MB and a server that answers" }));
		request.onabort = () => resolve(fail({ code: "cancelled" }));
		signal.addEventListener("abort", () => request.abort());
		request.send(file);
	});
}

/** Thrown only inside the query library, which knows failure by exceptions; unwrapped again in `useRoute`. */
export class IssueError extends Error {
	constructor(readonly issues: readonly Issue[]) {
		super(issues.map((i) => i.code).join(", "));
	}
}

/** A time-ordered id, made here so that a retry is harmless. */
export function newId(): string {
	return uuid7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));
}
