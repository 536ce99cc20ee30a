import { createHash } from "node:crypto";
import type { StoredFile } from "@alvek/contract";
import { type Attachment, type Edit, PLAIN_LOOK } from "@alvek/core/material";
import type { Result } from "@alvek/core/result";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { fixture, newId, personWith, type Running, startServer, value } from "./harness";

let server: Running;
let id: string;
beforeAll(async () => {
	server = await startServer();
	id = newId();
	await server.must("createMaterial", { id, libraryId: "own", name: "With files", group: "" });
});
afterAll(() => server.stop());

async function send(file: string, body: Uint8Array | string, as = "attachment", headers = {}): Promise<Result<StoredFile>> {
	const response = await server.raw(`/api/v1/materials/${id}/files?${new URLSearchParams({ file, as })}`, {
		method: "POST",
		headers: { "Content-Type": "application/octet-stream", ...headers },
		body: body as never,
	});
	return (await response.json()) as Result<StoredFile>;
}

async function stored(file: string, body: Uint8Array | string, as = "attachment"): Promise<StoredFile> {
	const result = await send(file, body, as);
	if (!result.ok) throw new Error(JSON.stringify(result.issues));
	return result.value;
}

const codeOf = (result: Result<unknown>): string => (result.ok ? "ok" : (result.issues[0]?.code ?? ""));
const get = (hash: string, query = ""): Promise<Response> => server.raw(`/api/v1/materials/${id}/files/${hash}${query}`);

function attachment(file: StoredFile, extra: Partial<Attachment> = {}): Attachment {
	const { name, format, hash, bytes } = file;
	return { name, format, hash, bytes, purpose: "other", note: "", version: 1, date: "2026-11-25", ...extra };
}
const attach = (key: string, to: Attachment): Edit => ({ at: `attachments:${key}`, from: null, to });

/** A PNG header after the specification: signature, IHDR, width and height. */
function png(width: number, height: number): Buffer {
	const head = Buffer.from("89504e470d0a1a0a0000000d49484452000000000000000008020000000000000000", "hex");
	head.writeUInt32BE(width, 16);
	head.writeUInt32BE(height, 20);
	return head;
}

const HOSTILE = {
	"page.html": "<!doctype html><script>fetch('/api/v1/projects')</script>",
	"drawing.svg": '<svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"><script>alert(1)</script></svg>',
	"certificate.pdf": "<html><script>alert(1)</script></html>",
	"../../../../etc/cron.d/evil": "* * * * * root true",
	"..\\..\\start.bat": "@echo off",
	"macro.xlsm": "PK\x03\x04 whatever",
	"=cmd|' /C calc'!A0.csv": "=1+1",
};

describe("attachments", () => {
	it.each(Object.entries(HOSTILE))(
		"%s is inert data: stored under its checksum, given back as a download only",
		async (file, body) => {
			const kept = await stored(file, body);
			expect(kept.hash).toBe(createHash("sha256").update(body).digest("hex"));
			expect(kept.name).not.toMatch(/[/\\]|^\./);
			for (const query of ["", `?${new URLSearchParams({ name: file })}`]) {
				const reply = await get(kept.hash, query);
				expect(Buffer.from(await reply.arrayBuffer()).toString()).toBe(body);
				expect(reply.headers.get("content-type")).toBe("application/octet-stream");
				expect(reply.headers.get("content-disposition")).toMatch(/^attachment; filename="[^"/\\]*"/);
				expect(reply.headers.get("x-content-type-options")).toBe("nosniff");
				expect(reply.headers.get("content-security-policy")).toBe("default-src 'none'; sandbox");
			}
			// nor is it shown when somebody calls it a picture
			expect((await get(kept.hash, "?as=picture")).status).toBe(404);
		},
	);

	it("says what the content looks like, whatever the name says", async () => {
		expect((await stored("certificate.pdf", HOSTILE["certificate.pdf"])).format).toBe("HTML");
		expect((await stored("report.pdf", "%PDF-1.7\n...")).format).toBe("PDF");
	});

	it("refuses an empty file, a nameless one, one over the limit, and one that breaks off", async () => {
		expect(codeOf(await send("nothing.txt", ""))).toBe("empty-file");
		expect(codeOf(await send("../", "x"))).toBe("name-missing");
		expect(codeOf(await send("x".repeat(2000), "x"))).toBe("bad-input");
		expect(codeOf(await send("big.bin", new Uint8Array(50 * 1024 * 1024 + 1)))).toBe("upload-too-large");
		expect(codeOf(await send("form.txt", "a=b", "attachment", { "Content-Type": "text/plain" }))).toBe("bad-input");
	}, 30_000);

	it("becomes part of the record by a draft, is published with it, and survives a restart", async () => {
		const kept = await stored("heat 0417.pdf", "%PDF-1.7 heat");
		const entry = attachment(kept, { purpose: "certificate", note: "Heat 0417" });
		const { hash } = await server.must("saveDraft", { id, edits: [attach("a1", entry), density("2.7 g/cm3")] });
		await server.must("publishDraft", { id, note: "with its certificate", hash });
		server = await server.restart();
		const { document } = (await server.must("getSheet", { id })).row;
		expect(document.attachments).toEqual({ a1: entry });
		expect(await (await get(kept.hash)).text()).toBe("%PDF-1.7 heat");

		const copy = newId();
		await server.must("createMaterial", { id: copy, libraryId: "own", name: "Like it", group: "", from: id });
		expect((await server.must("getSheet", { id: copy })).row.document.attachments).toEqual({});
	});

	it("does not open others' files to whoever knows a checksum", async () => {
		const kept = await stored("secret.txt", "the heat treatment");
		const other = newId();
		await server.must("createMaterial", { id: other, libraryId: "own", name: "Elsewhere", group: "" });
		await server.installation.db.run("INSERT INTO person (id, name, initials, admin) VALUES ('mal', 'Mal', 'M', 0)");
		await server.installation.db.run(
			"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', 'mal', 'library', 'own', 'editor')",
		);
		const mal = { ...newContext(server.installation.db), actor: { person: "mal", admin: false } };
		const { json, raw } = server.installation.services;
		const named = await json.saveDraft(mal, { id: other, edits: [attach("x", attachment(kept))] as never });
		expect(codeOf(named)).toBe("not-found");
		const texture = { kind: "picture", hash: kept.hash, name: "x", size_mm: [1, 1], offset_mm: [0, 0] };
		const look = { at: "field:look", from: PLAIN_LOOK, to: { ...PLAIN_LOOK, texture } };
		expect(codeOf(await json.saveDraft(mal, { id: other, edits: [look] as never }))).toBe("not-found");
		expect(codeOf(await raw.getFile(mal, { id: other, hash: kept.hash }))).toBe("not-found");
		expect(codeOf(await raw.getFile({ ...mal, actor: { person: "nobody", admin: false } }, { id, hash: kept.hash }))).toBe(
			"not-found",
		);
	});

	it("goes to whoever reads a project that stands on the revision, also where the library is a stranger's", async () => {
		const certificate = createHash("sha256").update("%PDF-1.7 heat").digest("hex");
		const loose = await stored("loose.txt", "named by no revision");
		const project = newId();
		await server.must("createProject", { id: project, name: "Reads a file" });
		await server.importFile(project, "nested.step", fixture("nested.step"));
		const part = (await server.must("getProject", { id: project })).parts[0]?.id ?? "";
		const guest = await personWith(server, "guest", { [`project:${project}`]: "reader" });
		const status = async (hash: string): Promise<number> => (await guest.raw(`/api/v1/materials/${id}/files/${hash}`)).status;
		expect(await status(certificate)).toBe(404);
		await server.must("assign", { id: project, parts: [part], materialId: id });
		expect([await status(certificate), await status(loose.hash)]).toEqual([200, 404]);
		expect(await guest.refused("getSheet", { id })).toBe("not-found");
		await server.must("assign", { id: project, parts: [part], materialId: null });
		expect(await status(certificate)).toBe(404);
	});

	it("refuses an entry whose name is a path or whose checksum is none", async () => {
		const kept = await stored("fine.txt", "fine");
		for (const bad of [{ name: "../fine.txt" }, { hash: "../../secret" }, { bytes: 0 }, { purpose: "virus" as never }]) {
			const refused = await server.refused("saveDraft", { id, edits: [attach("bad", attachment(kept, bad))] });
			expect(["wrong-type", "out-of-bounds", "unknown-choice"]).toContain(refused);
		}
	});
});

describe("pictures on a surface", () => {
	it("are taken by their content only, within bytes and pixels", async () => {
		expect(codeOf(await send("bark.png", HOSTILE["drawing.svg"], "picture"))).toBe("not-a-picture");
		expect(codeOf(await send("bark.png", "GIF89a...", "picture"))).toBe("not-a-picture");
		expect(codeOf(await send("bark.png", png(50_000, 50_000), "picture"))).toBe("picture-too-large");
		expect(codeOf(await send("bark.png", new Uint8Array(8 * 1024 * 1024 + 1), "picture"))).toBe("upload-too-large");
		const kept = await stored("bark.png", png(64, 32), "picture");
		expect(kept.pixels).toEqual([64, 32]);
		const shown = await get(kept.hash, "?as=picture");
		expect([shown.headers.get("content-type"), shown.headers.get("x-content-type-options")]).toEqual(["image/png", "nosniff"]);
		expect(shown.headers.get("content-security-policy")).toBe("default-src 'none'; sandbox");
	});

	it("are stored with the record and reach the parts that stand on it", async () => {
		const kept = await stored("grain.png", png(100, 50), "picture");
		const texture = { kind: "picture", hash: kept.hash, name: "grain.png", size_mm: [80, 40], offset_mm: [5, 0] } as const;
		const before = (await server.must("getSheet", { id })).row.document.look;
		const look = { ...before, metalness: 0, texture };
		const { hash } = await server.must("saveDraft", { id, edits: [{ at: "field:look", from: before, to: look }] });
		await server.must("publishDraft", { id, note: "grain", hash });
		expect((await server.must("getSheet", { id })).row.document.look).toEqual(look);
	});

	it("are offered to whoever reads them, and may be named in a draft once they were taken from what shows them now", async () => {
		const [shown] = await server.must("listTextures", {});
		expect(shown).toMatchObject({ materialId: id, material: "With files", texture: { name: "grain.png", size_mm: [80, 40] } });
		const hash = shown?.texture.hash ?? "";
		const stranger = await personWith(server, "texturer", { sup: "reader" });
		expect(await stranger.must("listTextures", {})).toEqual([]);
		const other = newId();
		const library = newId();
		await server.must("createLibrary", { id: library, name: "Surfaces", description: "" });
		await server.must("shareLibrary", { id: library, by: "person", subject: "texturer", role: "editor" });
		await stranger.must("createMaterial", { id: other, libraryId: library, name: "Theirs" });
		const take = { id: other, from: id, hash };
		expect(await stranger.refused("takeTexture", take)).toBe("not-found");
		await server.must("shareLibrary", { id: "own", by: "person", subject: "texturer", role: "reader" });
		const look = { at: "field:look", from: PLAIN_LOOK, to: { ...PLAIN_LOOK, texture: shown?.texture } } as never;
		expect(await stranger.refused("saveDraft", { id: other, edits: [look] })).toBe("not-found");
		// another material's, an attachment's and a made-up checksum are none of its textures
		for (const wrong of [{ from: "bar" }, { hash: "0".repeat(64) }])
			expect(await stranger.refused("takeTexture", { ...take, ...wrong })).toBe("not-found");
		const certificate = createHash("sha256").update("%PDF-1.7 heat").digest("hex");
		expect(await stranger.refused("takeTexture", { ...take, hash: certificate })).toBe("not-found");
		await stranger.must("takeTexture", take);
		await stranger.must("saveDraft", { id: other, edits: [look] });
		expect((await stranger.raw(`/api/v1/materials/${other}/files/${hash}?as=picture`)).status).toBe(200);
	});
});

function density(text: string): Edit {
	return { at: "density", from: null, to: value("density", text) };
}
