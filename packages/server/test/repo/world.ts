import { BLANK, type Material, makeValue } from "@alvek/core/material";
import { afterAll, beforeAll, describe } from "vitest";
import type { Context, Db, Sql } from "../../src/db";
import * as repo from "../../src/repo";
import { ENGINES, freshDatabase } from "../engines";

/** A document with this density, in kg/m3. */
export function dense(density: number, more: Partial<Material> = {}): Material {
	const made = makeValue("density", `${density} kg/m3`, {}, { evidence: "measured" });
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return { ...BLANK, family: "metal.steel", values: { density: made.value }, ...more };
}

/** Where tests of repositories stand: two people, a team, two libraries, three materials, a project with two parts. */
export async function makeWorld(db: Db) {
	let n = 0;
	let clock = Date.UTC(2026, 10, 1);
	const ctx: Context = {
		db,
		actor: { person: "local", admin: true },
		now: () => new Date(clock++).toISOString(),
		newId: () => `id-${String(++n).padStart(6, "0")}`,
	};
	/** In one transaction that is kept. */
	const write = <T>(work: (sql: Sql) => Promise<T>): Promise<T> =>
		db.transaction(async (sql) => ({ commit: true, value: await work(sql) }));

	await write(async (sql) => {
		await repo.insertPerson(sql, { id: "mira", name: "Mira Sund", initials: "MS", login: "mira", admin: 0 });
		await repo.putTeam(sql, { id: "winch", name: "Winch team" }, ["mira", "gone"]);
		await repo.insertLibrary(ctx, sql, { id: "own", name: "Bench", kind: "own", description: "ours" }, "steward");
		await repo.insertLibrary(ctx, sql, { id: "sup", name: "aft supplies", kind: "supplied", uid: "U-1" }, "reader");
		const bronze = await repo.ensureGroup(ctx, sql, "own", "Metals / Bronze");
		await repo.insertMaterial(ctx, sql, {
			id: "a",
			place: "own",
			group: bronze,
			name: "Ärla 4",
			originKind: null,
			originRevision: null,
			itemCode: "C-1",
		});
		await repo.insertMaterial(ctx, sql, {
			id: "b",
			place: "own",
			group: null,
			name: "bolt steel",
			originKind: null,
			originRevision: null,
		});
		const publish = await repo.openPublish(ctx, sql, { place: "own", note: " first " });
		await repo.insertRevision(ctx, sql, { material: "a", publish, document: dense(8800) });
		await repo.insertRevision(ctx, sql, {
			material: "a",
			publish: await repo.openPublish(ctx, sql, { place: "own", note: "second" }),
			document: dense(8810),
		});
		await repo.insertRevision(ctx, sql, { material: "b", publish, document: dense(7850) });
		await repo.insertProject(ctx, sql, { id: "p", name: "Winch" });
		await repo.insertGeometryRows(sql, {
			project: "p",
			file: "drum.step",
			hash: "f".repeat(64),
			size: 10,
			meshHash: "e".repeat(64),
			meshSize: 20,
			leftOut: "[]",
			at: ctx.now(),
			parts: [
				{ id: "drum", key: "k:0", product: 0, name: "Drum", productId: "D-1", colour: null, ord: 0 },
				{ id: "pin", key: "k:1", product: 1, name: "Pin", productId: "P-1", colour: "#ff0000", ord: 1 },
			],
			bodies: [
				{ part: "drum", n: 0, name: "Drum", volume: 0.1 + 0.2, area: 1.25, centroid: "[0,0,0]", inertia: "[]", doubt: null },
				{
					part: "pin",
					n: 0,
					name: "Pin",
					volume: 1e-7 / 3,
					area: 2e-5,
					centroid: "[0,0,1]",
					inertia: "[]",
					doubt: '{"why":"open"}',
				},
			],
			occurrences: [
				{ id: "top", part: null, parent: null, name: "Top", path: "Top", matrix: "[]", ord: 0 },
				{ id: "o1", part: "drum", parent: "top", name: "Drum", path: "Top/Drum", matrix: "[]", ord: 1 },
				{ id: "o2", part: "pin", parent: "top", name: "Pin 1", path: "Top/Pin 1", matrix: "[]", ord: 2 },
				{ id: "o3", part: "pin", parent: "top", name: "Pin 2", path: "Top/Pin 2", matrix: "[]", ord: 3 },
			],
		});
	});
	const headOf = async (id: string): Promise<string> => (await repo.headOf(db, id)) ?? "";
	const olderOf = async (id: string): Promise<string> => (await repo.revisionNo(db, id, 1))?.id ?? "";
	return { ctx, write, headOf, olderOf };
}

export type World = Awaited<ReturnType<typeof makeWorld>>;

/** What the engine itself said of a write that it refused. */
export const refusalOf = (write: Promise<unknown>): Promise<string> =>
	write.then(
		() => "not refused",
		(cause: { original?: Error; message: string }) => cause.original?.message ?? cause.message,
	);

/** A database of one engine with the world in it; filled before the first test. */
export type Here = { db: Db; world: World };

/** The same tests on every engine, each with a fresh world of its own. */
export function onEveryEngine(what: string, tests: (here: Here) => void): void {
	describe.each(ENGINES)(`${what} on $name`, (engine) => {
		const here = {} as Here;
		let close: () => Promise<void>;
		beforeAll(async () => {
			const fresh = await freshDatabase(engine);
			close = fresh.close;
			here.db = fresh.db;
			here.world = await makeWorld(fresh.db);
		});
		afterAll(() => close());
		tests(here);
	});
}
