import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { lowOf, type Running, startServer } from "./harness";
import { make, revise, startTeam } from "./team";

let server: Running;
beforeAll(async () => {
	({ server } = await startTeam());
});
afterAll(() => server.stop());

describe("editions", () => {
	it("freeze what is published with names, groups and codes, compare, and can be drafted again", async () => {
		const [a, b] = [await make(server, "Edited a"), await make(server, "Edited b")];
		const first = await server.must("freezeEdition", { id: "own", note: "one" });
		expect(await server.refused("freezeEdition", { id: "own", note: "the same" })).toBe("same-as-edition");
		await revise(server, a, "2.95 g/cm3");
		await server.must("changeMaterial", { id: b, name: "Renamed b" });
		const later = await make(server, "Edited c");
		const changed = await server.must("compareEditions", { id: "own", from: String(first.no), to: "0" });
		expect(changed.changes.map((c) => [c.name, c.kind, c.from, c.to, c.rows])).toEqual(
			expect.arrayContaining([
				["Edited a", "changed", 1, 2, []],
				["Renamed b", "row", 1, 1, ["name: Edited b → Renamed b"]],
				["Edited c", "added", null, 1, []],
			]),
		);
		expect(changed.changes.find((c) => c.id === a)?.edits.map((e) => e.at)).toEqual(["density"]);
		expect(changed.changes.length).toBe(3);
		const again = await server.must("draftEdition", { id: "own", no: String(first.no) });
		expect(again.drafts).toEqual([a]);
		expect(again.later).toEqual([{ id: later, name: "Edited c" }]);
		const sheet = await server.must("getSheet", { id: a });
		expect([sheet.row.revision, lowOf(sheet.row.document, "density")]).toEqual([2, 2700]);
		await server.must("discardDraft", { id: a });
		// an edition never moves, whatever happens after it
		const frozen = await server.must("compareEditions", { id: "own", from: String(first.no), to: String(first.no) });
		expect(frozen.changes).toEqual([]);
	});

	it("can be written to a file and taken in elsewhere; the next one updates with what differs", async () => {
		const id = await make(server, "Travelling", "2.71 g/cm3");
		const one = await server.must("freezeEdition", { id: "own", note: "to travel" });
		const file = async (no: number): Promise<Buffer> =>
			Buffer.from(await (await server.raw(`/api/v1/libraries/own/editions/${no}/file.json`)).arrayBuffer());
		const bytes = await file(one.no);
		expect((await file(one.no)).equals(bytes)).toBe(true);
		const elsewhere = await startServer();
		const take = async (body: Buffer, preview = false) => {
			const reply = await elsewhere.raw(`/api/v1/libraries/taken${preview ? "?preview=1" : ""}`, {
				method: "POST",
				headers: { "Content-Type": "application/octet-stream" },
				body: body as never,
			});
			return (await reply.json()) as {
				ok: boolean;
				value: { libraryId: string; from: number; to: number; same: number; changes: { name: string; kind: string }[] };
				issues: { code: string }[];
			};
		};
		try {
			expect((await take(bytes)).issues[0]?.code).toBe("library-taken");
			await elsewhere.must("changeLibrary", { id: "own", name: "Our own here" });
			const seen = await take(bytes, true);
			expect([seen.value.from, seen.value.to]).toEqual([0, one.no]);
			expect((await elsewhere.must("listLibraries", {})).length).toBe(2);
			const taken = await take(bytes);
			const library = (await elsewhere.must("listLibraries", {})).find((l) => l.id === taken.value.libraryId);
			expect(library).toMatchObject({ name: "Own", supplied: true, edition: one.no, mayEdit: false });
			const found = await elsewhere.must("findMaterials", { text: "Travelling" });
			expect(lowOf((found.rows[0] as never as { document: never }).document, "density")).toBe(2710);
			// own layers and copies are not touched by an update; they show behind
			const copies = await elsewhere.must("copyMany", { ids: [found.rows[0]?.id ?? ""], libraryId: "own" });
			const [copy = ""] = copies.value.ids;

			await revise(server, id, "2.72 g/cm3");
			const two = await server.must("freezeEdition", { id: "own", note: "corrected" });
			const next = await file(two.no);
			expect((await take(bytes)).issues[0]?.code).toBe("older-edition");
			const preview = await take(next, true);
			expect(preview.value.changes.map((c) => [c.name, c.kind])).toEqual([["Travelling", "changed"]]);
			await take(next);
			const again = await elsewhere.must("findMaterials", { text: "Travelling", library: taken.value.libraryId });
			expect(lowOf((again.rows[0] as never as { document: never }).document, "density")).toBe(2720);
			const own = await elsewhere.must("getSheet", { id: copy });
			expect(lowOf(own.row.document, "density")).toBe(2710);
			expect(own.base).toMatchObject({ kind: "copy", revision: 1, headRevision: 2 });
		} finally {
			await elsewhere.stop();
		}
	});

	it("carry the pictures of surfaces along, and are read whatever schema their documents were written in", async () => {
		const id = await make(server, "Pictured", "0.7 g/cm3");
		// a PNG header after the specification: signature, IHDR, 4 by 4
		const png = Buffer.from("89504e470d0a1a0a0000000d49484452000000040000000408020000000000000000", "hex");
		const sent = await server.raw(`/api/v1/materials/${id}/files?file=grain.png&as=picture`, {
			method: "POST",
			headers: { "Content-Type": "application/octet-stream" },
			body: png as never,
		});
		const { hash } = ((await sent.json()) as { value: { hash: string } }).value;
		const { look } = (await server.must("getSheet", { id })).row.document;
		const texture = { kind: "picture", hash, name: "grain.png", size_mm: [8, 8], offset_mm: [0, 0] };
		await server.must("saveDraft", { id, edits: [{ at: "field:look", from: look, to: { ...look, texture } } as never] });
		await server.publish([id], "with its grain");
		const { no } = await server.must("freezeEdition", { id: "own", note: "pictured" });
		const bytes = Buffer.from(await (await server.raw(`/api/v1/libraries/own/editions/${no}/file.json`)).arrayBuffer());
		// as an older program wrote it: the first schema had other ids for some properties, and no look
		const file = JSON.parse(bytes.toString("utf8")) as {
			library: { uid: string };
			materials: { uid: string; document: object }[];
		};
		const old = {
			schema: 1,
			values: { solidus: { id: "solidus", property: "solidus", entered: "1400 °C", low: 1673.15, high: 1673.15 } },
		};
		file.materials.push({
			...(file.materials[0] as never as object),
			uid: "old-one",
			name: "Written long ago",
			document: old,
		} as never);
		const elsewhere = await startServer();
		try {
			await elsewhere.must("changeLibrary", { id: "own", name: "Our own here" });
			const reply = await elsewhere.raw("/api/v1/libraries/taken", {
				method: "POST",
				headers: { "Content-Type": "application/octet-stream" },
				body: JSON.stringify(file),
			});
			expect(await reply.json()).toMatchObject({ ok: true });
			const [there] = (await elsewhere.must("findMaterials", { text: "Pictured" })).rows;
			expect((await elsewhere.must("getSheet", { id: there?.id ?? "" })).row.document.look.texture).toEqual(texture);
			const picture = await elsewhere.raw(`/api/v1/materials/${there?.id}/files/${hash}?as=picture`);
			expect(Buffer.from(await picture.arrayBuffer()).equals(png)).toBe(true);
			const [older] = (await elsewhere.must("findMaterials", { text: "Written long ago" })).rows;
			const { document } = (await elsewhere.must("getSheet", { id: older?.id ?? "" })).row;
			expect([document.schema, lowOf(document, "solidus_temperature")]).toEqual([3, 1673.15]);
		} finally {
			await elsewhere.stop();
		}
	});

	it.each([
		["no JSON", "{", "not-json"],
		["something else", JSON.stringify({ format: "x" }), "not-an-edition"],
		["a later version", JSON.stringify({ format: "alvek-edition", version: 9 }), "newer-file"],
		[
			"a broken document",
			JSON.stringify({
				format: "alvek-edition",
				version: 1,
				library: { uid: "u", name: "N" },
				edition: { no: 1, note: "" },
				materials: [{ uid: "m", name: "M", document: { schema: 2, values: { density: { id: "density", low: "heavy" } } } }],
			}),
			null,
		],
		[
			"a file that is not what its checksum says",
			JSON.stringify({
				format: "alvek-edition",
				version: 1,
				library: { uid: "u", name: "N" },
				edition: { no: 1, note: "" },
				materials: [],
				files: {},
			}),
			"bad-input",
		],
	])("refuse %s, and take nothing in", async (_, text, code) => {
		const reply = await server.raw("/api/v1/libraries/taken", {
			method: "POST",
			headers: { "Content-Type": "application/octet-stream" },
			body: text,
		});
		const body = (await reply.json()) as { ok: boolean; issues: { code: string; path?: string }[] };
		expect(body.ok).toBe(false);
		if (code === null) expect(body.issues[0]?.path).toMatch(/^materials\[0\]\.document/);
		else expect(body.issues[0]?.code).toBe(code);
		expect((await server.must("listLibraries", {})).length).toBe(2);
	});
});
