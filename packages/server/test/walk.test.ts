import { fillPath, type RouteName } from "@alvek/contract";
import { ROUTES } from "@alvek/contract/routes";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { type Client, client, fixture, newId, personWith, type Running, startServer, tokenOf, value } from "./harness";
import { edit } from "./team";
import { ELSEWHERE, MARK, TEMPLATES } from "./walk.data";

/**
 * Every route of the table with foreign ids in path and body, alone and mixed with one's own, asked by people who never
 * had a right and by people whose right ended in each way that there is. Whatever they are answered, it holds nothing
 * that is marked, and nothing of the foreign world has changed.
 */
let server: Running;
let foreign: Readonly<Record<string, string>>;
const db = () => server.installation.db;

async function material(by: Client, library: string, name: string, mark: string): Promise<string> {
	const id = newId();
	await by.must("createMaterial", { id, libraryId: library, name, group: `${mark} Metals` });
	await by.must("saveDraft", { id, edits: [edit("density", null, value("density", "2.7 g/cm3"))] });
	await by.publish([id], `${mark} note`);
	return id;
}

/** A world of one person's: every kind of thing that has an id. `name` marks it. */
async function worldOf(by: Client, mark: string): Promise<Record<string, string>> {
	const [L, P, S] = [newId(), newId(), newId()];
	await by.must("createLibrary", { id: L, name: `${mark} Lent ${L.slice(-6)}`, description: mark });
	await by.must("openLock", { id: L });
	const M = await material(by, L, `${mark} Lent alloy`, mark);
	const N = await material(by, L, `${mark} other`, mark);
	const [G, G2] = [newId(), newId()];
	await by.must("createGroup", { id: L, group: G, parent: null, name: `${mark} A` });
	const renamed = await by.must("changeGroup", { id: G, name: `${mark} B` });
	await by.must("createGroup", { id: L, group: G2, parent: null, name: `${mark} C` });
	await by.must("saveSet", { id: S, name: `${mark} set`, libraries: [L] });
	await by.must("freezeEdition", { id: L, note: `${mark} edition` });
	const source = newId();
	await by.must("saveSource", { id: L, source, version: 0, content: { kind: "document", title: `${mark} source` } } as never);
	const prop = `p${newId().slice(-8)}`;
	await by.must("saveOwnProperty", {
		id: L,
		version: 0,
		content: {
			uid: prop,
			name: `${mark} wear ${prop}`,
			symbol: "w",
			siUnit: "m^2",
			unit: "mm^3/m",
			low: 0,
			high: null,
			explanation: mark,
		},
	} as never);
	await by.must("createProject", { id: P, name: `${mark} project` });
	const job = (await by.upload(
		P,
		`${mark}.step`,
		Buffer.from(fixture("nested.step").toString().replaceAll("Becket", `${mark} becket`)),
	)) as { value: { id: string } };
	for (;;) if ((await by.must("getJob", { id: job.value.id })).state !== "running") break;
	const project = await by.must("getProject", { id: P });
	const part = project.parts[0]?.id ?? "";
	const assigned = await by.must("assign", { id: P, parts: [part], materialId: M });
	const moved = await by.must("changeMaterial", { id: N, itemCode: `${mark}-1` });
	const view = newId();
	await by.must("saveView", { id: view, name: `${mark} view`, address: "x=1", shared: false });
	const draft = await by.must("saveDraft", { id: M, edits: [edit("field:description", "", `${mark} draft`)] });
	const upload = await by.raw(`/api/v1/materials/${M}/files?file=x.txt&as=attachment`, {
		method: "POST",
		headers: { "Content-Type": "application/octet-stream" },
		body: `${mark} file`,
	});
	const file = ((await upload.json()) as { value: { hash: string } }).value.hash;
	const made = await by.must("shareLibrary", { id: L, by: "person", subject: "local", role: "reader" });
	return {
		L,
		P,
		S,
		M,
		N,
		G,
		G2,
		source,
		prop,
		part,
		view,
		file,
		job: job.value.id,
		geometry: project.imports[0]?.hash ?? "",
		hash: draft.hash,
		event: String(renamed.event),
		event2: String(assigned.event),
		event3: String(moved.event),
		event4: String(made.event),
	};
}

/** All mixes of foreign and own for what a template names. */
function mixesOf(template: object, own: Readonly<Record<string, string>>): unknown[] {
	const text = JSON.stringify(template);
	const names = [...new Set([...text.matchAll(/\$(\w+)/g)].map((m) => m[1] as string))].filter((n) => n in foreign);
	const mixes: unknown[] = [];
	for (let mask = 0; mask < 2 ** names.length; mask++) {
		// one that names nothing foreign is asked too: lists answer what one may see
		const filled = text.replace(/"?\$(\w+)"?/g, (all, name: string) => {
			const at = names.indexOf(name);
			const from = at < 0 || (mask >> at) % 2 === 0 ? { ...own, ...foreign } : own;
			const id = name === "new" ? newId() : name === "me" ? (own.me as string) : (from[name] ?? own[name] ?? newId());
			if (name.startsWith("event")) return id;
			return `${all.startsWith('"') ? '"' : ""}${id}${all.endsWith('"') ? '"' : ""}`;
		});
		mixes.push(JSON.parse(filled));
	}
	return mixes;
}

/** What the foreign world is, row by row, but for what time alone changes. */
async function snapshot(): Promise<string> {
	const { L, P, S } = foreign;
	const bind = { L: L as string, P: P as string, S: S as string };
	const ask = async (sql: string): Promise<unknown> => {
		const used = Object.fromEntries(Object.entries(bind).filter(([k]) => sql.includes(`$${k}`)));
		return db().all(sql, used);
	};
	return JSON.stringify([
		await ask("SELECT * FROM library WHERE id = $L"),
		await ask("SELECT * FROM material WHERE library_id = $L OR project_id = $P ORDER BY id"),
		await ask("SELECT r.* FROM revision r JOIN material m ON m.id = r.material_id WHERE m.library_id = $L ORDER BY r.id"),
		await ask("SELECT f.* FROM draft f JOIN material m ON m.id = f.material_id WHERE m.library_id = $L ORDER BY f.id"),
		await ask("SELECT * FROM library_group WHERE library_id = $L ORDER BY id"),
		await ask("SELECT * FROM access_grant WHERE target IN ($L, $P, $S) ORDER BY subject, target"),
		await ask("SELECT * FROM set_member WHERE set_id = $S OR library_id = $L ORDER BY set_id"),
		await ask("SELECT * FROM edition WHERE library_id = $L ORDER BY id"),
		await ask(
			"SELECT * FROM source WHERE library_id = $L UNION ALL SELECT uid, library_id, version, content, changed_at FROM own_property WHERE library_id = $L UNION ALL SELECT uid, library_id, version, content, changed_at FROM own_use WHERE library_id = $L",
		),
		await ask("SELECT id, name, frozen, money, forward, removed_at, default_revision_id FROM project WHERE id = $P"),
		await ask("SELECT a.* FROM assignment a WHERE a.project_id = $P ORDER BY part_id"),
		await ask("SELECT * FROM import WHERE project_id = $P"),
		await ask("SELECT * FROM working_list WHERE library_id = $L"),
		await ask("SELECT library_id, opened_by FROM library_lock WHERE library_id = $L"),
	]);
}

type Counts = { asked: number; refused: number; answered: number };

/** One person asks everything; what they are answered holds no mark, and the foreign world stays as it is. */
async function walk(by: Client, own: Readonly<Record<string, string>>, mark = MARK): Promise<Counts> {
	const counts: Counts = { asked: 0, refused: 0, answered: 0 };
	const before = await snapshot();
	for (const [name, templates] of Object.entries(TEMPLATES) as [RouteName, readonly object[]][]) {
		for (const template of templates) {
			for (const input of mixesOf(template, own)) {
				const { path, rest } = fillPath(ROUTES[name], input as Record<string, unknown>);
				const isGet = ROUTES[name].method === "GET";
				const query = isGet && Object.keys(rest).length > 0 ? `?${new URLSearchParams(rest as Record<string, string>)}` : "";
				const init = isGet
					? {}
					: { method: ROUTES[name].method, headers: { "Content-Type": "application/json" }, body: JSON.stringify(rest) };
				const reply = await by.raw(path + query, init);
				const answer = Buffer.from(await reply.arrayBuffer()).toString("latin1");
				counts.asked++;
				if (reply.status >= 400) counts.refused++;
				else counts.answered++;
				expect(reply.status, `${name} ${JSON.stringify(input)}: ${answer.slice(0, 200)}`).toBeLessThan(500);
				// what was asked for may be said back
				const said = answer
					.replaceAll(JSON.stringify(input).slice(1, -1), "")
					.replaceAll(encodeURIComponent(JSON.stringify(input)), "");
				if (!JSON.stringify(input).includes(mark))
					expect(said.includes(mark), `${name} ${JSON.stringify(input)} told: ${answer.slice(0, 400)}`).toBe(false);
			}
		}
	}
	expect(await snapshot()).toBe(before);
	return counts;
}

const total: Counts = { asked: 0, refused: 0, answered: 0 };
function add(counts: Counts): void {
	for (const key of ["asked", "refused", "answered"] as const) total[key] += counts[key];
}

beforeAll(async () => {
	server = await startServer();
	const owner = await personWith(server, "owner", {});
	const team = newId();
	await db().run("INSERT INTO team (id, name) VALUES ($team, 'Ours')", { team });
	foreign = { ...(await worldOf(owner, MARK)), team, token: newId(), ticket: newId(), publish: newId() };
}, 60_000);
afterAll(() => {
	console.log(
		`rights walk: ${total.asked} requests over ${Object.keys(TEMPLATES).length} routes, ${total.refused} refused, ${total.answered} answered, none of them with what is not theirs`,
	);
	return server.stop();
});

let count = 0;
async function intruder(prepare: (id: string) => Promise<void> = async () => undefined) {
	const id = `intruder${++count}`;
	await db().run("INSERT INTO person (id, name, initials) VALUES ($id, $id, 'I')", { id });
	const by = client(server.base, await tokenOf(server.installation, id));
	const own = { ...(await worldOf(by, "plain")), me: id };
	await prepare(id);
	return { by, own, id };
}
const grant = (subject: string, by: "person" | "team" | "everyone", kind: string, target: string, role: string): Promise<void> =>
	db().run("INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ($by, $subject, $kind, $target, $role)", {
		by,
		subject,
		kind,
		target,
		role,
	});

describe("every route with foreign ids", () => {
	it("every route of the table is walked, or said to be tried elsewhere", () => {
		const missing = (Object.keys(ROUTES) as RouteName[]).filter(
			(name) => TEMPLATES[name] === undefined && !ELSEWHERE.includes(name),
		);
		expect(missing).toEqual([]);
	});

	it("asked by somebody who never had a right", async () => {
		const { by, own } = await intruder();
		add(await walk(by, own));
	}, 120_000);

	const { L, P, S } = { L: () => foreign.L as string, P: () => foreign.P as string, S: () => foreign.S as string };
	it.each([
		[
			"their own roles were taken away",
			async (id: string) => {
				await grant(id, "person", "library", L(), "steward");
				await grant(id, "person", "project", P(), "owner");
			},
			(id: string) => db().run("DELETE FROM access_grant WHERE subject = $id AND target IN ($l, $p)", { id, l: L(), p: P() }),
		],
		[
			"they left the team",
			async (id: string) => {
				await db().run("INSERT INTO member (team_id, person_id) VALUES ($team, $id)", { team: foreign.team as string, id });
				await grant(foreign.team as string, "team", "library", L(), "editor");
				await grant(foreign.team as string, "team", "project", P(), "editor");
			},
			async (id: string) => {
				await db().run("DELETE FROM member WHERE person_id = $id", { id });
				await db().run("DELETE FROM access_grant WHERE subject_kind = 'team'");
			},
		],
		[
			"the library's set is no longer open to them",
			(id: string) => grant(id, "person", "set", S(), "editor"),
			(id: string) => db().run("DELETE FROM access_grant WHERE subject = $id AND kind = 'set'", { id }),
		],
		[
			"it is no longer open to everyone",
			() => grant("", "everyone", "library", L(), "editor"),
			() => db().run("DELETE FROM access_grant WHERE subject_kind = 'everyone'"),
		],
		[
			"they are no administrator any more",
			(id: string) => db().run("UPDATE person SET admin = 1 WHERE id = $id", { id }),
			(id: string) => db().run("UPDATE person SET admin = 0 WHERE id = $id", { id }),
		],
	] as const)(
		"asked after %s",
		async (_, give, take) => {
			const { by, own, id } = await intruder(give as (id: string) => Promise<void>);
			// they used what they could: a star, a part of their own project, a draft, a look around
			expect((await by.must("getSheet", { id: foreign.M as string })).row.id).toBe(foreign.M);
			await by.must("starMaterial", { id: foreign.M as string, on: true });
			await take(id);
			add(await walk(by, own));
			await db().run("DELETE FROM star WHERE person_id = $id", { id });
		},
		120_000,
	);

	it("a stream, a cookie and a token of somebody who left open nothing", async () => {
		const { by, id } = await intruder((person) => grant(person, "person", "library", L(), "editor"));
		const admin = newContext(db());
		const left = await server.installation.services.json.handOver(admin, { id, to: "local" });
		expect(left.ok).toBe(true);
		for (const name of ["listLibraries", "listSteps", "readNews"] as const) {
			const reply = await by.raw(fillPath(ROUTES[name], name === "readNews" ? { after: "0" } : {}).path);
			expect([name, reply.status]).toEqual([name, 401]);
		}
		expect((await by.raw("/api/v1/live")).status).toBe(401);
	});
});
