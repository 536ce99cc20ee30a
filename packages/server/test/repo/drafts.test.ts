import { BLANK, difference } from "@alvek/core/material";
import { expect, it } from "vitest";
import * as repo from "../../src/repo";
import { dense, onEveryEngine } from "./world";

onEveryEngine("drafts and publishing", (here) => {
	const edits = (density: number) => difference(dense(8810), dense(density));

	it("a draft is its base with edits, one of each person and material", async () => {
		const { ctx, write } = here.world;
		const id = await write(async (sql) =>
			repo.insertDraft(ctx, sql, { material: "a", base: await here.world.headOf("a"), edits: edits(9000) }),
		);
		const draft = (await repo.draftOf(here.db, "a", "local")) as repo.DraftRecord;
		expect(repo.draftDocument(draft)).toEqual(dense(9000));
		expect(repo.draftBase(draft)).toEqual(dense(8810));
		expect(draft.version).toBe(1);
		await write((sql) =>
			repo.putDraft(ctx, sql, { ...repo.draftState(draft), id: "other", edits: JSON.stringify(edits(9100)), version: 5 }),
		);
		// the draft that is there stays, with what it holds now
		const now = (await repo.draftOf(here.db, "a", "local")) as repo.DraftRecord;
		expect([now.id, now.version, repo.draftDocument(now)]).toEqual([id, 5, dense(9100)]);
		expect([...(await repo.draftsById(here.db, [id, "none"])).keys()]).toEqual([id]);
		expect((await repo.draftsOn(here.db, ["a", "b"])).map((d) => d.id)).toEqual([id]);
		expect(await repo.draftsOf(here.db, ["a"], "mira")).toEqual([]);
		expect((await repo.allDrafts(here.db)).length).toBe(1);
		expect(await repo.draftsOfOthers(here.db, ["a"], "mira")).toMatchObject([
			{ material: "Ärla 4", name: "You, on this computer" },
		]);
		expect(await repo.draftsPerPerson(here.db, "own")).toEqual([{ person: "local", name: "You, on this computer", drafts: 1 }]);
		await write((sql) => repo.giveDraft(sql, id, "mira"));
		expect(await repo.draftIdsOf(here.db, "mira")).toEqual([{ id, material_id: "a" }]);
		await write((sql) => repo.giveDraft(sql, id, "local"));
	});

	it("steps of a page's queue are remembered, and forgotten in time", async () => {
		const { write } = here.world;
		const page = { material: "a", person: "local", client: "tab-1" };
		expect(await repo.lastStep(here.db, page)).toBe(-1);
		await write((sql) => repo.noteStep(sql, { ...page, step: 3 }, "2026-03-01", "2026-01-01"));
		await write((sql) => repo.noteStep(sql, { ...page, step: 4 }, "2026-03-02", "2026-01-01"));
		expect(await repo.lastStep(here.db, page)).toBe(4);
		await write((sql) => repo.noteStep(sql, { ...page, client: "tab-2", step: 0 }, "2026-06-01", "2026-05-01"));
		expect(await repo.lastStep(here.db, page)).toBe(-1);
	});

	it("many become revisions at once, each document once, with one event each", async () => {
		const { ctx, write } = here.world;
		await write(async (sql) => {
			const hash = await repo.storeDocument(sql, dense(9100));
			expect(await repo.storeDocument(sql, dense(9100))).toBe(hash);
			const publish = await repo.openPublish(ctx, sql, { place: "own", note: "both" });
			await repo.insertRevisions(ctx, sql, [
				{ id: "ra", material: "a", no: 3, publish, hash },
				{ id: "rb", material: "b", no: 2, publish, hash },
			]);
			const changes = new Map(["a", "b"].map((id) => [id, { revision: id === "a" ? 3 : 2, note: "both" }]));
			await repo.recordEvents(ctx, sql, { action: "material.publish", kind: "material" }, changes);
		});
		expect([(await repo.materialById(here.db, "a"))?.revision_no, (await repo.materialById(here.db, "b"))?.revision_no]).toEqual([
			3, 2,
		]);
		const news = await repo.eventsAfter(here.db, 0, 10);
		expect(news.map((e) => [e.action, e.subject, e.name, e.place, e.revision, e.published])).toEqual([
			["material.publish", "a", "Ärla 4", "own", 3, 1],
			["material.publish", "b", "bolt steel", "own", 2, 1],
		]);
		expect(await repo.newestSeq(here.db)).toBe(2);
		expect(await repo.nextVersion(here.db)).toBe(3);
		expect(await repo.countRevisions(here.db)).toBe(5);
		expect(await repo.looseRows(here.db, 10)).toEqual([]);
	});

	it("a proposal waits, takes the place of an older one, and becomes a publish", async () => {
		const { ctx, write } = here.world;
		const [first, second] = await write(async (sql) => {
			const one = await repo.openPublish(ctx, sql, { place: "own", note: "one", state: "proposed" });
			const two = await repo.openPublish(ctx, sql, { place: "own", note: "two", state: "proposed" });
			await repo.addToProposal(sql, one, "local", [{ material: "a", proposed: { draft: "d", hash: "h1" } }]);
			await repo.addToProposal(sql, two, "local", [{ material: "a", proposed: { draft: "d", hash: "h2" } }]);
			return [one, two];
		});
		expect(await repo.proposalById(here.db, first as string)).toBeNull();
		expect(await repo.itemsOf(here.db, second as string)).toEqual([{ material: "a", proposed: { draft: "d", hash: "h2" } }]);
		expect((await repo.proposedIn(here.db, "own")).map((p) => [p.material, p.name, p.proposed.hash])).toEqual([
			["a", "Ärla 4", "h2"],
		]);
		expect((await repo.proposalsOfOthers(here.db, "mira", 10)).map((p) => [p.id, p.n, p.seq])).toEqual([[second, 1, null]]);
		await write((sql) => repo.approveProposal(sql, second as string, "mira", "2026-05-05"));
		expect(await repo.proposalById(here.db, second as string)).toBeNull();
		const third = await write((sql) => repo.openPublish(ctx, sql, { place: "own", note: "three", state: "proposed" }));
		await write((sql) => repo.removeProposal(sql, third));
		expect(await repo.proposalById(here.db, third)).toBeNull();
	});

	it("many documents are stored together, a repeated one once", async () => {
		const documents = Array.from({ length: 60 }, (_, n) => repo.canonical(dense(3000 + n)));
		await here.world.write((sql) => repo.storeCanonical(sql, [...documents, ...documents.slice(0, 3)]));
		const there = (await repo.documentPage(here.db, "", 1000)).map((d) => [d.hash, d.bytes.toString("utf8")]);
		for (const { hash, bytes } of documents) expect(there).toContainEqual([hash, bytes.toString("utf8")]);
	});

	it("first drafts of many materials begin with nothing below them; documents name their files", async () => {
		const { ctx, write } = here.world;
		const file = "c".repeat(64);
		const attachment = { id: "t", hash: file, name: "cert.pdf", bytes: 3, format: "PDF", kind: "certificate", note: "" };
		const document = dense(1000, { attachments: [attachment] as never });
		await write(async (sql) => {
			for (const id of ["n1", "n2"])
				await repo.insertMaterial(ctx, sql, {
					id,
					place: "own",
					group: null,
					name: `New ${id}`,
					originKind: null,
					originRevision: null,
				});
			await repo.insertFirstDrafts(ctx, sql, new Map(["n1", "n2"].map((id) => [id, difference(BLANK, dense(1000))])));
			await repo.nameBlob(sql, { hash: file, size: 3, at: "2026" });
			await repo.nameBlob(sql, { hash: file, size: 3, at: "2026" });
			await repo.noteUpload(sql, { hash: file, person: "mira", at: "2026" });
			const publish = await repo.openPublish(ctx, sql, { place: "own", note: "files" });
			await repo.insertRevision(ctx, sql, { material: "b", publish, document });
		});
		const drafts = await repo.draftsOf(here.db, ["n1", "n2"], "local");
		expect(drafts.map((d) => repo.draftDocument(d))).toEqual([dense(1000), dense(1000)]);
		await write((sql) => repo.removeDrafts(sql, [drafts[0]?.id ?? ""]));
		expect((await repo.draftsOf(here.db, ["n1", "n2"], "local")).length).toBe(1);
		expect([await repo.isFileOfMaterial(here.db, "b", file), await repo.isFileOfMaterial(here.db, "a", file)]).toEqual([
			true,
			false,
		]);
		expect(await repo.materialOfFile(here.db, await here.world.headOf("b"), file)).toBe("b");
		expect([await repo.isUploadOf(here.db, file, "mira"), await repo.isUploadOf(here.db, file, "local")]).toEqual([true, false]);
		expect([await repo.isBlobNamed(here.db, file), (await repo.blobHashes(here.db)).has(file)]).toEqual([true, true]);
		expect((await repo.blobSizes(here.db)).find((b) => b.hash === file)?.size).toBe(3);
		expect((await repo.documentPage(here.db, "", 2)).length).toBe(2);
	});
});
