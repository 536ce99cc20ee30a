import type { DensityRange } from "@alvek/core/mass";
import type { Edit, Material, OwnUse, Readiness, Source, Texture } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import type { Issue } from "@alvek/core/result";
import type { FacetId } from "@alvek/core/table";

/** What goes over the wire. SI everywhere, the unit in the key outside documents. */

/** A row of the grid: what the grid, the brief and the chooser show without asking again. */
/** An external name that stands for a material of ours. */
export type NameLink = {
	/** Where it is called so, such as `drawing office`; "" where that does not matter. */
	readonly scope: string;
	readonly name: string;
};

export type MaterialRow = {
	readonly id: string;
	readonly name: string;
	readonly libraryId: string;
	readonly library: string;
	readonly supplied: boolean;
	readonly group: string;
	readonly itemCode: string;
	readonly shopName: string;
	/** What it is called elsewhere. */
	readonly knownAs: readonly NameLink[];
	/** Newest published revision; 0 for a material never published. */
	readonly revision: number;
	readonly revisionId: string | null;
	/** My draft, when there is one; then `document` is the draft's. */
	readonly draftId: string | null;
	readonly draftVersion: number;
	readonly changedAt: string;
	/** `2027-03-01`; null: no review planned. */
	readonly reviewAt: string | null;
	/** Purposes; none: anything. */
	readonly offeredFor: readonly string[];
	/** Starred by whoever asks. */
	readonly starred: boolean;
	/** On its library's working list. */
	readonly working: boolean;
	/** Not to be used any more, with what takes its place. */
	readonly retired: { readonly successor: { readonly id: string; readonly name: string } | null } | null;
	/** kg/m3 of the newest revision, also when `document` is a draft. */
	readonly publishedDensity: DensityRange | null;
	readonly document: Material;
	readonly readiness: readonly Readiness[];
};

export type Facet = { readonly key: string; readonly label: string; readonly count: number };

export type MaterialPage = {
	/** Rows that pass, and rows that there are. */
	readonly total: number;
	readonly all: number;
	/** Changes with every change of what can be found. */
	readonly version: string;
	/** The rows asked for by `offset` and `limit`. */
	readonly rows: readonly MaterialRow[];
	/** Headings over all rows that pass, in order; only where rows are sorted by group. */
	readonly groups: readonly { readonly path: string; readonly count: number }[];
	readonly facets: Readonly<Record<FacetId, readonly Facet[]>>;
	/** Nothing says the text that was asked for; rows whose names are a few slips away stand here instead. */
	readonly near: boolean;
	/** Rows of mine with a star, and rows whose review date has passed, of those that pass. */
	readonly starred: number;
	readonly reviewPassed: number;
};

/** A saved state of the grid: what its address says. */
export type GridViewRecord = {
	readonly id: string;
	readonly name: string;
	/** The query of the address. */
	readonly address: string;
	/** For everyone here, or only for whoever saved it. */
	readonly shared: boolean;
	readonly mine: boolean;
	readonly by: string;
};

/** One answer of the finder. */
export type Found =
	| { readonly kind: "material"; readonly row: MaterialRow; readonly rank: number }
	| { readonly kind: "project"; readonly id: string; readonly name: string; readonly parts: number; readonly rank: number }
	| {
			readonly kind: "part";
			readonly id: string;
			readonly name: string;
			readonly projectId: string;
			readonly project: string;
			readonly material: string | null;
			readonly rank: number;
	  };

export type RevisionView = {
	readonly id: string;
	readonly no: number;
	readonly note: string;
	readonly at: string;
	readonly actor: string;
	/** Who approved it, where a second person has to. */
	readonly approvedBy: string | null;
	readonly hash: string;
};

export type WhereUsed = {
	readonly projectId: string;
	readonly project: string;
	readonly parts: readonly string[];
	readonly revision: number;
	readonly behind: boolean;
};

export type Sheet = {
	readonly row: MaterialRow;
	readonly mayEdit: boolean;
	/** The published document that the draft starts from; null before the first publish. */
	readonly published: Material | null;
	readonly revisions: readonly RevisionView[];
	readonly whereUsed: readonly WhereUsed[];
	readonly base: BaseView | null;
	/** Materials that began from this one. */
	readonly variants: readonly VariantView[];
	readonly review: string | null;
	readonly offeredFor: readonly string[];
	readonly draftAt: string | null;
	/** Open drafts of other people. */
	readonly otherDrafts: readonly { readonly name: string; readonly savedAt: string }[];
	/** Uses in projects that the asker may not see, counted only. */
	readonly hiddenUses: { readonly projects: number; readonly parts: number };
	/** Editions that hold a revision of it. */
	readonly editions: readonly { readonly no: number; readonly revision: number }[];
};

export type OriginKind = "similar" | "variant" | "copy" | "local" | "layer";

/** What a material began from. `document` is that revision, `head` the base's newest; null where one may not read it. */
export type BaseView = {
	readonly id: string;
	readonly uid: string;
	readonly name: string;
	readonly kind: OriginKind;
	readonly revision: number;
	readonly headRevision: number;
	readonly document: Material | null;
	readonly head: Material | null;
};

export type VariantView = {
	readonly id: string;
	readonly name: string;
	readonly kind: OriginKind;
	/** The revision of this material that it stands on. */
	readonly revision: number;
};

export type SourceView = { readonly id: string; readonly version: number; readonly content: Source };
export type OwnUseView = { readonly version: number; readonly content: OwnUse };
export type OwnPropertyView = { readonly version: number; readonly content: OwnProperty };

export type RevisionDocument = { readonly no: number; readonly name: string; readonly document: Material; readonly hash: string };

/** For a reader of the library, with the properties that it adds to the catalogue today. */
export type LibraryRevision = RevisionDocument & { readonly own: readonly OwnProperty[] };

/** What a write that can be taken back answers beside its result. */
export type Undoable<T> = { readonly event: number; readonly value: T };

/** What publishing my drafts would do altogether. */
export type PublishPlan = {
	readonly materials: readonly PublishEffect[];
	/** Projects that I may read and that stand on one of them, with their whole mass. */
	readonly projects: readonly {
		readonly id: string;
		readonly name: string;
		/** Shows no behind, so nothing of this reaches it. */
		readonly frozen: boolean;
		/** Edition that it follows, of the library that is published into; null: the latest. */
		readonly edition: number | null;
		readonly parts: number;
		readonly massBefore_kg: number | null;
		readonly massAfter_kg: number | null;
	}[];
	/** In projects that I may not see: counted only. */
	readonly hidden: { readonly projects: number; readonly parts: number };
	/** Materials that began from one of these and become behind. */
	readonly variants: readonly { readonly id: string; readonly name: string; readonly kind: OriginKind; readonly of: string }[];
	readonly hiddenVariants: number;
	/** Editions that keep the older revision. */
	readonly editions: number;
	/** Drafts of the same materials by other people. */
	readonly otherDrafts: readonly { readonly material: string; readonly name: string; readonly savedAt: string }[];
};

/** A picture of a surface that some material shows, in its size. */
export type HeldTexture = {
	readonly materialId: string;
	readonly material: string;
	readonly library: string;
	readonly texture: Extract<Texture, { kind: "picture" }>;
};

/** My draft after a save. */
export type SavedDraft = {
	/** Null when nothing differs from what is published, so that there is no draft. */
	readonly draftId: string | null;
	/** Number of the step that saved it; never the same twice. */
	readonly version: number;
	/** Hash of the document as it would be published now; publishing carries it. */
	readonly hash: string;
	readonly savedAt: string;
	/** The revision that the draft stands on. */
	readonly base: string | null;
};

/** Copies that were made; where the library asks for a second person they are drafts that wait for one. */
export type Copied = {
	readonly copied: number;
	readonly proposed: number;
	/** Those that became the next revision of what bore their name. */
	readonly revised: number;
	/** Originals that are retired now, each with what stands there as its successor. */
	readonly moved: number;
	/** Names of those that were left out. */
	readonly left: readonly string[];
	/** What was made or revised there, in the order of what was asked for. */
	readonly ids: readonly string[];
};

/** A material whose name is taken where it shall be copied to. */
export type TakenName = {
	readonly id: string;
	readonly name: string;
	/** What bears the name and can take a revision; null: another of those that are copied, or something unpublished. */
	readonly there: { readonly id: string; readonly name: string; readonly revision: number } | null;
	/** It says there what it says here, to the last digit. */
	readonly same: boolean;
	/** A name that is free there. */
	readonly free: string;
};

/** What copying materials to another library would do. */
export type CopyPlan = {
	/** Those whose names are free there. */
	readonly fresh: number;
	/** Groups that they stand in; "": none. */
	readonly groups: readonly string[];
	readonly taken: readonly TakenName[];
	readonly unpublished: readonly string[];
	/** Copies wait for a second person there. */
	readonly proposed: boolean;
	/** Checksum of what stands under the taken names; copying over them sends it back. */
	readonly seen: string;
};

/** What publishing one draft would do. */
export type PublishEffect = {
	readonly id: string;
	readonly name: string;
	readonly colour: string;
	/** Newest published revision; 0 before the first. */
	readonly revision: number;
	/** Hash of the document as it would be published; publishing carries it. */
	readonly hash: string;
	readonly libraryId: string;
	readonly edits: readonly Edit[];
	/** Checks that are open on it; they do not stand in the way. */
	readonly checks: number;
	/** Why it cannot be published as it stands; empty when it can. */
	readonly issues: readonly Issue[];
	readonly uses: readonly {
		readonly projectId: string;
		readonly project: string;
		readonly part: string;
		readonly quantity: number;
		readonly volume_m3: number;
		/** Tries this draft, so it moves on to the revision; others become behind. */
		readonly tries: boolean;
		/** All pieces together, at the density that the part stands on now and at the new one. */
		readonly massBefore_kg: number | null;
		readonly massAfter_kg: number | null;
	}[];
};

export type PublishReply = {
	readonly published: number;
	/** Waiting for a second person. */
	readonly proposed: number;
	readonly movedParts: number;
	/** Number of the last revision that was made. */
	readonly revision: number;
};

/** A file that was uploaded; a draft that names its checksum makes it part of a record. */
export type StoredFile = {
	readonly hash: string;
	readonly bytes: number;
	/** As it is kept: no folders, no control characters. */
	readonly name: string;
	/** What its content looks like. */
	readonly format: string;
	/** Width and height of a picture. */
	readonly pixels: readonly [number, number] | null;
};

export type BinRow = {
	readonly id: string;
	readonly name: string;
	readonly libraryId: string;
	readonly library: string;
	readonly removedAt: string;
	readonly by: string;
};

export type * from "./wire-libraries";
export type * from "./wire-parts";
export type * from "./wire-people";
