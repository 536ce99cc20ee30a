import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newContext } from "../src/index";
import { hashPassword, passwordFits } from "../src/people/password";
import { setupLink } from "../src/people/tickets";
import { client, newId, personWith, type Running, startServer, value } from "./harness";

let server: Running;
beforeAll(async () => {
	server = await startServer();
});
afterAll(() => server.stop());

/** A POST as a browser's page sends it. */
function post(path: string, body: unknown, headers: Record<string, string> = { Origin: server.base }): Promise<Response> {
	return fetch(`${server.base}/api/v1${path}`, {
		method: "POST",
		headers: { "Content-Type": "application/json", ...headers },
		body: JSON.stringify(body),
	});
}
const cookieOf = (reply: Response): string => reply.headers.get("set-cookie")?.split(";")[0] ?? "";
const codeOf = async (reply: Response): Promise<string> =>
	((await reply.json()) as { ok: boolean; issues?: { code: string }[] }).issues?.[0]?.code ?? "ok";

const PASSWORD = "seven winches by the quay";

describe("passwords", () => {
	it("are kept as salted scrypt with their costs, and never twice the same", async () => {
		const [a, b] = [await hashPassword(PASSWORD), await hashPassword(PASSWORD)];
		expect(a).toMatch(/^scrypt\$1024\$8\$1\$/);
		expect(a).not.toBe(b);
		expect(await passwordFits(PASSWORD, a)).toBe(true);
		expect(await passwordFits(`${PASSWORD} `, a)).toBe(false);
		expect(await passwordFits(PASSWORD, null)).toBe(false);
	});

	it("fit in whichever way the keyboard composes an accent", async () => {
		const secret = await hashPassword("caf\u00e9 on the pier");
		expect(await passwordFits("cafe\u0301 on the pier", secret)).toBe(true);
	});
});

describe("a first start", () => {
	it("prints one link that makes the administrator, once", async () => {
		const ctx = newContext(server.installation.db);
		const first = await setupLink(ctx);
		const second = await setupLink(ctx);
		const ticket = (path: string | null): string => (path ?? "").replace("/join/", "");
		// a newer link takes the older one's place
		expect(await codeOf(await post(`/tickets/${ticket(first)}`, { name: "A", login: "aa", password: PASSWORD }))).toBe(
			"ticket-gone",
		);
		const view = (await (await fetch(`${server.base}/api/v1/tickets/${ticket(second)}`)).json()) as { value: unknown };
		expect(view.value).toEqual({ kind: "setup", name: "", login: "" });
		expect(await codeOf(await post(`/tickets/${ticket(second)}`, { name: "Ada Keel", login: "ada", password: "short" }))).toBe(
			"password-length",
		);
		expect(
			await codeOf(
				await post(`/tickets/${ticket(second)}`, { name: "Ada Keel", login: "adakeel", password: "my name is adakeel" }),
			),
		).toBe("password-is-name");
		const done = await post(`/tickets/${ticket(second)}`, { name: "Ada Keel", login: "ada", password: PASSWORD });
		expect(done.status).toBe(200);
		expect(((await done.json()) as { value: { person: unknown } }).value.person).toMatchObject({
			id: "local",
			name: "Ada Keel",
			initials: "AK",
			admin: true,
		});
		expect(await codeOf(await post(`/tickets/${ticket(second)}`, { name: "Eve", login: "eve", password: PASSWORD }))).toBe(
			"ticket-gone",
		);
		expect(await setupLink(ctx)).toBeNull();
	});

	it("keeps no secret in the clear", async () => {
		const rows = await server.installation.db.all<{ secret: string }>("SELECT secret FROM person WHERE secret IS NOT NULL");
		expect(rows.every((r) => r.secret.startsWith("scrypt$"))).toBe(true);
		for (const table of ["session", "token", "ticket"])
			for (const row of await server.installation.db.all<{ hash: string }>(`SELECT hash FROM ${table}`))
				expect(row.hash).toMatch(/^[0-9a-f]{64}$/);
	});
});

describe("a session", () => {
	const signIn = (login = "ada", password = PASSWORD, headers?: Record<string, string>): Promise<Response> =>
		post("/session/sign-in", { login, password }, headers);
	const whoIs = async (cookie: string): Promise<string | null> => {
		const reply = await fetch(`${server.base}/api/v1/session`, { headers: { Cookie: cookie } });
		return ((await reply.json()) as { value: { person: { name: string } | null } }).value.person?.name ?? null;
	};

	it("comes in a cookie that scripts cannot read and other sites cannot send", async () => {
		const reply = await signIn();
		const flags = reply.headers.get("set-cookie") ?? "";
		expect(flags).toMatch(/HttpOnly/);
		expect(flags).toMatch(/SameSite=Lax/);
		expect(flags).toMatch(/Path=\//);
		// plain http here; behind TLS the flag is set (below)
		expect(flags).not.toMatch(/Secure/);
		expect(await whoIs(cookieOf(reply))).toBe("Ada Keel");
	});

	it("is never one that was there before signing in", async () => {
		const planted = `alvek_session=${"A".repeat(43)}`;
		const reply = await signIn("ada", PASSWORD, { Origin: server.base, Cookie: planted });
		expect(cookieOf(reply)).not.toBe(planted);
		expect(await whoIs(planted)).toBeNull();
		// signing in again ends the session that the browser still held
		const first = cookieOf(reply);
		const second = cookieOf(await signIn("ada", PASSWORD, { Origin: server.base, Cookie: first }));
		expect([await whoIs(first), await whoIs(second)]).toEqual([null, "Ada Keel"]);
	});

	it("changes nothing for a page of another site, or for one that does not say where it is from", async () => {
		const cookie = cookieOf(await signIn());
		const body = { id: newId(), name: "Planted" };
		for (const headers of [{ Cookie: cookie }, { Cookie: cookie, Origin: "https://elsewhere.example" }] as Record<
			string,
			string
		>[]) {
			const reply = await post("/projects", body, headers);
			expect([reply.status, await codeOf(reply)]).toEqual([403, "bad-host"]);
		}
		expect(await codeOf(await post("/projects", body, { Cookie: cookie, Origin: server.base }))).toBe("ok");
	});

	it("ends where one signs out, or everywhere", async () => {
		const [a, b] = [cookieOf(await signIn()), cookieOf(await signIn())];
		await post("/session/sign-out", {}, { Cookie: a, Origin: server.base });
		expect([await whoIs(a), await whoIs(b)]).toEqual([null, "Ada Keel"]);
		const c = cookieOf(await signIn());
		await post("/session/sign-out", { everywhere: true }, { Cookie: b, Origin: server.base });
		expect([await whoIs(b), await whoIs(c)]).toEqual([null, null]);
	});

	it("wears out when it is not used", async () => {
		const cookie = cookieOf(await signIn());
		const { db } = server.installation;
		const old = new Date(Date.now() - 15 * 86_400_000).toISOString();
		await db.run("UPDATE session SET seen_at = $old", { old });
		expect(await whoIs(cookie)).toBeNull();
	});

	it("tells wrong names and wrong passwords by the same words, and slows guessing down", async () => {
		const wrong = await signIn("nobody", PASSWORD);
		expect([wrong.status, await codeOf(wrong)]).toEqual([401, "wrong-sign-in"]);
		const codes: string[] = [];
		for (let i = 0; i < 12; i++) codes.push(await codeOf(await signIn("ada", `guess number ${i}`)));
		expect(codes.slice(0, 10)).toEqual(Array(10).fill("wrong-sign-in"));
		expect(codes.slice(10)).toEqual(["too-many-tries", "too-many-tries"]);
		// the right one does not help a guesser any more, another name is not held up
		expect(await codeOf(await signIn("ada", PASSWORD))).toBe("too-many-tries");
		expect(await codeOf(await signIn("somebody-else", PASSWORD))).toBe("wrong-sign-in");
	});

	it("is asked for by every route but the open ones", async () => {
		const nobody = client(server.base);
		expect(await nobody.refused("listLibraries", {})).toBe("signed-out");
		expect(await nobody.refused("getSheet", { id: "plate" })).toBe("signed-out");
		expect((await nobody.raw("/api/v1/materials/plate/export.json")).status).toBe(401);
		expect((await nobody.upload("x", "x.step", new Uint8Array([1]))).ok).toBe(false);
		expect((await nobody.must("getSession", {})).person).toBeNull();
		expect(await nobody.refused("signInAs", { person: "local" })).toBe("not-found");
	});
});

describe("a token", () => {
	it("is held to its scope and its last day, and never reaches people or accounts", async () => {
		const reading = await server.must("listTokens", {}).catch(() => null);
		// the harness itself shows a token, so it may not make one
		expect(reading).toBeNull();
		const { makeToken } = await import("../src/people/tokens");
		const made = await makeToken(newContext(server.installation.db), { id: newId(), name: "reads", scope: "read", days: 1 });
		if (!made.ok) throw new Error();
		const script = client(server.base, { Authorization: `Bearer ${made.value.secret}` });
		expect((await script.must("listLibraries", {})).length).toBe(2);
		expect(await script.refused("createProject", { id: newId(), name: "No" })).toBe("forbidden");
		expect(await script.refused("makeToken", { id: newId(), name: "more", scope: "write", days: 365 })).toBe("forbidden");
		await server.installation.db.run("UPDATE token SET expires_at = '2020-01-01T00:00:00.000Z' WHERE id = $id", {
			id: made.value.id,
		});
		expect(await script.refused("listLibraries", {})).toBe("signed-out");
		expect(await client(server.base, { Authorization: "Bearer alvek_made-up" }).refused("listLibraries", {})).toBe("signed-out");
	});
});

describe("people", () => {
	const admin = () => ({ ...newContext(server.installation.db) });
	const json = () => server.installation.services.json;

	it("join by an invitation, with the teams that it names", async () => {
		const team = newId();
		await json().saveTeam(admin(), { id: team, name: "Winches", members: [] });
		const link = await json().invite(admin(), { name: "Bo Tiller", admin: false, teams: [team] });
		if (!link.ok) throw new Error();
		const ticket = link.value.path.replace("/join/", "");
		expect(await codeOf(await post(`/tickets/${ticket}`, { name: "Bo Tiller", login: "ADA", password: PASSWORD }))).toBe(
			"login-taken",
		);
		expect(await codeOf(await post(`/tickets/${ticket}`, { name: "Bo Tiller", login: "bo tiller", password: PASSWORD }))).toBe(
			"bad-login",
		);
		expect(await codeOf(await post(`/tickets/${ticket}`, { name: "Bo Tiller", login: "bo", password: PASSWORD }))).toBe("ok");
		const people = await json().listPeople(admin(), {});
		const bo = people.ok ? people.value.people.find((p) => p.login === "bo") : undefined;
		expect(bo?.admin).toBe(false);
		if (!people.ok) throw new Error();
		expect(people.value.teams.find((t) => t.id === team)?.members).toEqual([bo?.id]);
	});

	it("get a new password by an administrator's link, which ends their sessions", async () => {
		const first = await post("/session/sign-in", { login: "bo", password: PASSWORD });
		const cookie = cookieOf(first);
		const bo = ((await first.json()) as { value: { person: { id: string } } }).value.person.id;
		const link = await json().resetPassword(admin(), { id: bo });
		if (!link.ok) throw new Error();
		const next = "nine bollards and a rope";
		const path = `/tickets/${link.value.path.replace("/join/", "")}`;
		expect(await codeOf(await post(path, { name: "Bo Tiller", login: "bo", password: next }))).toBe("ok");
		expect((await fetch(`${server.base}/api/v1/libraries`, { headers: { Cookie: cookie } })).status).toBe(401);
		expect(await codeOf(await post("/session/sign-in", { login: "bo", password: PASSWORD }))).toBe("wrong-sign-in");
		expect(await codeOf(await post("/session/sign-in", { login: "bo", password: next }))).toBe("ok");
	});

	it("never end up without an administrator", async () => {
		const refused = await json().changePerson(admin(), { id: "local", admin: false });
		expect(refused.ok ? "ok" : refused.issues[0]?.code).toBe("last-administrator");
	});

	it("leave in one step: drafts are joined, libraries and projects handed over, nothing opens any more", async () => {
		const leaver = await personWith(server, "leaver", { own: "steward" });
		const heir = await personWith(server, "heir", { own: "reader" });
		const project = newId();
		await leaver.must("createProject", { id: project, name: "Left behind" });
		const only = newId();
		await leaver.must("createMaterial", { id: only, libraryId: "own", name: "Only the leaver's" });
		const sheet = await leaver.must("getSheet", { id: "plate" });
		const { values, notes } = sheet.row.document;
		const edit = (at: string, from: unknown, to: unknown) => ({ at, from, to }) as never;
		await leaver.must("saveDraft", {
			id: "plate",
			edits: [edit("density", values.density, value("density", "2.72 g/cm3")), edit("field:notes", notes, "of the leaver")],
		});
		// the heir has become an editor meanwhile and has a draft of the same material
		await server.installation.db.run("UPDATE access_grant SET role = 'editor' WHERE subject = 'heir'");
		await heir.must("saveDraft", { id: "plate", edits: [edit("density", values.density, value("density", "2.69 g/cm3"))] });
		const done = await json().handOver(admin(), { id: "leaver", to: "heir" });
		if (!done.ok) throw new Error(JSON.stringify(done.issues));
		expect(done.value).toEqual({ drafts: 2, libraries: 1, projects: 1, kept: [{ material: "Plate 21", at: "density" }] });
		const plate = (await heir.must("getSheet", { id: "plate" })).row.document;
		expect([plate.notes, plate.values.density]).toMatchObject(["of the leaver", { entered: "2.69 g/cm3" }]);
		expect((await heir.must("getSheet", { id: only })).mayEdit).toBe(true);
		expect((await heir.must("getProject", { id: project })).name).toBe("Left behind");
		expect(await heir.refused("removeProject", { id: project })).toBe("ok");
		expect(await leaver.refused("listLibraries", {})).toBe("signed-out");
	});

	it("and the table of routes is served as OpenAPI", async () => {
		const reply = (await (await fetch(`${server.base}/api/v1/openapi.json`)).json()) as {
			openapi: string;
			paths: Record<string, Record<string, { operationId: string; parameters?: { name: string; in: string }[] }>>;
		};
		const { ROUTES } = await import("@alvek/contract/routes");
		const named = Object.values(reply.paths).flatMap((p) => Object.values(p).map((o) => o.operationId));
		expect(named.sort()).toEqual(Object.keys(ROUTES).sort());
		const sheet = reply.paths["/api/v1/materials/{id}"]?.get;
		expect(sheet?.parameters).toMatchObject([{ name: "id", in: "path", required: true }]);
	});
});

it("behind a proxy that ends TLS the cookie goes over TLS only", async () => {
	const { listen } = await import("../src/index");
	const behind = await listen(server.installation, {
		port: 0,
		host: "127.0.0.1",
		webRoot: null,
		hostNames: [],
		log: "silent",
		behindProxy: true,
	});
	const base = `http://127.0.0.1:${behind.port}`;
	const reply = await fetch(`${base}/api/v1/session/sign-in`, {
		method: "POST",
		headers: { "Content-Type": "application/json", Origin: base.replace("http:", "https:"), "X-Forwarded-Proto": "https" },
		body: JSON.stringify({ login: "ada", password: PASSWORD }),
	});
	// browsers come back over TLS only, and a page over plain http is another one
	expect(reply.headers.get("strict-transport-security")).toBe("max-age=31536000");
	const plain = await fetch(`${base}/api/v1/session/sign-in`, {
		method: "POST",
		headers: { "Content-Type": "application/json", Origin: base, "X-Forwarded-Proto": "https" },
		body: JSON.stringify({ login: "ada", password: PASSWORD }),
	});
	expect(await codeOf(plain)).toBe("bad-host");
	expect(reply.headers.get("set-cookie")).toMatch(/; Secure/);
	behind.server.close();
	behind.server.closeAllConnections();
});
