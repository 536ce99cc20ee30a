import type { LiveEvent } from "@alvek/contract";

/** A question that something on screen is an answer to: the route's name and its input. */
export type OnScreen = { readonly name: string; readonly input: Readonly<Record<string, unknown>>; readonly data: unknown };

/** The step itself, also when it was taken back. */
export const stepOf = (action: string): string => action.replace(/^undo /, "");

/** Steps of drafts: each is its author's own, others only want to know that there is one. */
const isDraft = (action: string): boolean => /^drafts?\./.test(stepOf(action));

/** Steps that change no number that a page shows: who may what, locks, groups, lists. What shows them is asked again at once. */
export function isQuiet(event: LiveEvent): boolean {
	return /^(lock|library\.(share|unshare|change|create|archive|bring-back)|set|person|team|publish|working|group|source|token|project\.(share|unshare|create|rename))\b/.test(
		stepOf(event.action),
	);
}

/** Routes that are asked again at once after a quiet step. */
const ASKED_AGAIN: ReadonlySet<string> = new Set([
	"listLibraries",
	"getLibrary",
	"listSets",
	"listPeople",
	"listProjects",
	"history",
	"listBin",
]);

/** Steps that somebody may be told of by a notice. */
const TOLD = /^(material\.(publish|retire|merged)|publish\.)/;

/** Is this question asked again at once, because its answer holds no number of the page? */
export function askedAgain(event: LiveEvent, name: string): boolean {
	if (isDraft(event.action)) return false;
	return name === "listNotices" ? TOLD.test(stepOf(event.action)) : ASKED_AGAIN.has(name);
}

/** Does what happened change something that this answer shows? */
export function concerns(event: LiveEvent, { name, input, data }: OnScreen): boolean {
	const here = input.id === event.subject;
	if (isDraft(event.action)) return name === "getSheet" && here;
	switch (name) {
		case "getSheet":
		case "getRevision":
			return here && event.kind === "material";
		case "findMaterials":
			// a step about many materials is one of their library
			return event.kind === "material" || event.kind === "library";
		case "getMaterials":
		case "publishPlan":
			return String(input.ids ?? "").includes(event.subject);
		case "getProject":
		case "getProjectRevision":
			if (event.kind === "project") return here;
			// a part stands on it, so it may be behind now
			return event.kind === "material" && JSON.stringify(data ?? null).includes(event.subject);
		case "compareEditions":
			return here || (event.kind === "material" && event.place === input.id);
		default:
			return false;
	}
}

/** What happened in one line; `me` is whoever reads it. */
export function inWords(event: LiveEvent, me: string): string {
	const who = event.by.id === me ? "another window of yours" : event.by.name;
	const step = stepOf(event.action);
	const what = event.name === "" ? "something" : event.name;
	if (step !== event.action) return `A step on ${what} was taken back (${who}).`;
	if (step === "material.publish") return `Revision ${event.revision ?? ""} of ${what} is out (${who}).`.replace("  ", " ");
	if (isDraft(step)) return `${capital(who)} is drafting ${what} too.`;
	if (step.startsWith("parts.")) return `Parts of ${what} got other materials (${who}).`;
	if (step === "project.import") return `Geometry came into ${what} (${who}).`;
	if (step === "material.retire") return `${what} was retired (${who}).`;
	if (step === "material.remove" || step === "project.remove") return `${what} was deleted (${who}).`;
	if (step === "edition.freeze") return `An edition of ${what} was frozen (${who}).`;
	return `${what} was changed (${who}).`;
}

const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);
