import { describe, expect, it } from "vitest";
import { ACTIONS, type Actor, closesAt, lockNow, may, mayCall, passesLock, type Resource, rightsSentence } from "./index";

const PERSON: Actor = { person: "p", admin: false };
const ADMIN: Actor = { person: "a", admin: true };

describe("may", () => {
	it.each([
		["reader reads", PERSON, "library.read", { kind: "library", supplied: false, role: "reader" }, null],
		["reader does not edit", PERSON, "library.edit", { kind: "library", supplied: false, role: "reader" }, "forbidden"],
		["editor edits", PERSON, "library.edit", { kind: "library", supplied: false, role: "editor" }, null],
		["nobody edits what is supplied", PERSON, "library.edit", { kind: "library", supplied: true, role: "steward" }, "read-only"],
		["not even an administrator", ADMIN, "library.edit", { kind: "library", supplied: true, role: null }, "read-only"],
		["what one may not see is not there", PERSON, "library.read", { kind: "library", supplied: false, role: null }, "not-found"],
		["a project's editor does not delete it", PERSON, "project.remove", { kind: "project", role: "editor" }, "forbidden"],
		["its owner does", PERSON, "project.remove", { kind: "project", role: "owner" }, null],
		["a stranger's project is not there", PERSON, "project.edit", { kind: "project", role: null }, "not-found"],
		["another person's job is not there", PERSON, "job.cancel", { kind: "job", person: "q" }, "not-found"],
		["an editor publishes", PERSON, "library.publish", { kind: "library", supplied: false, role: "editor" }, null],
		["an editor is no steward", PERSON, "library.steward", { kind: "library", supplied: false, role: "editor" }, "forbidden"],
		[
			"a steward keeps a supplied library too",
			PERSON,
			"library.steward",
			{ kind: "library", supplied: true, role: "steward" },
			null,
		],
		["a project's editor does not share it", PERSON, "project.share", { kind: "project", role: "editor" }, "forbidden"],
		["people are an administrator's", PERSON, "people.manage", { kind: "installation" }, "forbidden"],
		["who manages them", ADMIN, "people.manage", { kind: "installation" }, null],
		["everybody may begin a project", PERSON, "project.create", { kind: "installation" }, null],
	] as const)("%s", (_, actor, action, resource, code) => {
		expect(may(actor, action, resource)?.code ?? null).toBe(code);
	});

	it("never allows an action on the wrong kind of thing", () => {
		const library: Resource = { kind: "library", supplied: false, role: "steward" };
		for (const action of ACTIONS.filter((a) => !a.startsWith("library."))) expect(may(ADMIN, action, library)).not.toBeNull();
	});

	it("holds a token to its scope", () => {
		const reading: Actor = { ...ADMIN, scope: "read" };
		const writing: Actor = { ...ADMIN, scope: "write" };
		expect(mayCall(reading, { action: "library.read", reads: true })).toBeNull();
		expect(mayCall(reading, { action: "library.read", reads: false })?.code).toBe("forbidden");
		expect(mayCall(writing, { action: "library.edit", reads: false })).toBeNull();
		expect(mayCall(writing, { action: "people.manage", reads: false })?.code).toBe("forbidden");
		expect(mayCall(writing, { action: "account.own", reads: true })?.code).toBe("forbidden");
		expect(mayCall(PERSON, { action: "account.own", reads: false })).toBeNull();
	});
});

describe("a lock", () => {
	const lock = { openedBy: "a", since: "2026-11-02T08:00:00.000Z", usedAt: "2026-11-02T08:10:00.000Z" };

	it("closes itself when it was not used for the idle time", () => {
		expect(closesAt(lock, 30)).toBe("2026-11-02T08:40:00.000Z");
		expect(lockNow(lock, 30, "2026-11-02T08:39:59.999Z")).toBe(lock);
		expect(lockNow(lock, 30, "2026-11-02T08:40:00.000Z")).toBeNull();
	});

	it("lets through whoever has opened it, and somebody who works alone", () => {
		expect(passesLock(lock, "a", false, "A")).toBeNull();
		expect(passesLock(lock, "b", false, "A")).toEqual({ code: "locked-by", actual: "A" });
		expect(passesLock(null, "a", false, "")?.code).toBe("locked");
		expect(passesLock(null, "a", true, "")).toBeNull();
	});
});

describe("who can see and change this", () => {
	it.each([
		[
			[
				["everyone", "", "reader"],
				["team", "Engineering", "editor"],
				["person", "Bo", "editor"],
				["person", "Okke", "steward"],
			],
			false,
			"Everyone here reads it. Bo and the Engineering team draft and publish. Okke is its steward. Ada keeps it.",
		],
		[[["person", "Okke", "steward"]], true, "Okke says who reads it. Ada keeps it."],
		[[], false, "Nobody but an administrator sees it. Ada keeps it."],
	] as const)("%j", (grants, supplied, sentence) => {
		expect(
			rightsSentence(
				grants.map(([by, name, role]) => ({ by, name, role })),
				"Ada",
				supplied,
			),
		).toBe(sentence);
	});
});
