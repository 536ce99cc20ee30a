import type { LibraryView, PublishEffect, PublishPlan } from "@alvek/contract";
import { type ChangeClass, classify } from "@alvek/core/material";
import { counted } from "../../../ui/words";

/** What a publish would do as it is chosen now, and whether it can be done. */
export type PublishState = {
	/** Materials that go out: without an open question, and not left out. */
	readonly chosen: readonly PublishEffect[];
	/** Libraries that they go into. */
	readonly into: readonly LibraryView[];
	/** The gravest change of all that is chosen. */
	readonly kind: ChangeClass;
	/** Libraries whose lock has to be open by this person and is not; where nobody else reads and for a proposal there is none. */
	readonly shut: readonly LibraryView[];
	/** A second person approves before it is out. */
	readonly waits: boolean;
	/** What the button says. */
	readonly word: string;
	readonly ready: boolean;
};

const RANK: Readonly<Record<ChangeClass, number>> = { words: 0, "values-added": 1, "values-changed": 2 };

/**
 * @param me id of whoever publishes; null while it is not known
 * @param left ids that are left out
 */
export function publishState(
	{ materials }: Pick<PublishPlan, "materials">,
	libraries: readonly LibraryView[],
	{ me, alone }: { readonly me: string | null; readonly alone: boolean },
	{ left, note }: { readonly left: ReadonlySet<string>; readonly note: string },
): PublishState {
	const chosen = materials.filter((m) => m.issues.length === 0 && !left.has(m.id));
	// also where nothing can be published yet: a conflict is settled under the same lock
	const places = [...new Set(materials.map((m) => m.libraryId))];
	const into = places.flatMap((id) => libraries.find((l) => l.id === id) ?? []);
	const asks = (l: LibraryView): boolean => l.approval && !l.alone;
	const shut = into.filter((l) => !l.alone && !asks(l) && (me === null || l.lock?.person !== me));
	const waits = into.some(asks);
	const kind = chosen.map((m) => classify(m.edits)).reduce((a, b) => (RANK[b] > RANK[a] ? b : a), "words");
	const one = materials.length === 1 ? materials[0] : undefined;
	const publishing = one === undefined ? `Publish ${counted(chosen.length, "material")}` : `Publish revision ${one.revision + 1}`;
	return {
		chosen,
		into,
		kind,
		shut,
		waits,
		word: waits ? "Ask for approval" : publishing,
		ready: chosen.length > 0 && shut.length === 0 && (alone || note.trim() !== ""),
	};
}

/** Why the kind of change matters: how many projects stand on it. */
export function reasonOf(kind: ChangeClass, plan: Pick<PublishPlan, "projects" | "hidden">): string {
	const projects = plan.projects.length + plan.hidden.projects;
	if (projects === 0) return "no project stands on it yet";
	const stand = `${counted(projects, "project")} ${projects === 1 ? "stands" : "stand"} on it`;
	return kind === "values-changed" ? `because ${stand}` : stand;
}

/** What has been published, in one line. */
export function publishedText(
	one: Pick<PublishEffect, "name"> | undefined,
	done: { readonly published: number; readonly proposed: number; readonly movedParts: number; readonly revision: number },
	count: number,
): string {
	if (done.published === 0) return `${counted(done.proposed, "draft")} wait${done.proposed === 1 ? "s" : ""} for approval.`;
	const moved = done.movedParts > 0 ? ` ${counted(done.movedParts, "tried part")} moved on.` : "";
	return one === undefined
		? `${counted(count, "material")} published in one go.${moved}`
		: `Revision ${done.revision} of ${one.name} is out.${moved}`;
}
