import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PLAIN_LOOK } from "@alvek/core/material";
import { afterAll, beforeAll, expect, it } from "vitest";
import * as repo from "../../src/repo";
import { type Blobs, openBlobs, removeUnusedFiles } from "../../src/runtime";
import { dense, onEveryEngine } from "./world";

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** When the tests run, so that files that are written now are as old as they say. */
const NOW = Date.now();
const day = (n: number): string => new Date(NOW + n * DAY).toISOString();

onEveryEngine("files that nothing needs", (here) => {
	const folder = mkdtempSync(join(tmpdir(), "alvek-unused-"));
	let blobs: Blobs;
	beforeAll(async () => {
		blobs = await openBlobs(folder);
	});
	afterAll(() => rmSync(folder, { recursive: true, force: true }));

	const tidy = (at: string) => removeUnusedFiles(here.db, blobs, at);
	const isThere = (hash: string): Promise<boolean> =>
		blobs.read(hash).then(
			() => true,
			() => false,
		);
	/** A file that a person brought in on a day. */
	const upload = async (text: string, at = day(0), person = "mira"): Promise<string> => {
		const hash = await blobs.put(Buffer.from(text));
		await here.world.write(async (sql) => {
			await repo.nameBlob(sql, { hash, size: text.length, at });
			await repo.noteUpload(sql, { hash, person, at });
		});
		return hash;
	};
	const named = (hash: string) => dense(7000, { attachments: { a: attachment(hash) } });

	it("go the day after nothing named them any more; what one person still needs stays", async () => {
		const alone = await upload("came to nothing");
		const shared = await upload("brought in twice");
		await upload("brought in twice", day(80), "local");
		expect(await tidy(day(89))).toEqual({ names: 0, files: 0 });
		expect(await tidy(day(91))).toEqual({ names: 1, files: 0 });
		// whoever has begun to read it reads on, and a backup that began before has it
		expect([await isThere(alone), await repo.isBlobNamed(here.db, alone)]).toEqual([true, false]);
		expect(await tidy(day(92))).toEqual({ names: 0, files: 1 });
		expect([await isThere(alone), await isThere(shared)]).toEqual([false, true]);
		expect(await repo.isUploadOf(here.db, shared, "mira")).toBe(false);
		expect(await repo.isUploadOf(here.db, shared, "local")).toBe(true);
	});

	it("pictures on surfaces are found by what the newest documents say, in these libraries alone", async () => {
		const { ctx, write } = here.world;
		const picture = await upload("a picture");
		const texture = { kind: "picture", hash: picture, name: "g.png", size_mm: [1, 1], offset_mm: [0, 0] } as const;
		const shown = dense(8810, { look: { ...PLAIN_LOOK, texture } });
		await write(async (sql) => {
			const publish = await repo.openPublish(ctx, sql, { place: "own", note: "shown" });
			await repo.insertRevision(ctx, sql, { material: "a", publish, document: shown });
		});
		expect((await repo.picturedIn(here.db, ["own", "sup"], 9)).map((r) => [r.id, r.library])).toEqual([["a", "Bench"]]);
		expect(await repo.picturedIn(here.db, ["sup"], 9)).toEqual([]);
		await write(async (sql) => {
			const publish = await repo.openPublish(ctx, sql, { place: "own", note: "plain again" });
			await repo.insertRevision(ctx, sql, { material: "a", publish, document: named(picture) });
		});
		expect(await repo.picturedIn(here.db, ["own"], 9)).toEqual([]);
	});

	it("stay while a document, a draft, or a step that can be undone names them", async () => {
		const { ctx, write } = here.world;
		const [published, drafted, undoable, read] = [
			await upload("in a revision"),
			await upload("in a draft"),
			await upload("in a draft that was thrown away"),
			await upload("nobody's"),
		];
		const step = await write(async (sql) => {
			const publish = await repo.openPublish(ctx, sql, { place: "own", note: "with a file" });
			await repo.insertRevision(ctx, sql, { material: "b", publish, document: named(published) });
			const edits = [{ at: "attachments:a", from: null, to: attachment(drafted) }];
			await repo.insertFirstDrafts(ctx, sql, new Map([["a", edits as never]]));
			return repo.recordEvent(ctx, sql, {
				action: "draft.discard",
				kind: "material",
				subject: "a",
				changeset: {},
				inverse: { kind: "draft", material: "a", edits: [attachment(undoable)] } as never,
			});
		});
		expect((await tidy(day(100))).names).toBe(1);
		const there = async () => [await isNamed(published), await isNamed(drafted), await isNamed(undoable), await isNamed(read)];
		const isNamed = (hash: string): Promise<boolean> => repo.isBlobNamed(here.db, hash);
		expect(await there()).toEqual([true, true, true, false]);
		await write((sql) => sql.run("UPDATE event SET undone_by = seq WHERE seq = $step", { step }));
		expect((await tidy(day(101))).names).toBe(1);
		expect(await there()).toEqual([true, true, false, false]);
	});

	it("of geometry stay with it, triangles and all", async () => {
		await tidy(day(400));
		expect((await tidy(day(401))).names).toBe(0);
		for (const hash of ["f", "e"].map((c) => c.repeat(64))) expect(await repo.isBlobNamed(here.db, hash)).toBe(true);
	});

	it("are asked for by their use, each use counting once", async () => {
		const { db, world } = here;
		const hash = await upload("of two documents", day(0), "mira");
		const uses = ["d1", "d2", "d1"].map((owner) => ({ hash, kind: "document", owner }) as const);
		await world.write((sql) => repo.useBlobs(sql, uses));
		expect(await db.count("blob_use", { hash, owner_kind: "document" })).toBe(2);
		expect(await repo.forgottenUploads(db, day(-1), 10)).toEqual([]);
		expect(await repo.forgottenUploads(db, day(1), 10)).toContainEqual({ hash, owner: "mira" });
		// it was brought in again between the question and the answer
		await world.write((sql) => repo.noteUpload(sql, { hash, person: "mira", at: day(2) }));
		await world.write((sql) => repo.endUploads(sql, [{ hash, owner: "mira" }], day(1)));
		expect(await repo.isUploadOf(db, hash, "mira")).toBe(true);
		await world.write((sql) => repo.endUploads(sql, [{ hash, owner: "mira" }], day(3)));
		expect(await repo.isUploadOf(db, hash, "mira")).toBe(false);
		expect(await world.write((sql) => repo.dropUnusedBlobs(sql))).not.toContain(hash);
		await world.write((sql) => sql.run("DELETE FROM blob_use WHERE hash = $hash", { hash }));
		expect(await world.write((sql) => repo.dropUnusedBlobs(sql))).toContain(hash);
	});

	it("are not taken away from whoever is just bringing them in again", async () => {
		const old = await blobs.put(Buffer.from("refused an hour ago"));
		expect(await blobs.sweep(new Set(), NOW + 0.9 * HOUR)).toBe(0);
		await blobs.touch(old);
		const again = await upload("refused an hour ago");
		expect(again).toBe(old);
		expect((await tidy(day(1))).names).toBe(0);
		expect(await isThere(old)).toBe(true);
	});
});

function attachment(hash: string) {
	return {
		name: "sheet.pdf",
		format: "PDF",
		hash,
		bytes: 3,
		purpose: "other",
		note: "",
		version: 1,
		date: "2026-11-25",
	} as const;
}
