import { EVENTS } from "./catalogue.data";
import { eventRow, stepOf, UNDO } from "./row";
import type { EventRow, Needs, StepClass } from "./types";

export type EventAction = keyof typeof EVENTS;
export const EVENT_ACTIONS = Object.keys(EVENTS) as readonly EventAction[];

/** How a step's being taken back is called in the log. */
export const undoOf = (action: string): `undo ${string}` => `${UNDO}${action}`;

/** What taking this step back takes now. Taking back what was taken back is doing the step again. */
export function needsOfUndo(action: string): Needs | null {
	const row = eventRow(action);
	if (row === null) return null;
	return stepOf(action).times % 2 === 1 ? row.needs : (row.undoNeeds ?? row.needs);
}

/** Steps of a kind, as they stand in the log when nobody took them back. */
export const actionsWhere = (wanted: (row: EventRow) => boolean): readonly EventAction[] =>
	EVENT_ACTIONS.filter((action) => wanted(EVENTS[action]));

export const QUIET_ACTIONS = actionsWhere((row) => row.quiet === true);
export const actionsOf = (kind: StepClass): readonly EventAction[] => actionsWhere((row) => row.class === kind);

/** Lists without numbers of their own: what shows them is asked again at once after every step but a draft's. */
const LISTS = ["listLibraries", "getLibrary", "listSets", "listPeople", "listProjects", "history", "listBin"] as const;

/** Routes whose answers are asked again at once after a step; all else is told, and the person asks. */
export function affectedBy(action: string): readonly string[] {
	const row = eventRow(action);
	const lists = row?.affects ?? LISTS;
	return row?.notice === undefined ? lists : [...lists, "listNotices"];
}

export { changesAnswer } from "./affects";
export { EVENTS } from "./catalogue.data";
export { eventRow, stepOf } from "./row";
export type { Changes, EventRow, Names, Needs, StepClass, SubjectKind } from "./types";
