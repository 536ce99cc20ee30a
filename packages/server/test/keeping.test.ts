import { spawnSync } from "node:child_process";
import { copyFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gunzipSync, gzipSync } from "node:zlib";
import { describeIssue } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { backUp, restore, verify } from "../src/backup";
import { faultOf, openDatabase } from "../src/db";
import { builtWorkers, openInstallation } from "../src/index";
import { fixture, newId, type Running, root, startServer, value } from "./harness";

/** What backups, restoring and verifying promise, against a running installation and its files. */
let api: Running;
const place = mkdtempSync(join(tmpdir(), "alvek-keeping-"));
const at = "2026-11-26T01:02:03.000Z";

/** Every revision with the hash of its content: what a restore has to bring back unchanged. */
async function revisionsIn(dataDir: string): Promise<readonly string[]> {
	const db = await openDatabase(join(dataDir, "alvek.sqlite"));
	const rows = await db.all<{ line: string }>("SELECT id || ' ' || no || ' ' || document_hash AS line FROM revision ORDER BY id");
	await db.close();
	return rows.map((r) => r.line);
}

/** The sentence that a person reads when this fails. */
async function complaint(work: Promise<unknown>): Promise<string> {
	const cause = await work.then(
		() => null,
		(e: unknown) => e,
	);
	const fault = faultOf(cause);
	return fault === null ? `no fault: ${String(cause)}` : describeIssue(fault);
}

beforeAll(async () => {
	api = await startServer();
	const id = newId();
	await api.must("createMaterial", { id, libraryId: "own", name: "Kept sheet" });
	await api.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", "2.71 g/cm3") }] });
	await api.publish([id], "first");
	const project = newId();
	await api.must("createProject", { id: project, name: "Kept" });
	await api.importFile(project, "mount.step", fixture("mount.step"));
});
afterAll(async () => {
	await api.stop();
	rmSync(place, { recursive: true, force: true });
});

describe("a backup", () => {
	it("made while people write, restored into an empty folder, holds every revision by the same hash", async () => {
		let writing = true;
		const ids: string[] = [];
		const work = (async () => {
			while (writing) {
				const id = newId();
				await api.must("createMaterial", { id, libraryId: "own", name: `Written meanwhile ${ids.length}` });
				await api.must("saveDraft", { id, edits: [{ at: "density", from: null, to: value("density", "7.85 g/cm3") }] });
				await api.publish([id], "on");
				ids.push(id);
			}
		})();
		while (ids.length < 3) await new Promise((r) => setTimeout(r, 5));
		const before = await revisionsIn(api.dataDir);
		const file = join(place, "under-load.tar.gz");
		const { manifest } = await backUp(api.dataDir, file, at);
		writing = false;
		await work;
		expect(manifest.blobs.length).toBe(2);
		const target = join(place, "empty");
		expect((await restore(target, file, at)).replaced).toBeNull();
		const restored = await revisionsIn(target);
		const after = await revisionsIn(api.dataDir);
		// the database as it was at one moment of the load: nothing of before is missing, nothing is in it that never was
		expect(restored).toEqual(expect.arrayContaining([...before]));
		expect(after).toEqual(expect.arrayContaining([...restored]));
		expect((await verify(target)).wrong).toEqual([]);
		// and it is served again
		const again = await startServer(target);
		expect((await again.must("listProjects", {})).map((p) => p.name)).toEqual(["Kept"]);
		await again.stop();
	});

	it("is an ordinary tar with a manifest of checksums first", async () => {
		const file = join(place, "plain.tar.gz");
		const { manifest } = await backUp(api.dataDir, file, at);
		const listed = spawnSync("tar", ["-tzf", file], { encoding: "utf8" }).stdout.trim().split("\n");
		expect(listed).toEqual(["manifest.json", "alvek.sqlite", ...manifest.blobs.map((b) => `blobs/${b.hash}`), "manifest.sha256"]);
		expect(readdirSync(place).filter((n) => n.startsWith("plain"))).toEqual(["plain.tar.gz"]);
	});

	it("that is cut short, changed anywhere or something else is refused, and the data stay as they are", async () => {
		const file = join(place, "good.tar.gz");
		await backUp(api.dataDir, file, at);
		const target = join(place, "target");
		await restore(target, file, at);
		const before = await revisionsIn(target);
		const tar = gunzipSync(readFileSync(file));
		const bad = join(place, "bad.tar.gz");
		const refused = async (bytes: Buffer): Promise<string> => {
			writeFileSync(bad, bytes);
			const said = await complaint(restore(target, bad, at));
			expect(await revisionsIn(target)).toEqual(before);
			expect(existsSync(join(target, "restoring"))).toBe(false);
			return said;
		};
		expect(await refused(readFileSync(file).subarray(0, 5000))).toContain("is not a whole backup");
		expect(await refused(gzipSync(tar.subarray(0, Math.floor(tar.length / 1024 / 2) * 512)))).toContain("is not a whole backup");
		expect(await refused(Buffer.from("ISO-10303-21; of something else"))).toContain("cannot be read");
		for (const where of [0.2, 0.5, 0.9]) {
			const changed = Buffer.from(tar);
			const place_ = Math.floor(changed.length * where);
			changed[place_] = (changed[place_] as number) ^ 0x40;
			expect(await refused(gzipSync(changed))).toContain("is not a whole backup");
		}
		expect(await complaint(restore(target, join(place, "nowhere.tar.gz"), at))).toContain("there is no such file");
	});

	it("is never put under a running server, and what it replaces is kept", async () => {
		const file = join(place, "over.tar.gz");
		await backUp(api.dataDir, file, at);
		expect(await complaint(restore(api.dataDir, file, at))).toContain("Another Alvek is running");
		const target = join(place, "over");
		await restore(target, file, at);
		const { replaced } = await restore(target, file, "2026-11-27T00:00:00.000Z");
		expect(replaced).toBe(join(target, "replaced-2026-11-27T00-00-00Z"));
		expect(await revisionsIn(replaced as string)).toEqual(await revisionsIn(target));
		expect((await verify(replaced as string)).wrong).toEqual([]);
	});

	it("broken off while it was put in place: the server does not start on the half, restoring again mends it", async () => {
		const file = join(place, "half.tar.gz");
		await backUp(api.dataDir, file, at);
		const target = join(place, "half");
		await restore(target, file, at);
		// as a kill leaves it: everything checked, the old database moved aside, the new one not yet in
		const { mkdirSync, renameSync } = await import("node:fs");
		mkdirSync(join(target, "restoring"));
		writeFileSync(join(target, "restoring/ready"), "");
		renameSync(join(target, "alvek.sqlite"), join(target, "aside.sqlite"));
		const open = (): Promise<unknown> => openInstallation({ dataDir: target, workers: builtWorkers(root), version: "test" });
		expect(await complaint(open())).toContain("was broken off");
		expect(existsSync(join(target, "alvek.sqlite"))).toBe(false);
		await restore(target, file, "2026-11-28T00:00:00.000Z");
		expect((await verify(target)).wrong).toEqual([]);
	});
});

describe("verifying", () => {
	/** A restored copy to be damaged. */
	async function copy(name: string): Promise<string> {
		const file = join(place, `${name}.tar.gz`);
		await backUp(api.dataDir, file, at);
		const target = join(place, name);
		await restore(target, file, at);
		return target;
	}

	it("derived rows are made anew from the documents", async () => {
		const target = await copy("derived");
		const db = await openDatabase(join(target, "alvek.sqlite"));
		await db.run("UPDATE facts SET bytes = CAST('{}' AS BLOB)");
		await db.close();
		const { wrong, rebuilt, revisions } = await verify(target);
		expect(wrong).toEqual([]);
		expect(rebuilt).toBe(revisions);
		const again = await openDatabase(join(target, "alvek.sqlite"));
		const blank = await again.one<{ n: number }>("SELECT COUNT(*) AS n FROM facts WHERE bytes = CAST('{}' AS BLOB)");
		expect(blank?.n).toBe(0);
		await again.close();
	});

	it("names a document, a reference and a file that are not what they were", async () => {
		const target = await copy("wrong");
		const db = await openDatabase(join(target, "alvek.sqlite"));
		const [document] = await db.all<{ hash: string }>("SELECT hash FROM document LIMIT 1");
		await db.run(
			"UPDATE document SET bytes = CAST(replace(CAST(bytes AS TEXT), 'measured', 'standard') || ' ' AS BLOB) WHERE hash = $hash",
			{
				hash: document?.hash ?? "",
			},
		);
		await db.run("UPDATE revision SET no = 7 WHERE rowid = (SELECT MIN(rowid) FROM revision)");
		const [blob, other] = await db.all<{ hash: string }>("SELECT hash FROM blob");
		await db.close();
		const pathOf = (hash = ""): string => join(target, "blobs", hash.slice(0, 2), hash);
		truncateSync(pathOf(blob?.hash), 100);
		rmSync(pathOf(other?.hash));
		const { wrong } = await verify(target);
		expect(wrong.join("\n")).toContain(`document ${document?.hash.slice(0, 12)} is not what was published`);
		expect(wrong.join("\n")).toContain("has a gap in its revisions");
		expect(wrong.join("\n")).toContain(`file ${blob?.hash.slice(0, 12)} is damaged`);
		expect(wrong.join("\n")).toContain(`file ${other?.hash.slice(0, 12)} is missing`);
		expect(wrong.length).toBe(4);
		// such files are not backed up as if they were whole
		expect(await complaint(backUp(target, join(place, "never.tar.gz"), at))).toMatch(/damaged|missing/);
		expect(existsSync(join(place, "never.tar.gz"))).toBe(false);
	});

	it("a damaged page: verify says so, no backup is made of it, nothing is written any more, reading goes on", async () => {
		const target = await copy("page");
		const path = join(target, "alvek.sqlite");
		const db = await openDatabase(path);
		const page = await db.one<{ rootpage: number; size: number }>(
			"SELECT rootpage, (SELECT page_size FROM pragma_page_size) AS size FROM sqlite_master WHERE name = 'edition'",
		);
		await db.close();
		const bytes = readFileSync(path);
		bytes.fill(0xa5, ((page?.rootpage ?? 0) - 1) * (page?.size ?? 0), (page?.rootpage ?? 0) * (page?.size ?? 0));
		writeFileSync(path, bytes);
		copyFileSync(path, join(place, "as-damaged.sqlite"));
		expect((await verify(target)).wrong[0]).toContain("The database is damaged");
		expect(await complaint(backUp(target, join(place, "page-backup.tar.gz"), at))).toContain("The database is damaged");
		expect(readFileSync(path).equals(readFileSync(join(place, "as-damaged.sqlite")))).toBe(true);

		const server = await startServer(target);
		const made = await server.call("freezeEdition", { id: "own", note: "into damage" });
		expect(made.ok ? "" : made.issues.map(describeIssue).join()).toContain(
			"The database is damaged, so nothing is written any more",
		);
		const refused = await server.call("createProject", { id: newId(), name: "Again" });
		expect(refused.ok ? "" : refused.issues[0]?.code).toBe("database-damaged");
		const health = await server.raw("/api/health");
		expect([health.status, await health.json()]).toEqual([503, expect.objectContaining({ ok: false, database: "damaged" })]);
		expect((await server.must("listProjects", {})).map((p) => p.name)).toEqual(["Kept"]);
		await server.stop();
	});

	it("data of a newer version are left alone by server, verify and restore", async () => {
		const target = await copy("newer");
		const db = await openDatabase(join(target, "alvek.sqlite"));
		await db.run("INSERT INTO migration (name) VALUES ('999-from-the-future')");
		await db.close();
		const before = readFileSync(join(target, "alvek.sqlite"));
		await expect(
			complaint(openInstallation({ dataDir: target, workers: builtWorkers(root), version: "test" })),
		).resolves.toContain("written by a newer Alvek (it knows 999-from-the-future");
		expect(await complaint(verify(target))).toContain("newer Alvek");
		const file = join(place, "future.tar.gz");
		await backUp(target, file, at);
		expect(await complaint(restore(join(place, "past"), file, at))).toContain("newer Alvek");
		expect(readFileSync(join(target, "alvek.sqlite")).equals(before)).toBe(true);
	});
});

describe("an archive or a folder of somebody else", () => {
	/** A copy of the data with a change made straight in its database. */
	async function changed(name: string, statements: readonly string[]): Promise<string> {
		const dir = join(place, name);
		const file = join(place, `${name}.whole.tar.gz`);
		await backUp(api.dataDir, file, at);
		await restore(dir, file, at);
		const db = await openDatabase(join(dir, "alvek.sqlite"));
		for (const statement of statements) await db.run(statement);
		await db.close();
		return dir;
	}
	const TRIGGER = "CREATE TRIGGER gift AFTER INSERT ON facts BEGIN UPDATE person SET admin = 1; END";

	it("with a trigger, a view or a table that is not ours is refused, and nothing of it is run", async () => {
		for (const [name, statement, says] of [
			["trigger", TRIGGER, "the trigger gift was added"],
			["view", "CREATE VIEW extra AS SELECT 1 AS x", "the view extra was added"],
			["dropped", "DROP TRIGGER group_tree_insert", "the trigger group_tree_insert is missing"],
		] as const) {
			const dir = await changed(`foreign-${name}`, [statement]);
			const { wrong, rebuilt } = await verify(dir);
			expect(wrong.join(" "), name).toContain(says);
			expect(rebuilt).toBe(0);
			const file = join(place, `foreign-${name}.tar.gz`);
			await backUp(dir, file, at);
			const target = join(place, `into-${name}`);
			expect(await complaint(restore(target, file, at)), name).toContain(says);
			// nothing is left of the try, not even the folder that was made for it
			expect(existsSync(target), name).toBe(false);
		}
	});

	it("whose database is none, or another program's, ends in a sentence and leaves nothing behind", async () => {
		const foreign = join(place, "foreign.sqlite");
		const db = await openDatabase(foreign);
		await db.run("CREATE TABLE notes (text TEXT)");
		await db.run("PRAGMA journal_mode=DELETE");
		await db.close();
		for (const [name, bytes] of [
			["noise", Buffer.from("this is no database at all".repeat(200))],
			["empty", Buffer.alloc(0)],
			["foreign", readFileSync(foreign)],
		] as const) {
			const file = join(place, `${name}.tar.gz`);
			await archiveOf(file, bytes);
			const target = join(place, `into-${name}`);
			expect(await complaint(restore(target, file, at)), name).toContain("is not a whole backup of Alvek");
			expect(existsSync(target), name).toBe(false);
		}
	});

	it("groups that were stored as a loop are survived by a start, and mended by verify", async () => {
		const trigger = "group_tree_update";
		const dir = await changed("looped", []);
		const db = await openDatabase(join(dir, "alvek.sqlite"));
		const [{ sql = "" } = {}] = await db.all<{ sql: string }>("SELECT sql FROM sqlite_master WHERE name = $name", {
			name: trigger,
		});
		await db.run(`DROP TRIGGER ${trigger}`);
		const groups = await db.all<{ id: string }>("SELECT id FROM library_group WHERE library_id = 'own' LIMIT 2");
		const [a, b] = groups.map((g) => g.id) as [string, string];
		await db.run("UPDATE library_group SET parent_id = $b WHERE id = $a", { a, b });
		await db.run("UPDATE library_group SET parent_id = $a WHERE id = $b", { a, b });
		await db.run(sql);
		await db.close();
		const started = await startServer(dir);
		expect((await started.must("listLibraries", {})).length).toBeGreaterThan(0);
		expect((await started.must("findMaterials", { sort: "group" })).total).toBeGreaterThan(0);
		await started.installation.close();
		const first = await verify(dir);
		expect(first.wrong).toEqual([]);
		expect(first.mended).toHaveLength(2);
		expect(first.mended[0]).toContain("stood under itself");
		expect((await verify(dir)).mended).toEqual([]);
	});

	/** A well-formed archive around any bytes. */
	async function archiveOf(file: string, database: Buffer): Promise<void> {
		const { pack } = await import("tar-stream");
		const { createHash } = await import("node:crypto");
		const sum = (bytes: string | Buffer): string => createHash("sha256").update(bytes).digest("hex");
		const manifest = JSON.stringify({
			format: "alvek-backup",
			version: 1,
			at,
			schema: "001",
			database: { size: database.length, sha256: sum(database) },
			blobs: [],
		});
		const tar = pack();
		tar.entry({ name: "manifest.json" }, manifest);
		tar.entry({ name: "alvek.sqlite" }, database);
		tar.entry({ name: "manifest.sha256" }, sum(manifest));
		tar.finalize();
		const chunks: Buffer[] = [];
		for await (const chunk of tar) chunks.push(chunk as Buffer);
		writeFileSync(file, gzipSync(Buffer.concat(chunks)));
	}
});
