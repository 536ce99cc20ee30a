import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { type Client, fixture, newId, personWith, type Running, setRole, startServer, value } from "./harness";
import { edit, make, revise } from "./team";

/** After a right was taken away: following, rules, notices, streams, history, caches and files ask for it as it is now. */
let server: Running;
let ed: Client;
let reader: Client;
beforeAll(async () => {
	server = await startServer();
	ed = await personWith(server, "ed", { own: "editor" });
	reader = await personWith(server, "rea", { own: "reader" });
});
afterAll(() => server.stop());

const db = () => server.installation.db;
const lock = (who: Client) => who.must("openLock", { id: "own", takeOver: true });
const role = (person: string, kind: string, target: string, to: string | null): Promise<void> =>
	setRole(server, person, kind, target, to);
let count = 0;
const unique = (name: string): string => `${name} ${++count}`;
describe("after a right was taken away", () => {
	it("nothing newer is read: not by bringing forward, by a rule, in the project, by notices, steps or the bin", async () => {
		const library = newId();
		await server.must("createLibrary", { id: library, name: unique("Lent"), description: "" });
		await server.must("openLock", { id: library });
		const id = newId();
		await server.must("createMaterial", { id, libraryId: library, name: unique("Lent") });
		await server.must("saveDraft", { id, edits: [edit("density", null, value("density", "2.7 g/cm3"))] });
		await server.publish([id], "first");
		const guest = await personWith(server, unique("guest").replace(" ", ""), { [library]: "reader" });
		const project = newId();
		await guest.must("createProject", { id: project, name: unique("Guest's") });
		await guest.importFile(project, "nested.step", fixture("nested.step"));
		const part = (await guest.must("getProject", { id: project })).parts[0]?.id ?? "";
		await guest.must("assign", { id: project, parts: [part], materialId: id });
		await guest.must("setFollowing", { id: project, forward: "values-added" });
		await guest.must("starMaterial", { id, on: true } as never);
		const { person } = await guest.must("getSession", {});
		await role(person?.id ?? "", "library", library, null);
		// a revision that only adds a value: the rule would take it
		await server.must("saveDraft", { id, edits: [edit("poissons_ratio", null, value("poissons_ratio", "0.33"))] });
		await server.publish([id], "SECRET NOTE");
		const view = await guest.must("getProject", { id: project });
		expect(view.parts[0]?.assignment).toMatchObject({ revision: 1, behind: null });
		expect(await guest.refused("bringForward", { id: project, parts: [part] })).toBe("nothing-behind");
		const told = JSON.stringify([
			await guest.must("listNotices", {}),
			await guest.must("readNews", { after: "0" }),
			await guest.must("listBin", {}),
			await guest.must("history", { kind: "project", id: project }),
		]);
		expect(told).not.toContain("SECRET NOTE");
		expect(told).not.toContain("revision 2");
		expect(await guest.refused("history", { kind: "material", id })).toBe("not-found");
		// what its parts stand on stays readable to the project
		expect((await guest.must("getProjectRevision", { id: project, material: id })).no).toBe(1);
		// with the right back, the rule goes on with the next revision
		await role(person?.id ?? "", "library", library, "reader");
		await server.must("saveDraft", { id, edits: [edit("youngs_modulus", null, value("youngs_modulus", "70 GPa"))] });
		await server.publish([id], "third");
		expect((await guest.must("getProject", { id: project })).parts[0]?.assignment?.revision).toBe(3);
	});

	it("an administrator's open stream hears no more than the person may who is none any more", async () => {
		const { body } = await (async () => {
			await db().run("INSERT INTO person (id, name, initials, admin) VALUES ('boss', 'Boss', 'B', 1)");
			const { tokenOf } = await import("./harness");
			const headers = await tokenOf(server.installation, "boss");
			return fetch(`${server.base}/api/v1/live`, { headers });
		})();
		const stream = (body as ReadableStream<Uint8Array>).getReader();
		let heard = "";
		const reading = (async () => {
			for (;;) {
				const { done, value: chunk } = await stream.read();
				if (done) return;
				heard += new TextDecoder().decode(chunk);
			}
		})();
		await server.must("createMaterial", { id: newId(), libraryId: "own", name: unique("Before") });
		const first = await make(server, unique("Heard"));
		const wait = async (text: string): Promise<void> => {
			for (let i = 0; i < 100 && !heard.includes(text); i++) await new Promise((r) => setTimeout(r, 30));
		};
		await wait(first);
		expect(heard).toContain(first);
		await db().run("UPDATE person SET admin = 0 WHERE id = 'boss'");
		const changed = await server.installation.services.json.changePerson(newContext(db()), { id: "boss", name: "Boss no more" });
		expect(changed.ok).toBe(true);
		const second = await make(server, unique("Unheard"));
		await server.must("createProject", { id: newId(), name: unique("Marker") });
		await new Promise((r) => setTimeout(r, 300));
		expect(heard).not.toContain(second);
		await stream.cancel();
		await reading.catch(() => undefined);
	});

	it("readers hear no drafts and see no names of what was never published, in news, history and bin", async () => {
		const secret = unique("Never published");
		const id = newId();
		await ed.must("createMaterial", { id, libraryId: "own", name: secret });
		await ed.must("saveDraft", { id, edits: [edit("field:notes", "", "x")] });
		const out = await make(server, unique("Out"));
		await ed.must("saveDraft", { id: out, edits: [edit("field:notes", "", "drafted")] });
		await lock(ed);
		await ed.must("removeMaterial", { id });
		const actions = (await reader.must("readNews", { after: "0" })).events.filter((e) => e.subject === out).map((e) => e.action);
		expect(actions).toContain("material.publish");
		expect(actions).not.toContain("draft.save");
		const editors = (await server.must("readNews", { after: "0" })).events.filter((e) => e.subject === out).map((e) => e.action);
		expect(editors).toContain("draft.save");
		const seen = async (who: Client): Promise<string> =>
			JSON.stringify([
				await who.must("readNews", { after: "0" }),
				await who.must("history", { kind: "library", id: "own" }),
				await who.must("listBin", {}),
			]);
		expect(await seen(reader)).not.toContain(secret);
		expect(await seen(ed)).toContain(secret);
	});

	it("how many parts stand on something is told to nobody who may not delete it", async () => {
		const stranger = await personWith(server, unique("nobody").replace(" ", ""), {});
		const id = await make(server, unique("Used"));
		const project = newId();
		await server.must("createProject", { id: project, name: unique("Users") });
		await server.importFile(project, "nested.step", fixture("nested.step"));
		const part = (await server.must("getProject", { id: project })).parts[0]?.id ?? "";
		await server.must("assign", { id: project, parts: [part], materialId: id });
		expect(await stranger.refused("removeMaterial", { id })).toBe("not-found");
		expect(await reader.refused("manyMaterials", { ids: [id], act: "retire" })).toBe("forbidden");
		expect(await server.refused("removeMaterial", { id })).toBe("in-use");
	});

	it("whether a stranger's library bears a name is not told", async () => {
		const stranger = await personWith(server, unique("namer").replace(" ", ""), {});
		await stranger.must("createLibrary", { id: newId(), name: "Own", description: "" });
		expect(await server.refused("createLibrary", { id: newId(), name: "own", description: "" })).toBe("library-taken");
	});
});

describe("caches and files", () => {
	const columns = async (who: Client, tag?: string, query = "") => {
		const reply = await who.raw(
			`/api/v1/materials-columns?properties=density${query}`,
			tag === undefined ? {} : { headers: { "If-None-Match": tag } },
		);
		return { status: reply.status, tag: reply.headers.get("etag") ?? "", kept: reply.headers.get("cache-control") ?? "" };
	};
	it("columns of one person are no answer for the next, nor for the same one with other rights, drafts or stars", async () => {
		const id = await make(server, unique("Column"));
		const mine = await columns(server);
		expect([mine.status, mine.kept]).toEqual([200, "private, no-cache"]);
		expect((await columns(server, mine.tag)).status).toBe(304);
		expect((await columns(reader, mine.tag)).status).toBe(200);
		const theirs = await columns(reader);
		await role("rea", "library", "sup", "reader");
		expect((await columns(reader, theirs.tag)).status).toBe(200);
		const starred = await columns(server, undefined, "&starred=1");
		await server.must("starMaterial", { id, on: true } as never);
		expect((await columns(server, starred.tag, "&starred=1")).status).toBe(200);
	});

	it("answers with data are nobody's to keep", async () => {
		const reply = await server.raw("/api/v1/libraries");
		expect(reply.headers.get("cache-control")).toBe("no-store");
	});

	it("hidden rows never pass, however many spans are asked for; unknown and repeated ones are refused", async () => {
		const secret = newId();
		await ed.must("createMaterial", { id: secret, libraryId: "own", name: unique("Hidden draft") });
		const spans = Array.from({ length: 128 }, () => "density:1e9..2e9").join(",");
		expect(await reader.refused("findMaterials", { where: spans })).toBe("too-many");
		const twice = "density:1e9..2e9,density:1e9..2e9";
		expect(await reader.refused("findMaterials", { where: twice })).toBe("bad-input");
		expect(await reader.refused("findMaterials", { where: "no_such_thing:1..2" })).toBe("unknown-property");
		const { libraries } = { libraries: (await reader.must("listLibraries", {})).map((l) => l.id) };
		const page = await reader.must("findMaterials", { limit: "1000" });
		expect(page.rows.every((r) => libraries.includes(r.libraryId) && r.id !== secret)).toBe(true);
	});

	it("a checksum in one's own words opens no file of anybody else's", async () => {
		const id = await make(server, unique("With file"));
		const reply = await server.raw(`/api/v1/materials/${id}/files?file=report.txt&as=attachment`, {
			method: "POST",
			headers: { "Content-Type": "application/octet-stream" },
			body: "the secret report",
		});
		const { hash } = ((await reply.json()) as { value: { hash: string } }).value;
		const thief = await personWith(server, unique("thief").replace(" ", ""), {});
		const own = newId();
		await thief.must("createLibrary", { id: own, name: unique("Thief's"), description: "" });
		await thief.must("openLock", { id: own });
		const material = newId();
		await thief.must("createMaterial", { id: material, libraryId: own, name: "Mine" });
		const open = async (): Promise<number> => (await thief.raw(`/api/v1/materials/${material}/files/${hash}`)).status;
		await thief.must("saveDraft", {
			id: material,
			edits: [edit("field:notes", "", hash), edit("density", null, value("density", "1 g/cm3"))],
		});
		expect(await open()).toBe(404);
		await thief.publish([material], hash);
		expect(await open()).toBe(404);
		const entry = { name: "x", format: "text", hash, bytes: 17, purpose: "other", note: "", version: 1, date: "2026-11-29" };
		expect(await thief.refused("saveDraft", { id: material, edits: [edit("attachments:a", null, entry)] })).not.toBe("ok");
		// nor does an edition that names it without bringing it along
		const document = (await thief.must("getSheet", { id: material })).row.document;
		const file = {
			format: "alvek-edition",
			version: 1,
			library: { uid: newId(), name: unique("Crafted"), description: "" },
			edition: { no: 1, note: "" },
			materials: [
				{
					uid: newId(),
					name: "Crafted",
					group: "",
					itemCode: "",
					retired: false,
					document: { ...document, attachments: { a: entry } },
				},
			],
			files: {},
		};
		const taken = await thief.raw("/api/v1/libraries/taken", {
			method: "POST",
			headers: { "Content-Type": "application/octet-stream" },
			body: JSON.stringify(file),
		});
		expect(((await taken.json()) as { issues: { code: string }[] }).issues[0]?.code).toBe("damaged-file");
		expect(await revise(server, id, "2.8 g/cm3")).toBe(2);
	});
});
