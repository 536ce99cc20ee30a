import { Umzug } from "umzug";
import type { Db, Sql } from "./connection";

/** Statements of one migration, in order. Never edited once released; a new one is added. */
const MIGRATIONS: readonly { readonly name: string; readonly statements: readonly string[] }[] = [
	{
		name: "001-first-slice",
		statements: [
			`CREATE TABLE person (id TEXT PRIMARY KEY, name TEXT NOT NULL, initials TEXT NOT NULL, admin INTEGER NOT NULL DEFAULT 0)`,
			`CREATE TABLE access_grant (subject TEXT NOT NULL REFERENCES person(id), kind TEXT NOT NULL CHECK (kind IN ('library','set','project')),
				target TEXT NOT NULL, role TEXT NOT NULL, PRIMARY KEY (subject, kind, target))`,
			`CREATE TABLE library (id TEXT PRIMARY KEY, uid TEXT NOT NULL UNIQUE, name TEXT NOT NULL, kind TEXT NOT NULL CHECK (kind IN ('own','supplied')),
				approval INTEGER NOT NULL DEFAULT 0, archived INTEGER NOT NULL DEFAULT 0)`,
			`CREATE TABLE library_group (id TEXT PRIMARY KEY, library_id TEXT NOT NULL REFERENCES library(id), parent_id TEXT REFERENCES library_group(id),
				name TEXT NOT NULL, ord INTEGER NOT NULL)`,
			`CREATE TABLE document (hash TEXT PRIMARY KEY, bytes BLOB NOT NULL)`,
			`CREATE TABLE material (id TEXT PRIMARY KEY, uid TEXT NOT NULL, library_id TEXT REFERENCES library(id), project_id TEXT REFERENCES project(id),
				group_id TEXT REFERENCES library_group(id), name TEXT NOT NULL, name_key TEXT NOT NULL, item_code TEXT NOT NULL DEFAULT '',
				shop_name TEXT NOT NULL DEFAULT '', retired INTEGER NOT NULL DEFAULT 0, successor_id TEXT REFERENCES material(id),
				owner TEXT REFERENCES person(id), review_at TEXT, offered_for TEXT NOT NULL DEFAULT '[]',
				origin_kind TEXT CHECK (origin_kind IN ('similar','variant','copy','local','layer')), origin_revision_id TEXT REFERENCES revision(id),
				changed_at TEXT NOT NULL, removed_at TEXT, CHECK ((library_id IS NULL) <> (project_id IS NULL)))`,
			`CREATE UNIQUE INDEX material_name ON material (library_id, name_key) WHERE removed_at IS NULL`,
			`CREATE UNIQUE INDEX material_code ON material (library_id, item_code) WHERE removed_at IS NULL AND item_code <> ''`,
			`CREATE TABLE publish (id TEXT PRIMARY KEY, place TEXT NOT NULL, actor TEXT NOT NULL REFERENCES person(id), note TEXT NOT NULL, at TEXT NOT NULL,
				state TEXT NOT NULL CHECK (state IN ('proposed','done')))`,
			`CREATE TABLE revision (id TEXT PRIMARY KEY, material_id TEXT NOT NULL REFERENCES material(id), no INTEGER NOT NULL,
				publish_id TEXT NOT NULL REFERENCES publish(id), document_hash TEXT NOT NULL REFERENCES document(hash), UNIQUE (material_id, no))`,
			`CREATE TABLE publish_item (publish_id TEXT NOT NULL REFERENCES publish(id), material_id TEXT NOT NULL REFERENCES material(id),
				revision_id TEXT REFERENCES revision(id), row_change TEXT, PRIMARY KEY (publish_id, material_id))`,
			`CREATE TABLE draft (id TEXT PRIMARY KEY, material_id TEXT NOT NULL REFERENCES material(id), person_id TEXT NOT NULL REFERENCES person(id),
				base_revision_id TEXT REFERENCES revision(id), edits TEXT NOT NULL, version INTEGER NOT NULL, saved_at TEXT NOT NULL, UNIQUE (material_id, person_id))`,
			`CREATE TABLE blob (hash TEXT PRIMARY KEY, size INTEGER NOT NULL, at TEXT NOT NULL)`,
			`CREATE TABLE project (id TEXT PRIMARY KEY, name TEXT NOT NULL, default_revision_id TEXT REFERENCES revision(id), frozen INTEGER NOT NULL DEFAULT 0,
				changed_at TEXT NOT NULL, removed_at TEXT)`,
			`CREATE TABLE geometry (hash TEXT PRIMARY KEY REFERENCES blob(hash), mesh_hash TEXT NOT NULL REFERENCES blob(hash))`,
			`CREATE TABLE part (id TEXT PRIMARY KEY, project_id TEXT NOT NULL REFERENCES project(id), key TEXT NOT NULL, geometry_hash TEXT NOT NULL REFERENCES geometry(hash),
				product INTEGER NOT NULL, name TEXT NOT NULL, product_id TEXT NOT NULL, colour TEXT, ord INTEGER NOT NULL, UNIQUE (project_id, key))`,
			`CREATE TABLE body (part_id TEXT NOT NULL REFERENCES part(id), n INTEGER NOT NULL, name TEXT NOT NULL, volume_m3 REAL NOT NULL, area_m2 REAL NOT NULL,
				centroid_m TEXT NOT NULL, inertia_m5 TEXT NOT NULL, PRIMARY KEY (part_id, n))`,
			`CREATE TABLE occurrence (id TEXT PRIMARY KEY, project_id TEXT NOT NULL REFERENCES project(id), part_id TEXT REFERENCES part(id),
				parent_id TEXT REFERENCES occurrence(id), name TEXT NOT NULL, path TEXT NOT NULL, matrix TEXT NOT NULL, ord INTEGER NOT NULL)`,
			`CREATE TABLE import (project_id TEXT NOT NULL REFERENCES project(id), geometry_hash TEXT NOT NULL REFERENCES geometry(hash), file TEXT NOT NULL,
				at TEXT NOT NULL, PRIMARY KEY (project_id, geometry_hash))`,
			`CREATE TABLE assignment (part_id TEXT PRIMARY KEY REFERENCES part(id), project_id TEXT NOT NULL REFERENCES project(id),
				revision_id TEXT REFERENCES revision(id), draft_id TEXT REFERENCES draft(id), before_draft_revision_id TEXT REFERENCES revision(id),
				state TEXT NOT NULL CHECK (state IN ('chosen','default')), CHECK ((revision_id IS NULL) <> (draft_id IS NULL)))`,
			`CREATE INDEX assignment_revision ON assignment (revision_id)`,
			`CREATE INDEX assignment_draft ON assignment (draft_id)`,
			`CREATE TABLE event (seq INTEGER PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL, actor TEXT NOT NULL REFERENCES person(id), action TEXT NOT NULL,
				subject_kind TEXT NOT NULL, subject_id TEXT NOT NULL, changeset TEXT NOT NULL, inverse TEXT, undone_by INTEGER REFERENCES event(seq))`,
			`CREATE INDEX event_subject ON event (subject_kind, subject_id)`,
			`CREATE TABLE job (id TEXT PRIMARY KEY, kind TEXT NOT NULL, person_id TEXT NOT NULL REFERENCES person(id), project_id TEXT REFERENCES project(id),
				state TEXT NOT NULL, progress REAL NOT NULL, stage TEXT NOT NULL, issues TEXT NOT NULL, created_at TEXT NOT NULL, ended_at TEXT)`,
			`CREATE INDEX part_project ON part (project_id)`,
			`CREATE INDEX occurrence_project ON occurrence (project_id)`,
			`INSERT INTO person (id, name, initials, admin) VALUES ('local', 'You, on this computer', 'ME', 1)`,
		],
	},
];

/**
 * Brings the database up to date. A migration and its log entry share one transaction: umzug's own storage writes the
 * log after `up`, so a kill in between would run the migration twice.
 */
export async function migrate(db: Db): Promise<void> {
	await db.run("CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY)");
	const umzug = new Umzug({
		migrations: MIGRATIONS.map(({ name, statements }) => ({
			name,
			up: () =>
				db.transaction(async (sql: Sql) => {
					for (const statement of statements) await sql.run(statement);
					await sql.run("INSERT INTO migration (name) VALUES ($name)", { name });
					return { commit: true, value: undefined };
				}),
		})),
		storage: {
			// the transaction above has written the entry already
			logMigration: async () => undefined,
			unlogMigration: async () => undefined,
			executed: async () => (await db.all<{ name: string }>("SELECT name FROM migration ORDER BY name")).map((r) => r.name),
		},
		logger: undefined,
	});
	await umzug.up();
}
