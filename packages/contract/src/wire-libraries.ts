import type { Edit, OwnUse } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import type { LibraryRole } from "@alvek/core/rights";

/** Whoever holds an open lock, and when it closes itself. */
export type LockView = {
	readonly person: string;
	readonly name: string;
	readonly since: string;
	readonly closesAt: string;
};

export type LibraryView = {
	readonly id: string;
	readonly name: string;
	readonly description: string;
	readonly supplied: boolean;
	readonly materials: number;
	/** My role; an administrator's is steward. */
	readonly role: LibraryRole;
	readonly mayEdit: boolean;
	readonly maySteward: boolean;
	readonly owner: { readonly id: string; readonly name: string } | null;
	/** `everyone here`, or how many people. */
	readonly openTo: string;
	readonly archived: boolean;
	/** Left out of my own choosers. */
	readonly hidden: boolean;
	/** A second person has to approve what is published. */
	readonly approval: boolean;
	/** Nobody else reads it: it has no lock, and nothing waits for a second person. */
	readonly alone: boolean;
	readonly lockMinutes: number;
	/** Null: closed. */
	readonly lock: LockView | null;
	/** Publishes that wait for approval. */
	readonly waiting: number;
	/** Number of the newest edition; 0 for none. */
	readonly edition: number;
	readonly groups: readonly string[];
	/** Properties that it adds to the catalogue. */
	readonly ownProperties: readonly OwnProperty[];
	/** Uses that it adds to the built-in ones. */
	readonly ownUses: readonly OwnUse[];
};

export type GrantView = {
	readonly by: "person" | "team" | "everyone";
	/** Id of the person or team; empty for everyone. */
	readonly subject: string;
	readonly name: string;
	readonly role: LibraryRole;
	/** Name of the set through which it comes; null where the library itself grants it. */
	readonly through: string | null;
};

export type GroupView = {
	readonly id: string;
	readonly parent: string | null;
	readonly name: string;
	/** Materials right under it, not those of groups below. */
	readonly materials: number;
};

export type EditionView = {
	readonly id: string;
	readonly no: number;
	readonly note: string;
	readonly by: string;
	readonly at: string;
	readonly materials: number;
	/** Projects that follow it, of those that I may read; and how many more there are. */
	readonly followers: readonly { readonly id: string; readonly name: string }[];
	readonly hiddenFollowers: number;
	/** The set with which it was frozen. */
	readonly set: string | null;
};

export type ProposalView = {
	readonly id: string;
	readonly by: string;
	readonly mine: boolean;
	readonly at: string;
	readonly note: string;
	readonly materials: readonly {
		readonly id: string;
		readonly name: string;
		/** Never published: its sheet is its author's alone until it is. */
		readonly isNew: boolean;
		/** The draft was changed since it was proposed, or the revision that it started from is not the newest any more. */
		readonly stale: boolean;
		/** Hash of the document as it would be published now; approving carries it. */
		readonly hash: string;
		/** What would change. */
		readonly edits: readonly Edit[];
	}[];
};

export type LibraryDetail = LibraryView & {
	/** Who can see and change it, in plain words. */
	readonly sentence: string;
	readonly grants: readonly GrantView[];
	readonly groupTree: readonly GroupView[];
	readonly editions: readonly EditionView[];
	readonly proposals: readonly ProposalView[];
	/** People with open drafts, and how many each. */
	readonly drafting: readonly { readonly person: string; readonly name: string; readonly drafts: number }[];
	readonly working: number;
	readonly sets: readonly { readonly id: string; readonly name: string }[];
	/** Projects whose parts stand on its materials; those that one may not see are counted only. */
	readonly usedBy: readonly { readonly id: string; readonly name: string; readonly parts: number }[];
	readonly hiddenUsers: number;
};

export type SetView = {
	readonly id: string;
	readonly name: string;
	readonly libraries: readonly { readonly id: string; readonly name: string }[];
	readonly grants: readonly GrantView[];
	readonly maySteward: boolean;
	readonly edition: number;
	/** Its newest editions, the newest first: which edition of each library each of them holds. */
	readonly editions: readonly SetEdition[];
};

export type SetEdition = {
	readonly no: number;
	readonly note: string;
	readonly libraries: readonly { readonly library: string; readonly edition: number }[];
};

/** One material in the comparison of two states of a library. */
export type EditionChange = {
	readonly id: string;
	readonly name: string;
	readonly kind: "added" | "gone" | "changed" | "row";
	readonly from: number | null;
	readonly to: number | null;
	/** Places whose content differs, where both have a revision. */
	readonly edits: readonly Edit[];
	/** Name, group, item code or retirement that differ: `name: A, B`. */
	readonly rows: readonly string[];
};

export type EditionComparison = {
	/** 0 stands for the library as it is now. */
	readonly from: number;
	readonly to: number;
	readonly same: number;
	readonly changes: readonly EditionChange[];
};

/** What taking an edition's file in does, or would do. */
export type TakenEdition = {
	readonly libraryId: string;
	readonly name: string;
	/** Edition that stands here, 0 for none, and the one of the file. */
	readonly from: number;
	readonly to: number;
	readonly changes: readonly EditionChange[];
	readonly same: number;
};

export type UnusedRow = {
	readonly id: string;
	readonly name: string;
	readonly group: string;
	readonly changedAt: string;
	readonly retired: boolean;
	/** Variants and layers that follow it, copies and local changes that began from it, its names elsewhere. */
	readonly variants: number;
	readonly copies: number;
	readonly links: number;
};

export type HistoryRow = {
	readonly seq: number;
	readonly at: string;
	readonly by: string;
	/** What was done, as a sentence without its subject's name. */
	readonly did: string;
	readonly subject: string;
	/** The material that it is about, where it is one. */
	readonly material: string | null;
	readonly note: string;
	readonly undone: boolean;
	/** It was mine and can be taken back, unless something newer stands in the way. */
	readonly mayUndo: boolean;
};

export type HistoryPage = {
	readonly rows: readonly HistoryRow[];
	/** Ask for what came `before` this to go on; null: that was all. */
	readonly next: number | null;
};
