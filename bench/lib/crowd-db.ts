import { createHash } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { canonicalJson, type Material, nameKey } from "@alvek/core/material";
import { FACTS_VERSION, factsOf } from "@alvek/core/table";
import { builtWorkers, installLibrary, listen, newContext, openInstallation, scriptToken } from "@alvek/server";
import { madeUp, random } from "./crowd";

/** Materials share this many different documents; making the readiness of each one is another measurement. */
const DOCUMENTS = 2000;

function packed(document: Material): { facts: string; readiness: string } {
	const { readiness, ...facts } = factsOf(document, []);
	return { facts: JSON.stringify(facts), readiness: JSON.stringify(readiness) };
}

/** A running installation with many made-up materials in ten libraries, in a folder of its own. */
export async function crowdInstallation(count: number, webRoot: string | null) {
	const dataDir = mkdtempSync(join(tmpdir(), "alvek-crowd-"));
	const options = {
		dataDir,
		workers: builtWorkers(pathToFileURL(`${process.cwd()}/`)),
		version: "bench",
	};
	const installation = await openInstallation(options);
	const ctx = newContext(installation.db);
	for (let l = 0; l < 10; l++)
		await installLibrary(ctx, { id: `library-${l}`, name: `Library ${l}`, kind: "own", materials: [] });
	const next = random(7);
	const made = Array.from({ length: DOCUMENTS }, (_, i) => madeUp(i, next)).map((m) => {
		const bytes = canonicalJson(m.document);
		return { ...m, bytes, hash: createHash("sha256").update(bytes).digest("hex"), ...packed(m.document) };
	});
	const paths = [...new Set(made.map((m) => m.group))];
	const at = new Date().toISOString();
	await installation.db.transaction(async (sql) => {
		const put = (table: string, columns: string, rows: readonly (readonly unknown[])[]): Promise<void> =>
			sql.run(
				`INSERT INTO ${table} (${columns}) SELECT ${columns
					.split(", ")
					.map((_, i) => `json_extract(value, '$[${i}]')`)
					.join(", ")} FROM json_each($rows)`,
				{ rows: JSON.stringify(rows) },
			);
		await put(
			"document",
			"hash, bytes",
			made.map((m) => [m.hash, m.bytes]),
		);
		const groups = Array.from({ length: 10 }, (_, l) =>
			paths.map((p, g) => [`g-${l}-${g}`, `library-${l}`, null, p.replace(" / ", ", "), g]),
		).flat();
		await put("library_group", "id, library_id, parent_id, name, ord", groups);
		await put("publish", "id, place, actor, note, at, state", [["crowd", "library-0", "local", "made up", at, "done"]]);
		for (let from = 0; from < count; from += 2000) {
			const rows = Array.from({ length: Math.min(2000, count - from) }, (_, k) => ({
				i: from + k,
				m: made[(from + k) % DOCUMENTS] as (typeof made)[number],
			}));
			await put(
				"material",
				"id, uid, library_id, group_id, name, name_key, item_code, owner, changed_at",
				rows.map(({ i, m }) => {
					const name = `${m.name} ${i}`;
					return [
						`m${i}`,
						`u${i}`,
						`library-${i % 10}`,
						`g-${i % 10}-${paths.indexOf(m.group)}`,
						name,
						nameKey(name),
						`C-${i}`,
						"local",
						at,
					];
				}),
			);
			await put(
				"revision",
				"id, material_id, no, publish_id, document_hash",
				rows.map(({ i, m }) => [`r${i}`, `m${i}`, 1, "crowd", m.hash]),
			);
			await put(
				"facts",
				"revision_id, version, bytes, readiness",
				rows.map(({ i, m }) => [`r${i}`, FACTS_VERSION, m.facts, m.readiness]),
			);
		}
		return { commit: true, value: null };
	});
	// the index follows what was written by itself; reading all of it anew is timed apart from that
	await installation.services.json.findMaterials(ctx, { limit: "1" });
	const started = performance.now();
	await installation.reload();
	const loadMs = Math.round(performance.now() - started);
	const { server } = await listen(installation, { port: 0, host: "127.0.0.1", webRoot, hostNames: [], log: "silent" });
	return {
		installation,
		loadMs,
		/** Whoever shows these is the first person. */
		headers: { Authorization: `Bearer ${await scriptToken(ctx)}` },
		base: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
		dataDir,
		/** The data stay. */
		async stop() {
			server.close();
			server.closeAllConnections();
			await installation.close();
		},
		async close() {
			await this.stop();
			rmSync(dataDir, { recursive: true, force: true });
		},
	};
}
