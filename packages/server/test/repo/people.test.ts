import { expect, it } from "vitest";
import * as repo from "../../src/repo";
import { onEveryEngine } from "./world";

onEveryEngine("people and what happened", (here) => {
	it("are found by the name that they sign in with, however it is written", async () => {
		const { write } = here.world;
		await write((sql) => repo.setSecret(sql, "mira", "scrypt$1"));
		expect(await repo.secretByLogin(here.db, "MIRA")).toEqual({ id: "mira", secret: "scrypt$1" });
		expect(await repo.secretByLogin(here.db, "")).toBeNull();
		expect(await repo.secretOf(here.db, "mira")).toBe("scrypt$1");
		expect([await repo.isLoginTaken(here.db, "Mira", ""), await repo.isLoginTaken(here.db, "Mira", "mira")]).toEqual([
			true,
			false,
		]);
		expect((await repo.peopleHere(here.db)).map((p) => [p.id, p.admin, p.secret])).toEqual([
			["local", 1, 0],
			["mira", 0, 1],
		]);
		expect(await repo.countPeopleHere(here.db)).toBe(2);
		expect([await repo.isAnybodySetUp(here.db), await repo.isOtherAdministrator(here.db, "local")]).toEqual([true, false]);
		await write((sql) => repo.setFirstLogin(sql, "mira", "other"));
		expect((await repo.personHere(here.db, "mira"))?.login).toBe("mira");
		await write((sql) => repo.changePersonRow(sql, "mira", { name: "Mira S", admin: 1 }));
		expect(await repo.isOtherAdministrator(here.db, "local")).toBe(true);
		expect((await repo.namesOfPeople(here.db)).get("mira")).toBe("Mira S");
		expect(await repo.hasPerson(here.db, "nobody")).toBe(false);
	});

	it("stand in teams, as far as they are here", async () => {
		const { write } = here.world;
		expect(await repo.allTeams(here.db)).toEqual([{ id: "winch", name: "Winch team", members: ["mira"] }]);
		expect([await repo.isTeamNameTaken(here.db, "WINCH team", ""), await repo.hasTeam(here.db, "winch")]).toEqual([true, true]);
		await write((sql) => repo.joinTeams(sql, "local", ["winch", "none"]));
		expect((await repo.allTeams(here.db))[0]?.members.length).toBe(2);
		await write((sql) => repo.putTeam(sql, { id: "dry", name: "Dry dock" }, []));
		await write((sql) => repo.removeTeamRow(sql, "dry"));
		expect(await repo.hasTeam(here.db, "dry")).toBe(false);
	});

	it("have sessions, tokens and tickets that end", async () => {
		const { write } = here.world;
		const session = { hash: "h1", id: "s1", person_id: "mira", agent: "x", created_at: "2026-02-01", seen_at: "2026-02-01" };
		await write(async (sql) => {
			await repo.insertSession(sql, session);
			await repo.insertSession(sql, { ...session, hash: "h2", id: "s2", created_at: "2020-01-01" });
			await repo.removeWornSessions(sql, "2026-01-01", "2026-01-01");
			await repo.sessionSeen(sql, "h1", "2026-02-02");
		});
		expect(await repo.sessionByHash(here.db, "h1")).toEqual({
			person: "mira",
			admin: 1,
			created_at: "2026-02-01",
			seen_at: "2026-02-02",
		});
		expect(await repo.sessionByHash(here.db, "h2")).toBeNull();
		await write((sql) => repo.insertSession(sql, { ...session, hash: "h3", id: "s3" }));
		await write((sql) => repo.removeOtherSessions(sql, "mira", "h3"));
		expect((await repo.sessionsOf(here.db, "mira", 9)).map((s) => s.hash)).toEqual(["h3"]);
		await write((sql) => repo.removeSession(sql, "h3"));
		await write((sql) => repo.removeSessionsOf(sql, "mira"));
		const token = {
			id: "t",
			hash: "th",
			person_id: "mira",
			name: "script",
			scope: "read" as const,
			created_at: "1",
			expires_at: "2026-06-01",
			used_at: null,
		};
		await write((sql) => repo.insertToken(sql, token));
		expect((await repo.tokenByHash(here.db, "th", "2026-05-01"))?.person).toBe("mira");
		expect(await repo.tokenByHash(here.db, "th", "2026-07-01")).toBeNull();
		await write((sql) => repo.tokenUsed(sql, "t", "2026-05-02"));
		expect((await repo.tokensOf(here.db, "mira"))[0]).toMatchObject({ expiresAt: "2026-06-01", usedAt: "2026-05-02" });
		expect([await repo.countTokens(here.db, "mira"), await repo.hasToken(here.db, "t")]).toEqual([1, true]);
		expect((await repo.tokenOf(here.db, "mira", "t"))?.name).toBe("script");
		await write((sql) => repo.removeTokenRow(sql, "t"));
		await write((sql) => repo.removeTokensOf(sql, "mira"));
		const ticket = {
			id: "k",
			hash: "kh",
			kind: "invitation" as const,
			person_id: null,
			content: "{}",
			made_by: "local",
			expires_at: "2026-09-01",
			used_at: null,
		};
		await write((sql) => repo.insertTicket(sql, ticket));
		expect(await repo.ticketByHash(here.db, "kh", "2026-08-01")).toMatchObject({ kind: "invitation", name: null });
		expect((await repo.openInvitations(here.db, "2026-08-01")).map((i) => i.by)).toEqual(["You, on this computer"]);
		await write((sql) => repo.ticketUsed(sql, "k", "2026-08-02"));
		expect(await repo.ticketByHash(here.db, "kh", "2026-08-01")).toBeNull();
		expect(await write((sql) => repo.removeInvitation(sql, "k"))).toBe(false);
		await write((sql) => repo.insertTicket(sql, { ...ticket, id: "k2", hash: "kh2", kind: "reset", person_id: "mira" }));
		await write((sql) => repo.removeOpenTickets(sql, "mira"));
		expect(await repo.ticketByHash(here.db, "kh2", "2026-08-01")).toBeNull();
	});

	it("events count up in the order of commits, and are told with their subjects", async () => {
		const { ctx, write } = here.world;
		const seqs: number[] = [];
		await Promise.all(
			Array.from({ length: 20 }, (_, i) =>
				write(async (sql) => {
					const before = await repo.newestSeq(sql);
					const seq = await repo.recordEvent(ctx, sql, {
						action: "material.change",
						kind: "material",
						subject: i % 2 ? "a" : "b",
						changeset: { i },
						inverse: i === 3 ? { kind: "working", library: "own", materials: [], on: true } : null,
					});
					expect(seq).toBeGreaterThan(before);
					seqs.push(seq);
				}),
			),
		);
		expect(seqs).toEqual([...seqs].sort((x, y) => x - y));
		const page = { before: Number.MAX_SAFE_INTEGER, most: 100 };
		const all = await repo.historyOf(here.db, { kind: "library", id: "own", viewer: "local" }, {}, page);
		expect(all.map((e) => e.seq)).toEqual([...seqs].reverse());
		const some = await repo.historyOf(
			here.db,
			{ kind: "material", id: "a", viewer: "local" },
			{ text: "ÄRLA".slice(1), by: "local", actions: ["material.change"], from: "2026", until: "2027" },
			{ ...page, most: 4 },
		);
		expect(some.map((e) => e.subject)).toEqual(["Ärla 4", "Ärla 4", "Ärla 4", "Ärla 4"]);
		expect(
			await repo.historyOf(here.db, { kind: "material", id: "a", viewer: "local" }, { actions: ["material.move"] }, page),
		).toEqual([]);
		const [undoable] = await repo.stepsOf(here.db, "local", "2026", 10);
		expect(undoable).toMatchObject({ subject: "Ärla 4", place: "own", may_undo: 1 });
		await write((sql) => repo.markUndone(sql, undoable?.seq ?? 0, seqs[0] as number));
		expect((await repo.eventBySeq(here.db, undoable?.seq ?? 0))?.undone_by).toBe(seqs[0]);
		expect(await repo.stepsOf(here.db, "local", "2026", 10)).toEqual([]);
		expect([...(await repo.namesOfPartsAndRevisions(here.db, ["drum", await here.world.headOf("a")])).values()].sort()).toEqual([
			"Drum",
			"Ärla 4 rev 2",
		]);
		expect(repo.tabOf(here.db, seqs[0] as number)).toBeNull();
	});

	it("notices are read from what happened to what a person uses", async () => {
		const { ctx, write } = here.world;
		await write(async (sql) => {
			await repo.addStars(sql, "mira", ["a"]);
			await repo.recordEvent(ctx, sql, {
				action: "material.publish",
				kind: "material",
				subject: "a",
				changeset: { revision: 2, note: "denser" },
				inverse: null,
			});
			await repo.recordEvent(ctx, sql, {
				action: "publish.decline",
				kind: "library",
				subject: "own",
				changeset: { note: "why?", of: "mira" },
				inverse: null,
			});
			await repo.changeMaterialRow(ctx, sql, "b", { owner: "mira", review_at: "2026-01-05" });
		});
		const asked = { person: "mira", since: "2026", places: ["own"], most: 10 };
		expect(
			(await repo.stepsOnUsed(here.db, asked, ["material.publish"])).map((s) => [s.name, s.revision, s.note, s.into]),
		).toEqual([["Ärla 4", 2, "denser", null]]);
		expect(await repo.stepsOnUsed(here.db, { ...asked, places: [] }, ["material.publish"])).toEqual([]);
		expect((await repo.declinedOf(here.db, asked)).map((d) => [d.name, d.note])).toEqual([["Bench", "why?"]]);
		expect(await repo.reviewsPassed(here.db, asked, "2026-01-06")).toEqual([
			{ id: "b", name: "bolt steel", review: "2026-01-05" },
		]);
		expect(await repo.reviewsPassed(here.db, asked, "2026-01-05")).toEqual([]);
		await write((sql) => repo.putNoticeState(sql, "mira", { seen_seq: 1, seen_day: "d", off: "[]" }));
		await write((sql) => repo.putNoticeState(sql, "mira", { seen_seq: 2, seen_day: "e", off: "[]" }));
		expect(await repo.noticeState(here.db, "mira")).toMatchObject({ seen_seq: 2, seen_day: "e" });
	});

	it("views are one's own or shared; jobs know their end; who leaves leaves nothing open", async () => {
		const { write } = here.world;
		const view = { id: "v", person_id: "mira", name: "Light", address: "?a=1", shared: 1, changed_at: "1" };
		await write((sql) => repo.putView(sql, view));
		await write((sql) => repo.putView(sql, { ...view, name: "Lighter" }));
		expect((await repo.viewsFor(here.db, "local")).map((v) => [v.name, v.by])).toEqual([["Lighter", "Mira S"]]);
		expect([await repo.countViews(here.db, "mira"), (await repo.viewById(here.db, "v"))?.name]).toEqual([1, "Lighter"]);
		const job = {
			id: "j",
			kind: "import",
			person_id: "mira",
			project_id: "p",
			library_id: null,
			state: "running" as const,
			progress: 0.1 + 0.2,
			stage: "",
			issues: "[]",
			created_at: "1",
			ended_at: null,
		};
		await write((sql) => repo.insertJob(sql, job));
		expect(await repo.jobById(here.db, "j")).toEqual(job);
		expect(await repo.runningJobs(here.db)).toEqual([{ id: "j", kind: "import" }]);
		await write((sql) => repo.endJob(sql, "j", { state: "done", progress: 1, issues: "[]", ended_at: "2" }));
		expect(await repo.runningJobs(here.db)).toEqual([]);
		await write((sql) => repo.removePerson(sql, { from: "mira", to: "local" }, "2026-12-01"));
		expect(await repo.personHere(here.db, "mira")).toBeNull();
		expect((await repo.viewById(here.db, "v"))?.person_id).toBe("local");
		expect((await repo.materialRow(here.db, "b"))?.owner).toBe("local");
		expect((await repo.allPeople(here.db)).find((p) => p.id === "mira")?.left_at).toBe("2026-12-01");
		await write((sql) => repo.removeViewRow(sql, "v"));
		expect(await repo.viewById(here.db, "v")).toBeNull();
	});
});
