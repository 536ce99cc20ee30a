import type { Issue } from "../result";

/** Who acts. Roles come from grants; an administrator has every role. */
export type Actor = { readonly person: string; readonly admin: boolean };

export type LibraryRole = "reader" | "editor" | "steward";
export type ProjectRole = "reader" | "editor" | "owner";

/** What is acted on, with the role that the actor's grants add up to; `null`: none. */
export type Resource =
	| { readonly kind: "library"; readonly supplied: boolean; readonly role: LibraryRole | null }
	| { readonly kind: "project"; readonly role: ProjectRole | null }
	| { readonly kind: "job"; readonly person: string }
	| { readonly kind: "installation" };

export const ACTIONS = [
	"installation.use",
	"library.read",
	"library.edit",
	"project.create",
	"project.read",
	"project.edit",
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
			return action === "installation.use" || action === "project.create" ? null : forbidden(action);
		case "job":
			return actor.admin || actor.person === resource.person ? null : notFound("The job");
		case "library": {
			if (!actor.admin && resource.role === null) return notFound("The library");
			if (action === "library.read") return null;
			if (action !== "library.edit") return forbidden(action);
			if (resource.supplied) return { code: "read-only" };
			return actor.admin || resource.role !== "reader" ? null : forbidden(action);
		}
		case "project": {
			if (!actor.admin && resource.role === null) return notFound("The project");
			if (action === "project.read") return null;
			if (action !== "project.edit" && action !== "project.remove") return forbidden(action);
			const enough = action === "project.remove" ? resource.role === "owner" : resource.role !== "reader";
			return actor.admin || enough ? null : forbidden(action);
		}
	}
}

const WORDS: Readonly<Partial<Record<Action, string>>> = {
	"library.edit": "change materials",
	"project.edit": "change this project",
	"project.remove": "delete this project",
};

function forbidden(action: Action): Issue {
	return { code: "forbidden", actual: WORDS[action] ?? "do this" };
}

function notFound(path: string): Issue {
	return { code: "not-found", path };
}
