import type { LiveEvent } from "@alvek/contract";
import { affectedBy, eventRow, stepOf } from "@alvek/core/event";

/** A question that something on screen is an answer to: the route's name and its input. */
export type OnScreen = { readonly name: string; readonly input: Readonly<Record<string, unknown>>; readonly data: unknown };

/** Steps of drafts: each is its author's own, others only want to know that there is one. */
const isDraft = (action: string): boolean => eventRow(action)?.heard === "editors";

/** Steps that change no number that a page shows: who may what, locks, groups, lists. What shows them is asked again at once. */
export function isQuiet(event: LiveEvent): boolean {
	const row = eventRow(event.action);
	return row !== null && row.news === undefined;
}

/** Is this question asked again at once, because its answer holds no number of the page? */
export const askedAgain = (event: LiveEvent, name: string): boolean => affectedBy(event.action).includes(name);

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
	const what = event.name === "" ? "something" : event.name;
	if (stepOf(event.action).times > 0) return `A step on ${what} was taken back (${who}).`;
	return eventRow(event.action)?.news?.(what, who, event.revision) ?? `${what} was changed (${who}).`;
}
