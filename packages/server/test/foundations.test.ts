import type { RouteName } from "@alvek/contract";
import { ROUTES } from "@alvek/contract/routes";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { fixture, newId, type Running, startServer } from "./harness";

let server: Running;
let project: string;
let part: string;
let group: string;
beforeAll(async () => {
	server = await startServer();
	project = newId();
	await server.must("createProject", { id: project, name: "Secret" });
	await server.importFile(project, "nested.step", fixture("nested.step"));
	part = (await server.must("getProject", { id: project })).parts[0]?.id ?? "";
	group = (await server.must("getLibrary", { id: "own" })).groupTree[0]?.id ?? "";
	await server.must("saveSet", { id: "set", name: "Both", libraries: ["own", "sup"] });
	await server.installation.db.run(
		"INSERT INTO person (id, name, initials, admin) VALUES ('stranger', 'Stranger', 'S', 0), ('reader', 'Reader', 'R', 0)",
	);
	await server.installation.db.run(
		`INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', 'reader', 'library', 'own', 'reader'), ('person', 'reader', 'project', '${project}', 'reader')`,
	);
});
afterAll(() => server.stop());

const context = (person: string) => ({ ...newContext(server.installation.db), actor: { person, admin: false } });

const OWN_PROPERTY = {
	uid: "wear",
	name: "Wear",
	symbol: "w",
	siUnit: "m^2",
	unit: "mm^3/m",
	low: 0,
	high: null,
	explanation: "",
};

describe("rights, for every route of the table", () => {
	const inputs = (): Record<string, unknown> => ({
		getSession: {},
		readTicket: { ticket: "x".repeat(43) },
		listPeople: {},
		invite: { name: "", admin: true, teams: [] },
		withdrawInvitation: { id: "x" },
		changePerson: { id: "local", admin: false },
		resetPassword: { id: "local" },
		handOver: { id: "local", to: "reader" },
		saveTeam: { id: newId(), name: "Ours", members: [] },
		removeTeam: { id: "x" },
		changeMe: { name: "Somebody" },
		listSessions: {},
		listTokens: {},
		makeToken: { id: newId(), name: "x", scope: "read", days: 1 },
		removeToken: { id: "x" },
		listLibraries: {},
		findMaterials: {},
		getMaterials: { ids: "plate" },
		search: { text: "plate" },
		readNews: { after: "0" },
		listNotices: {},
		listSteps: {},
		changeNotices: { seen: true },
		findAlike: { material: "plate" },
		listDuplicates: { id: "own" },
		keepApart: { id: "plate", other: "plate", on: true },
		mergePlan: { id: "plate", other: "plate" },
		mergeMaterials: { id: "plate", other: "plate", take: [], code: false, keepRevision: 1, dropRevision: 1, note: "x" },
		readHealth: {},
		starMaterial: { id: "plate", on: true },
		listViews: {},
		listOwnUses: { id: "own" },
		saveOwnUse: {
			id: "own",
			version: 0,
			content: { uid: newId(), name: "wear", needs: ["density"], file: null, off: false },
		},
		getJobResult: { id: newId() },
		listTextures: {},
		takeTexture: { id: "plate", from: "bar", hash: "0".repeat(64) },
		saveView: { id: newId(), name: "Mine", address: "", shared: false },
		removeView: { id: newId() },
		getSheet: { id: "plate" },
		getRevision: { id: "plate", no: "1" },
		createMaterial: { id: newId(), libraryId: "own", name: "Intruder" },
		changeMaterial: { id: "plate", name: "Renamed" },
		saveDraft: { id: "plate", edits: [{ at: "field:notes", from: "", to: "x" }] },
		saveDrafts: { items: [{ id: "plate", edits: [{ at: "field:notes", from: "", to: "x" }] }] },
		removeGeometry: { id: project, hash: "0".repeat(64) },
		publishPlan: { ids: ["plate"] },
		rebaseDraft: { id: "plate", chosen: [] },
		approvePublish: { id: "x", items: [{ id: "plate", hash: "0".repeat(64) }] },
		declinePublish: { id: "x", note: "no" },
		manyMaterials: { ids: ["plate"], act: "remove" },
		copyPlan: { ids: ["plate"], libraryId: "own" },
		copyMany: { ids: ["plate"], libraryId: "own" },
		starMany: { ids: ["plate"], on: true },
		getLibrary: { id: "own" },
		createLibrary: { id: newId(), name: `Another ${newId()}`, description: "" },
		changeLibrary: { id: "own", name: "Taken over" },
		copyLibrary: { id: "own", newId: newId(), name: `A copy ${newId()}` },
		shareLibrary: { id: "own", by: "everyone", subject: "", role: "steward" },
		hideLibrary: { id: "own", on: true },
		openLock: { id: "own" },
		closeLock: { id: "own" },
		listSets: {},
		saveSet: { id: newId(), name: "Set", libraries: ["own"] },
		removeSet: { id: "set" },
		shareSet: { id: "set", by: "everyone", subject: "", role: "steward" },
		createGroup: { id: "own", group: newId(), parent: null, name: "New" },
		changeGroup: { id: group, name: "Renamed" },
		removeGroup: { id: group, to: null },
		freezeEdition: { id: "own", note: "x" },
		freezeSet: { id: "set", note: "x" },
		compareEditions: { id: "own", from: "0", to: "0" },
		draftEdition: { id: "own", no: "1" },
		setWorking: { id: "own", materials: ["plate"], on: true },
		listUnused: { id: "own" },
		emptyBin: { id: "own" },
		history: { kind: "library", id: "own" },
		setFollowing: { id: project, frozen: true },
		setDefault: { id: project, materialId: "plate" },
		confirmDefault: { id: project, parts: [part] },
		shareProject: { id: project, by: "everyone", subject: "", role: "editor" },
		getProjectRevision: { id: project, material: "plate" },
		createLocal: { id: project, material: newId(), line: "Alloy 2.7 g/cm3" },
		returnLocal: { id: project, material: "plate" },
		promoteLocal: { id: project, material: "plate", libraryId: "own", newId: newId(), name: "Up" },
		replaceLocalMaterial: { id: project, material: "plate", to: "plate" },
		publishDrafts: { items: [{ id: "plate", hash: "0".repeat(64) }], note: "x" },
		discardDraft: { id: "plate" },
		publishDraft: { id: "plate", note: "x", hash: "0".repeat(64) },
		removeMaterial: { id: "plate" },
		standOnNewest: { id: "plate", revision: 1 },
		listSources: { id: "own" },
		saveSource: { id: "own", source: newId(), version: 0, content: { kind: "document", title: "x" } },
		listOwnProperties: { id: "own" },
		saveOwnProperty: { id: "own", version: 0, content: OWN_PROPERTY },
		listBin: {},
		undo: { event: 1 },
		listProjects: {},
		createProject: { id: newId(), name: "Own project" },
		renameProject: { id: project, name: "Taken" },
		setMoney: { id: project, currency: "EUR", rates: [] },
		removeProject: { id: project },
		getProject: { id: project },
		assign: { id: project, parts: [part], materialId: "plate" },
		bringForward: { id: project, parts: [part] },
		getJob: { id: "job" },
		cancelJob: { id: "job" },
	});
	/** What a stranger and a reader get: a code, or how many things they see. */
	const table: Record<string, [stranger: string | number, reader: string | number]> = {
		getSession: ["ok", "ok"],
		readTicket: ["ticket-gone", "ticket-gone"],
		listPeople: ["ok", "ok"],
		invite: ["forbidden", "forbidden"],
		withdrawInvitation: ["forbidden", "forbidden"],
		changePerson: ["forbidden", "forbidden"],
		resetPassword: ["forbidden", "forbidden"],
		handOver: ["forbidden", "forbidden"],
		saveTeam: ["forbidden", "forbidden"],
		removeTeam: ["forbidden", "forbidden"],
		changeMe: ["ok", "ok"],
		listSessions: [0, 0],
		listTokens: [0, 0],
		makeToken: ["ok", "ok"],
		removeToken: ["not-found", "not-found"],
		listLibraries: [0, 1],
		findMaterials: [0, 1],
		getMaterials: [0, 1],
		search: [0, 1],
		readNews: ["ok", "ok"],
		listNotices: ["ok", "ok"],
		listSteps: [0, 0],
		changeNotices: ["ok", "ok"],
		findAlike: ["not-found", 0],
		listDuplicates: ["not-found", "ok"],
		keepApart: ["not-found", "forbidden"],
		mergePlan: ["not-found", "forbidden"],
		mergeMaterials: ["not-found", "forbidden"],
		readHealth: ["forbidden", "forbidden"],
		starMaterial: ["not-found", "ok"],
		// a view narrows what its reader may see anyway
		listViews: [0, 0],
		listOwnUses: ["not-found", 0],
		saveOwnUse: ["not-found", "forbidden"],
		getJobResult: ["not-found", "not-found"],
		listTextures: [0, 0],
		takeTexture: ["not-found", "forbidden"],
		saveView: ["ok", "ok"],
		removeView: ["not-found", "not-found"],
		getSheet: ["not-found", "ok"],
		getRevision: ["not-found", "ok"],
		createMaterial: ["not-found", "forbidden"],
		changeMaterial: ["not-found", "forbidden"],
		saveDraft: ["not-found", "forbidden"],
		saveDrafts: ["not-found", "forbidden"],
		removeGeometry: ["not-found", "forbidden"],
		publishPlan: ["not-found", "forbidden"],
		rebaseDraft: ["not-found", "forbidden"],
		approvePublish: ["not-found", "not-found"],
		declinePublish: ["not-found", "not-found"],
		manyMaterials: ["not-found", "forbidden"],
		copyPlan: ["not-found", "forbidden"],
		copyMany: ["not-found", "forbidden"],
		starMany: ["not-found", "ok"],
		getLibrary: ["not-found", "ok"],
		createLibrary: ["ok", "ok"],
		changeLibrary: ["not-found", "forbidden"],
		copyLibrary: ["not-found", "ok"],
		shareLibrary: ["not-found", "forbidden"],
		hideLibrary: ["not-found", "ok"],
		openLock: ["not-found", "forbidden"],
		closeLock: ["not-found", "forbidden"],
		listSets: [0, 1],
		saveSet: ["not-found", "forbidden"],
		removeSet: ["not-found", "forbidden"],
		shareSet: ["not-found", "forbidden"],
		createGroup: ["not-found", "forbidden"],
		changeGroup: ["not-found", "forbidden"],
		removeGroup: ["not-found", "forbidden"],
		freezeEdition: ["not-found", "forbidden"],
		freezeSet: ["not-found", "forbidden"],
		compareEditions: ["not-found", "ok"],
		draftEdition: ["not-found", "forbidden"],
		setWorking: ["not-found", "forbidden"],
		listUnused: ["not-found", 1],
		emptyBin: ["not-found", "forbidden"],
		history: ["not-found", "ok"],
		setFollowing: ["not-found", "forbidden"],
		setDefault: ["not-found", "forbidden"],
		confirmDefault: ["not-found", "forbidden"],
		shareProject: ["not-found", "forbidden"],
		getProjectRevision: ["not-found", "not-found"],
		createLocal: ["not-found", "forbidden"],
		promoteLocal: ["not-found", "forbidden"],
		returnLocal: ["not-found", "forbidden"],
		replaceLocalMaterial: ["not-found", "forbidden"],
		publishDrafts: ["not-found", "forbidden"],
		discardDraft: ["not-found", "forbidden"],
		publishDraft: ["not-found", "forbidden"],
		removeMaterial: ["not-found", "forbidden"],
		standOnNewest: ["not-found", "forbidden"],
		listSources: ["not-found", 0],
		saveSource: ["not-found", "forbidden"],
		listOwnProperties: ["not-found", 0],
		saveOwnProperty: ["not-found", "forbidden"],
		listBin: [0, 0],
		undo: ["not-found", "not-found"],
		listProjects: [0, 1],
		createProject: ["ok", "ok"],
		renameProject: ["not-found", "forbidden"],
		setMoney: ["not-found", "forbidden"],
		removeProject: ["not-found", "forbidden"],
		getProject: ["not-found", "ok"],
		assign: ["not-found", "forbidden"],
		bringForward: ["not-found", "forbidden"],
		getJob: ["not-found", "not-found"],
		cancelJob: ["not-found", "not-found"],
	};
	/** In `people.test.ts`: they set the cookie, so they are tried over HTTP. */
	const DOORS = ["signIn", "signInAs", "useTicket", "signOut"];
	const RAW = [
		"exportMaterial",
		"findColumns",
		"findWithColumns",
		"getFile",
		"getMesh",
		"massTable",
		"importGeometry",
		"uploadFile",
		"exportEdition",
		"takeEdition",
		"live",
		"historyTable",
	];

	it("covers the whole table", () => {
		expect([...Object.keys(table), ...RAW, ...DOORS].sort()).toEqual(Object.keys(ROUTES).sort());
	});

	it.each(["stranger", "reader"] as const)("%s", async (person) => {
		for (const [name, expected] of Object.entries(table)) {
			const handler = server.installation.services.json[name as Exclude<RouteName, never> as never] as (
				c: unknown,
				i: unknown,
			) => Promise<{ ok: boolean; value?: unknown; issues?: { code: string }[] }>;
			const result = await handler(context(person), inputs()[name]);
			const value = result.value as { total?: number; length?: number } | undefined;
			const seen = result.ok
				? typeof expected[person === "stranger" ? 0 : 1] === "number"
					? (value?.total ?? value?.length)
					: "ok"
				: result.issues?.[0]?.code;
			expect([name, seen]).toEqual([name, expected[person === "stranger" ? 0 : 1]]);
		}
	});

	it("the routes of bytes too", async () => {
		const { raw } = server.installation.services;
		const ctx = context("stranger");
		const hash = "0".repeat(64);
		for (const result of [
			await raw.exportMaterial(ctx, { id: "plate" }),
			await raw.getMesh(ctx, { id: project, hash }),
			await raw.massTable(ctx, { id: project }),
			await raw.exportEdition(ctx, { id: "own", no: "1" }),
			await raw.historyTable(ctx, { kind: "library", id: "own" }),
			await raw.importGeometry(ctx, { id: project, file: "x", job: newId() }, { stream: null as never, length: 1 }),
		]) {
			expect(result.ok ? "ok" : result.issues[0]?.code).toBe("not-found");
		}
	});

	/** What each role of a library, and of a project, may do; weaker ones first, because stronger ones change what is there. */
	const roles = {
		library: {
			reader: ["library.read"],
			editor: ["library.read", "library.edit", "library.publish"],
			steward: ["library.read", "library.edit", "library.publish", "library.steward"],
		},
		project: {
			reader: ["project.read"],
			editor: ["project.read", "project.edit"],
			owner: ["project.read", "project.edit", "project.share", "project.remove"],
		},
	} as const;
	const pairs = [
		["reader", "reader"],
		["editor", "editor"],
		["steward", "owner"],
	] as const;

	it.each(pairs)(
		"a %s of the library and %s of the project is refused exactly what the role lacks",
		async (library, projectRole) => {
			const person = `role-${library}`;
			const { db } = server.installation;
			await db.run("INSERT INTO person (id, name, initials, admin) VALUES ($person, $person, 'X', 0)", { person });
			for (const [kind, target, role] of [
				["library", "own", library],
				["library", "sup", library],
				["project", project, projectRole],
			] as const)
				await db.run(
					"INSERT INTO access_grant (subject_kind, subject, kind, target, role) VALUES ('person', $person, $kind, $target, $role)",
					{
						person,
						kind,
						target,
						role,
					},
				);
			const may = new Set<string>([...roles.library[library], ...roles.project[projectRole]]);
			for (const [name, route] of Object.entries(ROUTES)) {
				// an own library's working list takes an editor; a supplied one's whoever reads it, which is what the route says
				const action = name === "setWorking" ? "library.edit" : route.action;
				if (!(name in table) || (!action.startsWith("library.") && !action.startsWith("project."))) continue;
				if (action === "library.create" || action === "project.create") continue;
				const handler = server.installation.services.json[name as never] as (
					c: unknown,
					i: unknown,
				) => Promise<{ ok: boolean; issues?: { code: string }[] }>;
				const result = await handler(context(person), inputs()[name]);
				const code = result.ok ? "ok" : (result.issues?.[0]?.code ?? "");
				// routes that lead to a list, or whose id is made up, tell nothing of rights by their code
				const made = ["approvePublish", "declinePublish"].includes(name);
				if (!made) expect([name, action, code === "forbidden"]).toEqual([name, action, !may.has(action)]);
			}
		},
	);
});
