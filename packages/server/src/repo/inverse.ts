/** The ways back that `undo` knows. Each names the state that it expects to find, so that newer changes are not lost. */
export type Inverse =
	| RowInverse<"material-row">
	| RowInverse<"library-row">
	| RowInverse<"project-row">
	| {
			readonly kind: "material-rows";
			/** Rows of many materials, changed together. */
			readonly rows: readonly RowChange[];
	  }
	| {
			readonly kind: "groups";
			/** Groups as they were and are; null: not there. */
			readonly expect: readonly (GroupState | null)[];
			readonly set: readonly (GroupState | null)[];
			/** Materials that moved along. */
			readonly rows: readonly { readonly id: string; readonly expect: string | null; readonly set: string | null }[];
	  }
	| {
			readonly kind: "grants";
			readonly target: string;
			readonly on: "library" | "set" | "project";
			readonly expect: readonly GrantState[];
			readonly set: readonly GrantState[];
	  }
	| {
			readonly kind: "working";
			readonly library: string;
			readonly materials: readonly string[];
			/** Whether undoing puts them on the list. */
			readonly on: boolean;
	  }
	| {
			readonly kind: "assignments";
			readonly project: string;
			readonly expect: readonly AssignmentState[];
			readonly set: readonly AssignmentState[];
			/** The project's default, where it changed with them. */
			readonly standard?: { readonly expect: string | null; readonly set: string | null };
	  }
	| {
			readonly kind: "follow";
			readonly project: string;
			readonly library: string;
			/** Editions; null: the latest. */
			readonly expect: string | null;
			readonly set: string | null;
	  }
	| {
			readonly kind: "geometry";
			readonly project: string;
			readonly hash: string;
			/** The project, deleted and nobody's, in which what was taken out lies. */
			readonly aside: string;
			/** Whether undoing brings it back or takes it out. */
			readonly back: boolean;
	  }
	| {
			readonly kind: "drafts";
			/** Drafts of one person on many materials; null: none. */
			readonly expect: readonly (DraftState | null)[];
			readonly set: readonly (DraftState | null)[];
	  }
	| {
			readonly kind: "several";
			/** Taken back one after the other, all or none. */
			readonly steps: readonly Inverse[];
	  }
	| { readonly kind: "draft"; readonly draft: DraftState; readonly parts: readonly AssignmentState[] };

/** Values of columns, as they were or are. */
export type Values = Readonly<Record<string, string | number | null>>;

export type RowChange = { readonly id: string; readonly expect: Values; readonly set: Values };

type RowInverse<K extends string> = { readonly kind: K } & RowChange;

export type InverseOf<K extends Inverse["kind"]> = Extract<Inverse, { kind: K }>;

export type GroupState = {
	readonly id: string;
	readonly library: string;
	readonly parent: string | null;
	readonly name: string;
	readonly ord: number;
};

export type GrantState = {
	readonly by: "person" | "team" | "everyone";
	readonly subject: string;
	readonly role: string;
};

/** What a part stands on; both null: nothing. */
export type AssignmentState = {
	readonly part: string;
	readonly revision: string | null;
	readonly draft: string | null;
	readonly before: string | null;
	/** How the part came to it; events from before defaults existed do not say, which is chosen. */
	readonly state?: "chosen" | "default";
};

export type DraftState = {
	readonly id: string;
	readonly material: string;
	readonly person: string;
	readonly base: string | null;
	readonly edits: string;
	readonly version: number;
};
