import { createServer, type IncomingMessage, type Server } from "node:http";
import { createClock } from "./clock";
import type { Answer, Device } from "./device";

const MOST_BYTES = 1024 * 1024;

/** All stand-ins in one process, a path for each; `/` lists them. Only this machine reaches them. */
export function createStandIns(devices: readonly Device[] = [createClock()]): Server {
	return createServer((req, res) => {
		void answerOf(devices, req).then(({ status, body }) => {
			res.writeHead(status, { "Content-Type": "application/json" });
			res.end(JSON.stringify(body));
		});
	});
}

async function answerOf(devices: readonly Device[], req: IncomingMessage): Promise<Answer> {
	const [, path = "", ...rest] = new URL(req.url ?? "/", "http://standins").pathname.split("/");
	if (path === "") return { status: 200, body: devices.map((d) => ({ path: `/${d.path}`, about: d.about })) };
	const device = devices.find((d) => d.path === path);
	const nothing: Answer = { status: 404, body: { why: `there is no /${path} here` } };
	if (device === undefined) return nothing;
	const body = await bodyOf(req);
	if (!body.ok) return { status: 400, body: { why: body.why } };
	return device.answer({ method: req.method ?? "GET", rest: rest.join("/"), body: body.value }) ?? nothing;
}

async function bodyOf(req: IncomingMessage): Promise<{ ok: true; value: unknown } | { ok: false; why: string }> {
	const parts: Buffer[] = [];
	let size = 0;
	try {
		for await (const part of req as AsyncIterable<Buffer>) {
			size += part.length;
			if (size > MOST_BYTES) return { ok: false, why: "at most 1 MB" };
			parts.push(part);
		}
		return { ok: true, value: size === 0 ? undefined : JSON.parse(Buffer.concat(parts).toString("utf8")) };
	} catch {
		return { ok: false, why: "JSON is needed" };
	}
}

/** Listens on this port, or on any that is free where it is taken. @returns the address, without a slash at its end */
export function listen(server: Server, port: number): Promise<string> {
	return new Promise((resolve, reject) => {
		server.once("error", (cause: NodeJS.ErrnoException) => {
			if (cause.code === "EADDRINUSE" && port !== 0) resolve(listen(server, 0));
			else reject(cause);
		});
		server.listen(port, "127.0.0.1", () => {
			const address = server.address();
			resolve(`http://127.0.0.1:${typeof address === "object" && address !== null ? address.port : port}`);
		});
	});
}
