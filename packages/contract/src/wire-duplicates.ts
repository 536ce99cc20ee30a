import type { Edit, Material, NameLikeness } from "@alvek/core/material";
import type { MaterialRow, NameLink, PublishEffect } from "./wire";

/** How two materials are alike, by the rule of likely duplicates. */
export type AlikeView = {
	readonly likely: boolean;
	readonly name: NameLikeness | null;
	/** Properties whose numbers are within 1 %, and `composition`. */
	readonly shared: readonly string[];
	/** Properties that both have and that differ by more. */
	readonly differing: readonly string[];
};

export type AlikeRow = AlikeView & {
	readonly row: MaterialRow;
	/** The name that was asked about, where it is a name link of this one. */
	readonly knownAs?: NameLink;
};

export type DuplicatePairs = {
	/** `apart`: somebody has said that they are not one. */
	readonly pairs: readonly (AlikeView & { readonly a: MaterialRow; readonly b: MaterialRow; readonly apart: boolean })[];
	/** False when there was too much to look at: the most alike are here, others may be missing. */
	readonly complete: boolean;
};

/** What merging one material into another would do; nothing is done yet. */
export type MergePlan = {
	/** The survivor, and the one that would be retired. */
	readonly keep: MaterialRow;
	readonly drop: MaterialRow;
	/** The survivor's newest revision, whatever draft of it there is. */
	readonly document: Material;
	/** Places in which their newest revisions differ: `from` is the survivor's content, `to` the other's. */
	readonly edits: readonly Edit[];
	/** Parts on the one that would be retired; they show behind, none moves by itself. */
	readonly uses: readonly Omit<PublishEffect["uses"][number], "massAfter_kg">[];
	readonly hidden: { readonly projects: number; readonly parts: number };
	/** Of those parts, how many stand in frozen projects, which show nothing. */
	readonly frozenParts: number;
	/** Editions that hold it and go on holding it. */
	readonly editions: number;
};

export type Merged = {
	readonly event: number;
	/** The survivor's new revision; null where nothing was taken over. */
	readonly revision: number | null;
	/** Parts that stand on the retired one. */
	readonly behind: number;
};
