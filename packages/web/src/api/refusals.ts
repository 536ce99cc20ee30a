import type { Issue } from "@alvek/core/result";
import { showToast } from "../stores/toasts";
import { call, send } from "./client";
import { refreshAll, sentences } from "./queries";

/** A button that does away with what stood in the way. */
export type Way = { readonly label: string; readonly run: () => Promise<void> };

/** Where a closed lock, or a colleague's, stood in the way: opening it, or taking it over. Whoever was told so may publish there. */
export function wayOut(issues: readonly Issue[]): Way | null {
	const shut = issues.find((i) => i.code === "locked" || i.code === "locked-by");
	const library = shut?.path;
	if (shut === undefined || library === undefined) return null;
	const takeOver = shut.code === "locked-by";
	return {
		label: takeOver ? `Take it over from ${shut.actual}` : "Open the lock",
		run: () => openLockOf(library, takeOver),
	};
}

async function openLockOf(name: string, takeOver: boolean): Promise<void> {
	const libraries = await call("listLibraries", {});
	if (!libraries.ok) return showIssues(libraries.issues);
	const library = libraries.value.find((l) => l.name === name && l.mayEdit);
	if (library === undefined) return showIssues([{ code: "not-found", path: "The library" }]);
	const { result } = await send("openLock", { id: library.id, ...(takeOver ? { takeOver } : {}) });
	if (!result.ok) return showIssues(result.issues);
	await refreshAll();
	showToast({ tone: "plain", text: `The lock of ${name} is open, by you. Do it again now.` });
}

/** What was refused, in words, with the way out where there is one. */
export function showIssues(issues: readonly Issue[]): void {
	const way = wayOut(issues);
	showToast({ tone: "wrong", text: sentences(issues), ...(way === null ? {} : { action: way }) });
}
