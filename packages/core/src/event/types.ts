import type { Action } from "../rights";

export type SubjectKind = "material" | "library" | "project" | "person" | "team";

/** What a step is about, for narrowing a history. */
export type StepClass = "published" | "materials" | "parts" | "rights" | "people";

/**
 * What a step takes, and with it the way back: the same right in the place that the subject stands in now, and where
 * that place is a library its lock and its second person.
 */
export type Needs = {
	readonly right: Action;
	/** `placed`: only where it moves, retires or bins something; `no`: never. */
	readonly lock: "always" | "placed" | "no";
	/** It puts something among what is published, so a library that asks for a second person wants it proposed. */
	readonly approval: boolean;
};

/** What a step changed, as it stands in the log. */
export type Changes = Readonly<Record<string, unknown>>;
/** Names of parts, and of materials with their revisions, by id. */
export type Names = ReadonlyMap<string, string>;

/** All that is decided once about one kind of step. */
export type EventRow = {
	readonly subject: SubjectKind | readonly SubjectKind[];
	readonly class: StepClass;
	/** Says too little for a list: every keystroke of a draft is one. */
	readonly quiet?: true;
	/** Whoever may read the place hears of it; `editors`: only who may change it; `self`: only who did it. */
	readonly heard: "readers" | "editors" | "self";
	/** Afterwards somebody may see more or less than before. */
	readonly rights?: true;
	/** The kind of notice that people who use the subject get. */
	readonly notice?: "revision" | "retired" | "approval";
	/** Questions of open pages that are asked again at once, where they are others than `affectedBy` says. */
	readonly affects?: readonly string[];
	/** What taking it back takes; it can be taken back only where its event has a way back. */
	readonly needs: Needs;
	/** Taking it back takes something else than doing it: bringing to life again, or binning what was made. */
	readonly undoNeeds?: Needs;
	/** Only whoever did it may take it back. */
	readonly own?: true;
	/** The step as a sentence; the person stands before it and the subject after. */
	readonly say: (changes: Changes, names: Names) => string;
	/** What was taken back, where that reads better in words of its own. */
	readonly undone?: string;
	/**
	 * The news in one line for pages that show the subject; `what` is its name, `who` did it. Absent where the step
	 * changes no number that a page shows: who may what, locks, groups, lists.
	 */
	readonly news?: (what: string, who: string, revision: number | null) => string;
};
