import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fillPath, type RouteInput, type RouteName, type RouteReply, uuid7 } from "@alvek/contract";
import { ROUTES } from "@alvek/contract/routes";
import { BLANK, firstValue, type Material, type MaterialValue, makeValue, type NumberValue } from "@alvek/core/material";
import type { Issue, Result } from "@alvek/core/result";
import { builtWorkers, type Installation, installLibrary, listen, newContext, openInstallation, scriptToken } from "../src/index";
import { openLock } from "../src/libraries";
import { ENGINES, type Place } from "./engines";

export const root = new URL("../../../", import.meta.url);
export const fixture = (name: string): Buffer => readFileSync(new URL(`fixtures/${name}`, root));
export const newId = (): string => uuid7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));

export function value(property: string, text: string, extra: Partial<NumberValue> = {}): NumberValue {
	const made = makeValue(property, text, {}, { evidence: "measured", ...extra });
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}

/** The low end of a number, SI. */
export const lowOf = (document: Material, id: string): number | null | undefined => firstValue(document, id)?.low;

export function material(...values: MaterialValue[]): Material {
	return { ...BLANK, family: "metal.aluminium", values: Object.fromEntries(values.map((v) => [v.id, v])) };
}

export type Client = {
	call<N extends RouteName>(name: N, input: RouteInput<N>): Promise<Result<RouteReply<N>>>;
	/** The value, or a failure with the issues in its message. */
	must<N extends RouteName>(name: N, input: RouteInput<N>): Promise<RouteReply<N>>;
	/** The code of the issue that is expected. */
	refused<N extends RouteName>(name: N, input: RouteInput<N>): Promise<string>;
	/** Publishes drafts of this client's as the plan shows them now. */
	publish(ids: readonly string[], note: string): Promise<RouteReply<"publishDrafts">>;
	raw(path: string, init?: RequestInit): Promise<Response>;
	upload(project: string, file: string, bytes: Uint8Array): Promise<Result<unknown>>;
	/** Uploads and follows the job to its end. */
	importFile(project: string, file: string, bytes: Uint8Array): Promise<{ state: string; issues: readonly Issue[] }>;
};

/** A client that shows these headers; without them nobody has signed in. */
export function client(base: string, who: Readonly<Record<string, string>> = {}): Client {
	const call: Client["call"] = async (name, input) => {
		const route = ROUTES[name];
		const { path, rest } = fillPath(route, input as Record<string, unknown>);
		const isGet = route.method === "GET";
		const query = isGet ? `?${new URLSearchParams(rest as Record<string, string>)}` : "";
		const init = isGet
			? { headers: who }
			: { headers: { ...who, "Content-Type": "application/json" }, body: JSON.stringify(rest) };
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
			headers: { ...who, "Content-Type": "application/octet-stream" },
			body: bytes as never,
		});
		return (await response.json()) as Result<unknown>;
	};
	return {
		call,
		must,
		upload,
		async publish(ids, note) {
			const plan = await must("publishPlan", { ids: [...ids] });
			return must("publishDrafts", { items: plan.materials.map(({ id, hash }) => ({ id, hash })), note });
		},
		async refused(name, input) {
			const result = await call(name, input);
			return result.ok ? "ok" : (result.issues[0]?.code ?? "");
		},
		raw: (path, init) => fetch(base + path, { ...init, headers: { ...who, ...(init?.headers as Record<string, string>) } }),
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
	/** What a service's stop does: nothing new, everything begun is answered, streams end. */
	drain(): Promise<void>;
	stop(): Promise<void>;
	restart(): Promise<Running>;
};

/** Databases beside data folders, where these tests run on another engine than the one in a file. */
const databases = new Map<string, Place>();

async function databaseOf(dataDir: string): Promise<{ database?: string }> {
	if (process.env.ALVEK_TEST_ENGINE !== "PostgreSQL") return {};
	const place = databases.get(dataDir) ?? (await ENGINES.find((e) => e.name === "PostgreSQL")?.place());
	if (place === undefined) throw new Error("PostgreSQL is not installed");
	databases.set(dataDir, place);
	return { database: place.address };
}

/** A server of its own on a free port, with an own and a supplied library. */
export async function startServer(dataDir = mkdtempSync(join(tmpdir(), "alvek-api-"))): Promise<Running> {
	const installation = await openInstallation({
		dataDir,
		...(await databaseOf(dataDir)),
		workers: builtWorkers(root),
		version: "test",
	});
	if ((await installation.db.one("SELECT 1 AS x FROM library")) === null) await fill(installation);
	const {
		server,
		port,
		stop: drain,
	} = await listen(installation, {
		port: 0,
		host: "127.0.0.1",
		webRoot: null,
		hostNames: [],
		log: "silent",
		// tests ask faster than any person
		fairShare: 1_000_000,
	});
	const base = `http://127.0.0.1:${port}`;
	const stop = async (): Promise<void> => {
		server.close();
		server.closeAllConnections();
		await installation.close();
	};
	return {
		...client(base, await tokenOf(installation, "local")),
		installation,
		dataDir,
		base,
		drain,
		async stop() {
			await stop();
			await databases.get(dataDir)?.remove();
			databases.delete(dataDir);
			rmSync(dataDir, { recursive: true, force: true });
		},
		async restart() {
			await stop();
			return startServer(dataDir);
		},
	};
}

/** The header of a script of this person's. */
export async function tokenOf(installation: Pick<Installation, "db">, person: string): Promise<{ Authorization: string }> {
	const secret = await scriptToken({ ...newContext(installation.db), actor: { person, admin: false } });
	return { Authorization: `Bearer ${secret}` };
}

/** The headers of a browser in which this person of the demo has signed in. */
export async function signedIn(base: string, person: string): Promise<{ Cookie: string; Origin: string }> {
	const body = JSON.stringify({ person });
	const headers = { "Content-Type": "application/json", Origin: base };
	const reply = await fetch(`${base}/api/v1/session/demo`, { method: "POST", headers, body });
	return { Cookie: reply.headers.get("set-cookie")?.split(";")[0] ?? "", Origin: base };
}

/** A person with a role in the libraries, and a client of theirs. */
export async function personWith(server: Running, person: string, roles: Readonly<Record<string, string>>): Promise<Client> {
	const { db } = server.installation;
	await db.run("INSERT INTO person (id, name, initials) VALUES ($person, $person, 'P')", { person });
	for (const [target, role] of Object.entries(roles)) {
		const kind = ["reader", "editor", "steward"].includes(role) && !target.startsWith("project:") ? "library" : "project";
		await setRole(server, person, kind, target.replace("project:", ""), role);
	}
	return client(server.base, await tokenOf(server.installation, person));
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
	// tests that bring in more people go on publishing as the first one
	await openLock(ctx, { id: "own" });
}

/** Gives a person a role on a library, set or project, or (null) takes it away, without an event. */
export async function setRole(server: Running, person: string, kind: string, target: string, role: string | null): Promise<void> {
	const { db } = server.installation;
	const where = "subject = $person AND kind = $kind AND target = $target";
	await db.run(`DELETE FROM access_grant WHERE ${where}`, { person, kind, target });
	if (role === null) return;
	await db.run(
		"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $person, $kind, $target, $role)",
		{ person, kind, target, role },
	);
}
