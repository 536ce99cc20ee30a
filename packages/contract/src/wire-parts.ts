import type { CostTotals, Money } from "@alvek/core/cost";
import type { DensityRange, Vec3 } from "@alvek/core/mass";
import type { ChangeClass, Edit, Look, Price } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";

export type ProjectRow = {
	readonly id: string;
	readonly name: string;
	readonly parts: number;
	readonly changedAt: string;
	readonly mayEdit: boolean;
	readonly frozen: boolean;
};

export type AssignmentView = {
	readonly materialId: string;
	readonly material: string;
	readonly colour: string;
	/** 0 for a draft that was never published. */
	readonly revision: number;
	readonly draft: boolean;
	/** The project's default, which nobody has confirmed for this part. */
	readonly isDefault: boolean;
	/** Lives in this project only. */
	readonly own: boolean;
	/** The sheet in the library is open to whoever asks. */
	readonly mayOpen: boolean;
	readonly removed: boolean;
	readonly density: DensityRange | null;
	readonly densityCarried: boolean;
	/** How the working density was chosen, where a person chose it: `high end`, `8.9 g/cm3`. */
	readonly densityRule: string | null;
	/** Per kilogram, as the revision says it. */
	readonly price: Price | null;
	/** kg CO2 equivalent per kg. */
	readonly carbon: number | null;
	readonly look: Look;
	/**
	 * What the part would stand on if it were brought forward: the head, or the followed edition's entry. `class` says
	 * whether it changes words, adds values or changes a value.
	 */
	readonly behind: {
		readonly materialId: string;
		/** A successor's name, where the material is retired. */
		readonly material: string;
		readonly revision: number;
		readonly density: DensityRange | null;
		readonly class: ChangeClass;
		readonly edits: readonly Edit[];
	} | null;
};

export type PartView = {
	readonly id: string;
	readonly name: string;
	readonly productId: string;
	/** `geometry hash:product index`: finds its shapes in the mesh file. */
	readonly key: string;
	readonly quantity: number;
	readonly geometryHash: string;
	readonly bodies: readonly number[];
	/** One piece. */
	readonly volume_m3: number;
	readonly area_m2: number;
	readonly centroid_m: Vec3;
	/** Colour in the imported file. */
	readonly fileColour: string | null;
	readonly assignment: AssignmentView | null;
	readonly mass_kg: MassView | null;
};

export type MassView = { readonly mass: number; readonly low: number | null; readonly high: number | null };

export type OccurrenceView = {
	readonly id: string;
	readonly partId: string | null;
	readonly parentId: string | null;
	readonly name: string;
	readonly path: string;
	/** 12 numbers in rows: rotation and translation, metres. */
	readonly matrix: readonly number[];
};

export type TotalsView = {
	readonly mass_kg: MassView | null;
	readonly centreOfGravity_m: Vec3 | null;
	readonly inertia_kg_m2: readonly Vec3[] | null;
	readonly volume_m3: number;
	readonly area_m2: number;
	readonly parts: number;
	readonly partsWithMass: number;
	readonly volumeWithMass_m3: number;
	readonly behind: number;
	readonly carriedOver: number;
	readonly costs: CostTotals;
};

export type ProjectView = {
	readonly id: string;
	readonly name: string;
	readonly mayEdit: boolean;
	readonly parts: readonly PartView[];
	readonly occurrences: readonly OccurrenceView[];
	/** Solids of each geometry, in the coordinates of their part. */
	readonly solids: readonly SolidView[];
	readonly totals: TotalsView;
	/** Currency of the sums, and what others are worth in it. */
	readonly money: Money;
	readonly imports: readonly ImportView[];
	readonly mayShare: boolean;
	/** Stays as it is: nothing shows behind. */
	readonly frozen: boolean;
	/** Libraries that its parts stand on, and what of each it follows. */
	readonly follows: readonly FollowView[];
	/** Classes of change that go forward by themselves. */
	readonly forward: "none" | "words" | "values-added";
	readonly default: { readonly materialId: string; readonly material: string; readonly revision: number } | null;
	readonly grants: readonly ProjectGrant[];
};

export type ProjectGrant = {
	readonly by: "person" | "team" | "everyone";
	readonly subject: string;
	readonly name: string;
	readonly role: "reader" | "editor" | "owner";
};

export type FollowView = {
	readonly library: string;
	readonly name: string;
	/** Null: the latest. */
	readonly edition: number | null;
	/** Newest edition; 0 for none. */
	readonly newest: number;
	readonly editions: readonly number[];
};

/** A file that was brought in, with the bodies of it that are no solids and so weigh nothing. */
export type ImportView = {
	readonly file: string;
	readonly at: string;
	readonly hash: string;
	readonly leftOut: readonly { readonly entity: number; readonly name: string; readonly what: string }[];
};

export type SolidView = {
	readonly partId: string;
	readonly n: number;
	readonly name: string;
	readonly volume_m3: number;
	readonly area_m2: number;
	readonly centroid_m: Vec3;
	/** Second moments for density 1 about the solid's own centroid, along the part's axes; off-diagonals are the negative products. */
	readonly inertia_m5: readonly Vec3[];
	/** Why its volume may not be what was drawn: its boundary misses itself by so much, or contradicts itself. */
	readonly doubt: { readonly kind: "gap"; readonly gap_m: number } | { readonly kind: "invalid" } | null;
};

export type JobView = {
	readonly id: string;
	readonly kind: string;
	readonly state: "running" | "done" | "failed" | "cancelled" | "interrupted";
	readonly progress: number;
	readonly stage: string;
	readonly issues: readonly Issue[];
};
