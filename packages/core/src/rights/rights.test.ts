import { describe, expect, it } from "vitest";
import { ACTIONS, type Actor, may, type Resource } from "./index";

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
		["everybody may begin a project", PERSON, "project.create", { kind: "installation" }, null],
	] as const)("%s", (_, actor, action, resource, code) => {
		expect(may(actor, action, resource)?.code ?? null).toBe(code);
	});

	it("never allows an action on the wrong kind of thing", () => {
		const library: Resource = { kind: "library", supplied: false, role: "steward" };
		for (const action of ACTIONS.filter((a) => !a.startsWith("library."))) expect(may(ADMIN, action, library)).not.toBeNull();
	});
});
