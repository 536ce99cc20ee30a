import type { MaterialRow } from "@alvek/contract";
import { mutate } from "../../api/mutate";
import { showIssues } from "../../api/refusals";
import { showToast } from "../../stores/toasts";
import type { Rows } from "./useRows";

/** Stars that one step orders. */
const MOST = 5000;

/** The list with one entry at another place; those between move up by one. */
export function moved<T>(list: readonly T[], from: number, to: number): readonly T[] {
	const next = [...list];
	next.splice(to, 0, ...next.splice(from, 1));
	return next;
}

/** Gives a starred row another place in one's own order; rows that are not here yet are fetched first. */
export async function orderStar(rows: Rows, from: number, to: number): Promise<boolean> {
	if (from === to || from < 0 || to < 0 || to >= rows.total) return false;
	if (rows.total > MOST) {
		showToast({ tone: "plain", text: `An order holds ${MOST} stars at most; narrow the list first.` });
		return false;
	}
	const all = await rows.range(0, rows.total);
	if (all === null) return false;
	const ids = moved(all, from, to).map((r) => r.id);
	const result = await mutate("starMany", { ids, order: true });
	if (!result.ok) showIssues(result.issues);
	return result.ok;
}

export async function star(row: MaterialRow): Promise<void> {
	const result = await mutate("starMaterial", { id: row.id, on: !row.starred });
	if (!result.ok) showIssues(result.issues);
}
