import type { DensityRange, Vec3 } from "@alvek/core/mass";
import type { Material, Readiness } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";

/** What goes over the wire. SI everywhere, the unit in the key outside documents. */

export type LibraryView = {
	readonly id: string;
	readonly name: string;
	readonly supplied: boolean;
	readonly materials: number;
	readonly mayEdit: boolean;
	readonly groups: readonly string[];
};

/** A row of the grid: what the grid, the brief and the chooser show without asking again. */
export type MaterialRow = {
	readonly id: string;
	readonly name: string;
	readonly libraryId: string;
	readonly library: string;
	readonly supplied: boolean;
	readonly group: string;
	readonly itemCode: string;
	readonly shopName: string;
	/** Newest published revision; 0 for a material never published. */
	readonly revision: number;
	readonly revisionId: string | null;
	/** My draft, when there is one; then `document` is the draft's. */
	readonly draftId: string | null;
	readonly draftVersion: number;
	readonly changedAt: string;
	/** kg/m3 of the newest revision, also when `document` is a draft. */
	readonly publishedDensity: DensityRange | null;
	readonly document: Material;
	readonly readiness: readonly Readiness[];
};

export type Facet = { readonly key: string; readonly label: string; readonly count: number };

export type MaterialPage = {
	readonly total: number;
	readonly all: number;
	readonly rows: readonly MaterialRow[];
	readonly facets: { readonly library: readonly Facet[]; readonly group: readonly Facet[]; readonly ready: readonly Facet[] };
};

export type RevisionView = {
	readonly id: string;
	readonly no: number;
	readonly note: string;
	readonly at: string;
	readonly actor: string;
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
	readonly base: { readonly id: string; readonly name: string; readonly revision: number } | null;
	readonly draftAt: string | null;
};

export type RevisionDocument = { readonly no: number; readonly name: string; readonly document: Material; readonly hash: string };

export type ProjectRow = {
	readonly id: string;
	readonly name: string;
	readonly parts: number;
	readonly changedAt: string;
	readonly mayEdit: boolean;
};

export type AssignmentView = {
	readonly materialId: string;
	readonly material: string;
	readonly colour: string;
	/** 0 for a draft that was never published. */
	readonly revision: number;
	readonly draft: boolean;
	readonly removed: boolean;
	readonly density: DensityRange | null;
	readonly densityCarried: boolean;
	/** Newer revision that the part does not stand on, with the mass it would give. */
	readonly behind: { readonly revision: number; readonly density: DensityRange | null } | null;
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
	readonly imports: readonly { readonly file: string; readonly at: string }[];
};

export type SolidView = {
	readonly partId: string;
	readonly n: number;
	readonly name: string;
	readonly volume_m3: number;
	readonly area_m2: number;
	readonly centroid_m: Vec3;
	readonly inertia_m5: readonly Vec3[];
};

export type JobView = {
	readonly id: string;
	readonly kind: string;
	readonly state: "running" | "done" | "failed" | "cancelled" | "interrupted";
	readonly progress: number;
	readonly stage: string;
	readonly issues: readonly Issue[];
};

/** What a write that can be taken back answers beside its result. */
export type Undoable<T> = { readonly event: number; readonly value: T };

export type BinRow = {
	readonly id: string;
	readonly name: string;
	readonly library: string;
	readonly removedAt: string;
	readonly event: number;
};

export type SessionView = { readonly person: string; readonly name: string; readonly initials: string; readonly version: string };
