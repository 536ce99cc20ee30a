import { DataTypes, type ModelStatic, type Sequelize } from "sequelize";
import type { ColumnType } from "./dialect";

/** One column: what it holds, whether it may hold nothing, and whether a new row may leave it out. */
type Column<T, Nullable extends boolean, Optional extends boolean> = {
	readonly type: ColumnType;
	readonly nullable: Nullable;
	/** A new row may leave it out: the database fills it in. */
	readonly optional: Optional;
	readonly key: boolean;
	/** Only a type: the values of the column. */
	readonly of?: T;
};

const of = <T>(type: ColumnType): Column<T, false, false> => ({ type, nullable: false, optional: false, key: false });
const text = of<string>("text");
const whole = of<number>("integer");
const real = of<number>("real");
const bytes = of<Buffer>("bytes");
/** Text that is one of these. */
const one = <T extends string>() => of<T>("text");
const key = <T, N extends boolean, O extends boolean>(column: Column<T, N, O>): Column<T, N, O> => ({ ...column, key: true });
const nullable = <T, N extends boolean, O extends boolean>(column: Column<T, N, O>): Column<T | null, true, true> => ({
	...column,
	nullable: true,
	optional: true,
});
/** The database has a value for a row that says nothing. */
const filled = <T, N extends boolean>(column: Column<T, N, boolean>): Column<T, N, true> => ({ ...column, optional: true });

type OriginKind = "similar" | "variant" | "copy" | "local" | "layer";
type GrantKind = "library" | "set" | "project";
/** What may need a file: what a document names, who brought it in, what was read of it. */
export type BlobOwner = "document" | "upload" | "geometry";
type JobState = "running" | "done" | "failed" | "cancelled" | "interrupted";

/** Every table, as the migrations make it; a test compares the two on both engines. */
export const TABLES = {
	person: {
		id: key(text),
		name: text,
		initials: text,
		admin: filled(whole),
		login: filled(text),
		secret: nullable(text),
		does: filled(text),
		left_at: nullable(text),
	},
	team: { id: key(text), name: text },
	member: { team_id: key(text), person_id: key(text) },
	session: { hash: key(text), id: text, person_id: text, agent: text, created_at: text, seen_at: text },
	token: {
		id: key(text),
		hash: text,
		person_id: text,
		name: text,
		scope: one<"read" | "write">(),
		created_at: text,
		expires_at: text,
		used_at: nullable(text),
	},
	ticket: {
		id: key(text),
		hash: text,
		kind: one<"setup" | "invitation" | "reset">(),
		person_id: nullable(text),
		content: text,
		made_by: nullable(text),
		expires_at: text,
		used_at: nullable(text),
	},
	access_grant: {
		subject_kind: key(one<"person" | "team" | "everyone">()),
		subject: key(text),
		kind: key(one<GrantKind>()),
		target: key(text),
		role: text,
	},
	library: {
		id: key(text),
		uid: text,
		name: text,
		kind: one<"own" | "supplied">(),
		approval: filled(whole),
		archived: filled(whole),
		owner: nullable(text),
		description: filled(text),
		lock_minutes: filled(whole),
	},
	library_group: { id: key(text), library_id: text, parent_id: nullable(text), name: text, ord: whole },
	library_lock: { library_id: key(text), opened_by: text, since: text, used_at: text },
	library_hidden: { library_id: key(text), person_id: key(text) },
	library_set: { id: key(text), name: text },
	set_member: { set_id: key(text), library_id: key(text) },
	working_list: { library_id: key(text), material_id: key(text) },
	source: { id: key(text), library_id: text, version: whole, content: text, changed_at: text },
	own_use: { uid: key(text), library_id: text, version: whole, content: text, changed_at: text },
	own_property: { uid: key(text), library_id: text, version: whole, content: text, changed_at: text },
	document: { hash: key(text), bytes },
	material: {
		id: key(text),
		uid: text,
		library_id: nullable(text),
		project_id: nullable(text),
		group_id: nullable(text),
		name: text,
		name_key: text,
		item_code: filled(text),
		shop_name: filled(text),
		retired: filled(whole),
		successor_id: nullable(text),
		owner: nullable(text),
		review_at: nullable(text),
		offered_for: filled(text),
		origin_kind: nullable(one<OriginKind>()),
		origin_revision_id: nullable(text),
		changed_at: text,
		removed_at: nullable(text),
		known_as: filled(text),
	},
	name_link: { scope: text, external: text, key: text, material_id: text },
	publish: {
		id: key(text),
		place: text,
		actor: text,
		note: text,
		at: text,
		state: one<"proposed" | "done">(),
		approved_by: nullable(text),
	},
	publish_item: { publish_id: key(text), material_id: key(text), revision_id: nullable(text), row_change: nullable(text) },
	revision: { id: key(text), material_id: text, no: whole, publish_id: text, document_hash: text },
	draft: {
		id: key(text),
		material_id: text,
		person_id: text,
		base_revision_id: nullable(text),
		edits: text,
		version: whole,
		saved_at: text,
	},
	draft_client: { material_id: key(text), person_id: key(text), client: key(text), step: whole, at: text },
	edition: {
		id: key(text),
		library_id: nullable(text),
		set_id: nullable(text),
		no: whole,
		note: text,
		actor: text,
		at: text,
	},
	edition_entry: {
		edition_id: key(text),
		material_id: key(text),
		revision_id: text,
		name: text,
		group_path: text,
		item_code: text,
		retired: whole,
	},
	set_edition: { set_edition_id: key(text), edition_id: key(text) },
	star: { person_id: key(text), material_id: key(text), ord: whole },
	grid_view: { id: key(text), person_id: text, name: text, address: text, shared: whole, changed_at: text },
	kept_apart: { a: key(text), b: key(text), person_id: text, at: text },
	blob: { hash: key(text), size: whole, at: text },
	blob_use: { hash: key(text), owner_kind: key(one<BlobOwner>()), owner_id: key(text), at: text },
	project: {
		id: key(text),
		name: text,
		default_revision_id: nullable(text),
		frozen: filled(whole),
		changed_at: text,
		removed_at: nullable(text),
		money: filled(text),
		forward: filled(one<"none" | "words" | "values-added">()),
		forward_by: nullable(text),
	},
	follow: { project_id: key(text), library_id: key(text), edition_id: text },
	geometry: { hash: key(text), mesh_hash: text },
	import: { project_id: key(text), geometry_hash: key(text), file: text, at: text, left_out: filled(text) },
	part: {
		id: key(text),
		project_id: text,
		key: text,
		geometry_hash: text,
		product: whole,
		name: text,
		product_id: text,
		colour: nullable(text),
		ord: whole,
	},
	body: {
		part_id: key(text),
		n: key(whole),
		name: text,
		volume_m3: real,
		area_m2: real,
		centroid_m: text,
		inertia_m5: text,
		doubt: nullable(text),
	},
	occurrence: {
		id: key(text),
		project_id: text,
		part_id: nullable(text),
		parent_id: nullable(text),
		name: text,
		path: text,
		matrix: text,
		ord: whole,
	},
	assignment: {
		part_id: key(text),
		project_id: text,
		revision_id: nullable(text),
		draft_id: nullable(text),
		before_draft_revision_id: nullable(text),
		state: one<"chosen" | "default">(),
	},
	event: {
		seq: key(filled(whole)),
		at: text,
		actor: text,
		action: text,
		subject_kind: text,
		subject_id: text,
		changeset: text,
		inverse: nullable(text),
		undone_by: nullable(whole),
	},
	notice_state: { person_id: key(text), seen_seq: whole, seen_day: text, off: filled(text) },
	job: {
		id: key(text),
		kind: text,
		person_id: text,
		project_id: nullable(text),
		state: one<JobState>(),
		progress: real,
		stage: text,
		issues: text,
		created_at: text,
		ended_at: nullable(text),
		library_id: nullable(text),
	},
	facts: { revision_id: key(text), version: whole, bytes, readiness: text },
	index_image: { id: key(whole), stamp: text, seq: whole, version: whole },
	index_mark: { seq: key(filled(whole)), material_id: text },
} as const;

export type TableName = keyof typeof TABLES;

type Columns<T extends TableName> = (typeof TABLES)[T];
type ValueOf<C> = C extends Column<infer T, boolean, boolean> ? T : never;
type OptionalOf<T extends TableName> = {
	[C in keyof Columns<T>]: Columns<T>[C] extends { readonly optional: true } ? C : never;
}[keyof Columns<T>];

/** A row of a table as it is read. */
export type Row<T extends TableName> = { -readonly [C in keyof Columns<T>]: ValueOf<Columns<T>[C]> };
/** A row of a table as it is put in: what the database fills in may be left out. */
export type NewRow<T extends TableName> = Readonly<
	Omit<Row<T>, OptionalOf<T> & keyof Row<T>> & Partial<Pick<Row<T>, OptionalOf<T> & keyof Row<T>>>
>;
/** Columns of a table with values. */
export type Some<T extends TableName> = Readonly<Partial<Row<T>>>;

export type Models = { readonly [T in TableName]: ModelStatic<never> };

const DATA_TYPES = {
	text: DataTypes.TEXT,
	integer: DataTypes.BIGINT,
	real: DataTypes.DOUBLE,
	bytes: DataTypes.BLOB,
} as const;

/** The tables as models of one connection. */
export function defineTables(sequelize: Sequelize): Models {
	const models = Object.entries(TABLES).map(([name, columns]) => {
		const known: Readonly<Record<string, Column<unknown, boolean, boolean>>> = columns;
		const attributes = Object.entries(known).map(([column, { type, nullable: empty, key: primary }]) => [
			column,
			{ type: DATA_TYPES[type], allowNull: empty, primaryKey: primary },
		]);
		const model = sequelize.define(name, Object.fromEntries(attributes), { tableName: name, timestamps: false });
		// a model without a key of its own is given one that no table has
		if (!("id" in columns)) model.removeAttribute("id");
		return [name, model];
	});
	return Object.fromEntries(models);
}
