import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openDatabase } from "../src/db";
import { type FindQuery, MaterialIndex, materialQueries, snapshotIn } from "../src/material-index";
import { newId, type Running, startServer, value } from "./harness";

let server: Running;
beforeAll(async () => {
	server = await startServer();
	for (let n = 0; n < 6; n++) await make(`Sheet ${n}`);
	// the index is kept when a server stops
	server = await server.restart();
});
afterAll(() => server.stop());

async function make(name: string): Promise<string> {
	const id = newId();
	await server.must("createMaterial", { id, libraryId: "own", name, group: "Metals / Sheets" });
	await change(id, "density", null, `${2700 + name.length} kg/m3`);
	await server.publish([id], "first");
	return id;
}

async function change(id: string, property: string, from: unknown, text: string): Promise<void> {
	await server.must("saveDraft", { id, edits: [{ at: property, from, to: value(property, text) }] as never });
}

/** What is found, every way that the table answers. */
async function answers(of: Running): Promise<unknown> {
	const questions = [
		{ sort: "group" },
		{ sort: "changed", dir: "desc" },
		{ sort: "density", where: "density:2600..2707" },
		{ text: "sheet" },
		{ marks: "working" },
		{ group: "Metals / Plates" },
	] as const;
	const found = [];
	for (const question of questions) {
		const { version: _, ...page } = await of.must("findMaterials", question as never);
		found.push(page);
	}
	for (const text of ["sheet 3", "shete", "plate"]) found.push(await of.must("search", { text }));
	return JSON.parse(JSON.stringify(found));
}

/** A server on a copy of the data as they lie on disk now, as after a power cut. */
async function onCopy(
	prepare: (dir: string) => Promise<void> | void = () => undefined,
): Promise<{ found: unknown; made: number }> {
	const dir = mkdtempSync(join(tmpdir(), "alvek-copy-"));
	cpSync(server.dataDir, dir, { recursive: true });
	rmSync(join(dir, "alvek.hold"), { force: true });
	// without facts whatever is read anew makes its own, which can be counted
	const db = await openDatabase(join(dir, "alvek.sqlite"));
	await db.run("DELETE FROM facts");
	await db.close();
	await prepare(dir);
	const copy = await startServer(dir);
	try {
		await copy.installation.ready;
		const count = await copy.installation.db.one<{ n: number }>("SELECT COUNT(*) AS n FROM facts");
		return { found: await answers(copy), made: count?.n ?? 0 };
	} finally {
		await copy.stop();
	}
}

/** The same as the live server finds, with only so many materials read anew. */
async function expectSame(most: number): Promise<void> {
	const live = await answers(server);
	const { found, made } = await onCopy();
	expect(found).toEqual(live);
	expect(made).toBeLessThanOrEqual(most);
	await server.installation.reload();
	expect(await answers(server)).toEqual(live);
}

const all = async (): Promise<number> =>
	(await server.installation.db.one<{ n: number }>("SELECT COUNT(*) AS n FROM revision"))?.n ?? 0;

async function rowsOf(index: MaterialIndex, text: string): Promise<readonly string[]> {
	const ask: FindQuery = {
		text,
		forgiving: false,
		facets: {},
		where: [],
		starred: false,
		today: "2026-11-26",
		reviewPassed: false,
		inUse: false,
		sort: "name",
		descending: false,
		offset: 0,
		limit: 50,
		values: [],
	};
	const page = await materialQueries(server.installation.db, index).find(ask, {
		person: "local",
		libraries: new Set(["own", "sup"]),
	});
	return page.rows.map((r) => `${r.name} ${r.shopName}`);
}

describe("the index of materials", () => {
	it("is taken back at a start, with what changed after it was kept", async () => {
		await expectSame(0);
		const id = await make("Brought in later");
		await expectSame(1);
		await change(id, "youngs_modulus", null, "69 GPa");
		await server.must("changeMaterial", { id: "plate", name: "Plate, renamed", itemCode: "P-1" });
		await server.must("setWorking", { id: "own", materials: ["plate"], on: true });
		await expectSame(2);
		const done = await server.must("manyMaterials", { ids: [id], act: "retire" });
		await expectSame(2);
		await server.must("undo", { event: done.event });
		await server.must("removeMaterial", { id });
		await expectSame(2);
	});

	it("follows groups and own properties of a whole library", async () => {
		server = await server.restart();
		await expectSame(0);
		const groups = (await server.must("getLibrary", { id: "own" })).groupTree;
		const sheets = groups.find((g) => g.name === "Sheets")?.id ?? "";
		await server.must("changeGroup", { id: sheets, name: "Plates" });
		await expectSame(await all());
		expect(await server.must("findMaterials", { group: "Metals / Plates" })).toMatchObject({ total: 6 });
		server = await server.restart();
		const own = { uid: "gloss", name: "Gloss", symbol: "g", siUnit: "1", unit: "1", low: 0, high: null, explanation: "" };
		const { db } = server.installation;
		// what the facts say goes with it, so they go in the same transaction
		await db.run("INSERT INTO own_property (uid, library_id, version, content, changed_at) VALUES ('gloss', 'own', 1, $c, '')", {
			c: JSON.stringify(own),
		});
		const left = await db.all<{ library: string }>(
			"SELECT DISTINCT m.library_id AS library FROM facts f JOIN revision r ON r.id = f.revision_id JOIN material m ON m.id = r.material_id",
		);
		expect(left.map((l) => l.library)).toEqual(["sup"]);
		await expectSame(await all());
	});

	it("is made anew when its file is gone, damaged, cut off or of other data", async () => {
		server = await server.restart();
		const live = await answers(server);
		const harms: readonly ((file: string) => void)[] = [
			(file) => rmSync(file),
			(file) => {
				const bytes = readFileSync(file);
				bytes[bytes.length - 100] = (bytes.at(-100) as number) ^ 1;
				writeFileSync(file, bytes);
			},
			(file) => writeFileSync(file, readFileSync(file).subarray(0, 1000)),
			(file) => writeFileSync(file, ""),
		];
		for (const harm of harms) {
			const { found, made } = await onCopy((dir) => harm(join(dir, "index.table")));
			expect(found).toEqual(live);
			expect(made).toBeGreaterThan(6);
		}
		const older = readFileSync(join(server.dataDir, "index.table"));
		await make("After the older one");
		server = await server.restart();
		const now = await answers(server);
		const { found } = await onCopy((dir) => writeFileSync(join(dir, "index.table"), older));
		expect(found).toEqual(now);
	});

	it("knows, whenever it is kept, what it claims to know, while others go on writing", async () => {
		const ids: string[] = [];
		for (let n = 0; n < 8; n++) ids.push(await make(`Busy ${n}`));
		const { db } = server.installation;
		const file = join(server.dataDir, "beside.table");
		const another = (): MaterialIndex => new MaterialIndex(db, snapshotIn(db, file));
		const kept = another();
		await kept.start();
		let writing = true;
		let written = 0;
		const writer = (async () => {
			for (; writing; written++)
				await server.must("changeMaterial", { id: ids[written % ids.length] as string, shopName: `shop ${written}` });
		})();
		for (let round = 0; round < 8; round++) {
			await kept.keep(0);
			await another().start();
		}
		writing = false;
		await writer;
		expect(written).toBeGreaterThan(8);
		const fresh = new MaterialIndex(db, null);
		await fresh.load();
		const again = another();
		await again.start();
		for (const text of ["busy", "shop", `shop ${written - 1}`, `shop ${written - 9}`])
			expect(await rowsOf(again, text)).toEqual(await rowsOf(fresh, text));
		expect(await rowsOf(again, `shop ${written - 1}`)).toHaveLength(1);
	});

	it("is not taken when the program reads other facts out of a document", async () => {
		const { found, made } = await onCopy(async (dir) => {
			const db = await openDatabase(join(dir, "alvek.sqlite"));
			await db.run("UPDATE index_image SET version = version - 1");
			await db.close();
		});
		expect(found).toEqual(await answers(server));
		expect(made).toBeGreaterThan(6);
	});
});
