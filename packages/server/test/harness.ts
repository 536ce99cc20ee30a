import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fillPath, ROUTES, type RouteInput, type RouteName, type RouteReply, uuid7 } from "@alvek/contract";
import { BLANK, type Material, type MaterialValue, makeValue } from "@alvek/core/material";
import type { Issue, Result } from "@alvek/core/result";
import { type Installation, installLibrary, listen, newContext, openInstallation } from "../src/index";

export const root = new URL("../../../", import.meta.url);
export const fixture = (name: string): Buffer => readFileSync(new URL(`fixtures/${name}`, root));
export const newId = (): string => uuid7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));

export function value(property: string, text: string, extra: Partial<MaterialValue> = {}): MaterialValue {
	const made = makeValue(property, property, text, {}, { evidence: "measured", ...extra });
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}

export function material(...values: MaterialValue[]): Material {
	return { ...BLANK, family: "metal.aluminium", values: Object.fromEntries(values.map((v) => [v.id, v])) };
}

export type Client = {
	call<N extends RouteName>(name: N, input: RouteInput<N>): Promise<Result<RouteReply<N>>>;
	/** The value, or a failure with the issues in its message. */
	must<N extends RouteName>(name: N, input: RouteInput<N>): Promise<RouteReply<N>>;
	/** The code of the issue that is expected. */
	refused<N extends RouteName>(name: N, input: RouteInput<N>): Promise<string>;
	raw(path: string, init?: RequestInit): Promise<Response>;
	upload(project: string, file: string, bytes: Uint8Array): Promise<Result<unknown>>;
	/** Uploads and follows the job to its end. */
	importFile(project: string, file: string, bytes: Uint8Array): Promise<{ state: string; issues: readonly Issue[] }>;
};

export function client(base: string): Client {
	const call: Client["call"] = async (name, input) => {
		const route = ROUTES[name];
		const { path, rest } = fillPath(route, input as Record<string, unknown>);
		const isGet = route.method === "GET";
		const query = isGet ? `?${new URLSearchParams(rest as Record<string, string>)}` : "";
		const init = isGet ? {} : { headers: { "Content-Type": "application/json" }, body: JSON.stringify(rest) };
		const response = await fetch(base + path + query, { method: route.method, ...init });
		return (await response.json()) as never;
	};
	const must: Client["must"] = async (name, input) => {
		const result = await call(name, input);
		if (!result.ok) throw new Error(`${name}: ${JSON.stringify(result.issues)}`);
		return result.value;
	};
	const upload: Client["upload"] = async (project, file, bytes) => {
		const path = `/api/v1/projects/${project}/geometry?${new URLSearchParams({ file, job: newId() })}`;
		const response = await fetch(base + path, {
			method: "POST",
			headers: { "Content-Type": "application/octet-stream" },
			body: bytes as never,
		});
		return (await response.json()) as Result<unknown>;
	};
	return {
		call,
		must,
		upload,
		async refused(name, input) {
			const result = await call(name, input);
			return result.ok ? "ok" : (result.issues[0]?.code ?? "");
		},
		raw: (path, init) => fetch(base + path, init),
		async importFile(project, file, bytes) {
			const sent = await upload(project, file, bytes);
			if (!sent.ok) return { state: "refused", issues: sent.issues };
			const { id } = sent.value as { id: string };
			for (;;) {
				const job = await must("getJob", { id });
				if (job.state !== "running") return job;
				await new Promise((resolve) => setTimeout(resolve, 30));
			}
		},
	};
}

export type Running = Client & {
	readonly installation: Installation;
	readonly dataDir: string;
	readonly base: string;
	stop(): Promise<void>;
	restart(): Promise<Running>;
};

/** A server of its own on a free port, with an own and a supplied library. */
export async function startServer(dataDir = mkdtempSync(join(tmpdir(), "alvek-api-"))): Promise<Running> {
	const installation = await openInstallation({
		dataDir,
		kernelWorker: new URL("packages/kernel/dist/worker.js", root),
		version: "test",
	});
	if ((await installation.db.one("SELECT 1 AS x FROM library")) === null) await fill(installation);
	const { server, port } = await listen(installation, { port: 0, host: "127.0.0.1", webRoot: null, hostNames: [], quiet: true });
	const base = `http://127.0.0.1:${port}`;
	const stop = async (): Promise<void> => {
		server.close();
		server.closeAllConnections();
		await installation.close();
	};
	return {
		...client(base),
		installation,
		dataDir,
		base,
		async stop() {
			await stop();
			rmSync(dataDir, { recursive: true, force: true });
		},
		async restart() {
			await stop();
			return startServer(dataDir);
		},
	};
}

async function fill(installation: Installation): Promise<void> {
	const ctx = newContext(installation.db);
	const one = (id: string, name: string, document: Material) => ({
		id,
		name,
		group: "Metals / Aluminium",
		itemCode: "",
		shopName: "",
		origin: null,
		revisions: [{ note: "first", document }],
	});
	const base = material(value("density", "2.70 g/cm3"), value("youngs_modulus", "69.5 GPa"), value("poissons_ratio", "0.33"));
	for (const library of [
		{ id: "own", name: "Own", kind: "own" as const, materials: [one("plate", "Plate 21", base)] },
		{
			id: "sup",
			name: "Supplied",
			kind: "supplied" as const,
			materials: [one("bar", "Bar 7", material(value("density", "2.71 g/cm3")))],
		},
	]) {
		const result = await installLibrary(ctx, library);
		if (!result.ok) throw new Error(JSON.stringify(result.issues));
	}
	await installation.reload();
}
