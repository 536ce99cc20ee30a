import type { Issue } from "../result";

/** Who acts. Roles come from grants; an administrator has every role. A token carries a scope; a person at a page has none. */
export type Actor = { readonly person: string; readonly admin: boolean; readonly scope?: "read" | "write" };

export type LibraryRole = "reader" | "editor" | "steward";
export type ProjectRole = "reader" | "editor" | "owner";

/** What is acted on, with the role that the actor's grants add up to; `null`: none. */
export type Resource =
	| { readonly kind: "library"; readonly supplied: boolean; readonly role: LibraryRole | null }
	| { readonly kind: "project"; readonly role: ProjectRole | null }
	| { readonly kind: "job"; readonly person: string }
	| { readonly kind: "installation" };

export const ACTIONS = [
	"session.open",
	"account.own",
	"people.read",
	"people.manage",
	"installation.use",
	"installation.watch",
	"library.create",
	"library.read",
	"library.edit",
	"library.publish",
	"library.steward",
	"project.create",
	"project.read",
	"project.edit",
	"project.share",
	"project.remove",
	"job.read",
	"job.cancel",
] as const;
export type Action = (typeof ACTIONS)[number];

/**
 * May the actor do this? What one may not even see is `not-found`, so that its existence is not told.
 * @returns null when allowed, else the issue: `not-found`, `read-only` (a supplied library) or `forbidden`
 */
export function may(actor: Actor, action: Action, resource: Resource): Issue | null {
	switch (resource.kind) {
		case "installation":
			if (action === "people.manage" || action === "installation.watch") return actor.admin ? null : forbidden(action);
			return EVERYBODY.has(action) ? null : forbidden(action);
		case "job":
			return actor.admin || actor.person === resource.person ? null : notFound("The job");
		case "library": {
			if (!actor.admin && resource.role === null) return notFound("The library");
			if (action === "library.read") return null;
			if (action === "library.steward") return actor.admin || resource.role === "steward" ? null : forbidden(action);
			if (action !== "library.edit" && action !== "library.publish") return forbidden(action);
			if (resource.supplied) return { code: "read-only" };
			return actor.admin || resource.role !== "reader" ? null : forbidden(action);
		}
		case "project": {
			if (!actor.admin && resource.role === null) return notFound("The project");
			if (action === "project.read") return null;
			if (action === "project.edit") return actor.admin || resource.role !== "reader" ? null : forbidden(action);
			if (action !== "project.share" && action !== "project.remove") return forbidden(action);
			return actor.admin || resource.role === "owner" ? null : forbidden(action);
		}
	}
}

/** What everybody who is signed in may do. */
const EVERYBODY: ReadonlySet<Action> = new Set<Action>([
	"account.own",
	"people.read",
	"installation.use",
	"library.create",
	"project.create",
]);

/**
 * May this actor call a route at all? A token is held to its scope before any service is asked: one for reading changes
 * nothing, and none touches people or accounts.
 * @returns null when allowed, else `forbidden`
 */
export function mayCall(actor: Actor, call: { readonly action: Action; readonly reads: boolean }): Issue | null {
	if (actor.scope === undefined) return null;
	if (actor.scope === "read" && !call.reads)
		return { code: "forbidden", actual: "change anything with a token that is for reading" };
	return call.action === "people.manage" || call.action === "account.own"
		? { code: "forbidden", actual: "change people or accounts with a token" }
		: null;
}

const WORDS: Readonly<Partial<Record<Action, string>>> = {
	"people.manage": "change people; an administrator may",
	"installation.watch": "see how the installation is doing; an administrator may",
	"library.edit": "change materials",
	"library.publish": "publish",
	"library.steward": "change this library; a steward may",
	"project.edit": "change this project",
	"project.share": "share this project; its owner may",
	"project.remove": "delete this project",
};

function forbidden(action: Action): Issue {
	return { code: "forbidden", actual: WORDS[action] ?? "do this" };
}

function notFound(path: string): Issue {
	return { code: "not-found", path };
}

export { closesAt, type Lock, lockNow, passesLock } from "./lock";
export { type NamedGrant, rightsSentence } from "./sentence";
