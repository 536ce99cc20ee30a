import { eventRow } from "./row";

/** Answers about people, sessions and what a person keeps for themselves: no step of materials or parts changes them. */
const PERSONAL = ["getSession", "listPeople", "listSessions", "listTokens", "listViews", "readTicket"] as const;

/** Answers that hold a draft, or count it. */
const WITH_DRAFTS = [
	"getSheet",
	"findMaterials",
	"findColumns",
	"getMaterials",
	"search",
	"findAlike",
	"publishPlan",
	"getLibrary",
	"getProject",
	"listSteps",
] as const;

/** Answers that hold what parts are made of, or count them. */
const WITH_PARTS = [
	"getProject",
	"listProjects",
	"getProjectRevision",
	"getSheet",
	"getLibrary",
	"listUnused",
	"publishPlan",
	"mergePlan",
	"search",
	"history",
	"listSteps",
] as const;

/**
 * May the answer of this route be another one after a step? Asked by the page that did the step: it shows the new state at
 * once, and asks for nothing that the step cannot have changed.
 * @param action as in the log, also taken back
 */
export function changesAnswer(action: string, route: string): boolean {
	const row = eventRow(action);
	const is = (list: readonly string[]): boolean => list.includes(route);
	if (row === null || row.rights === true) return true;
	if (row.heard === "editors") return is(WITH_DRAFTS);
	if (row.class === "parts") return is(WITH_PARTS);
	if (row.class === "materials" || row.class === "published") return !is(PERSONAL);
	return true;
}
