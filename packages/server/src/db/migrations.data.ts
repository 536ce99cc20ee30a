import type { Dialect } from "./dialect";

/** A step of a migration: a statement as SQLite takes it, or what each engine says for itself. */
export type Step = string | ((dialect: Dialect) => readonly string[]);

/** What only SQLite has to do: mending of data that are older than the other engine. */
const inSqlite =
	(...statements: readonly string[]): Step =>
	(dialect) =>
		dialect.name === "sqlite" ? statements : [];

/** A note for the index: this material has changed. */
const marks = (table: string, when: "INSERT" | "UPDATE" | "DELETE", id: string): Step => {
	const row = when === "DELETE" ? "OLD" : "NEW";
	const body = `INSERT INTO index_mark (material_id) VALUES (${row}.${id});`;
	return (dialect) => dialect.trigger({ name: `mark_${table}_${when.toLowerCase()}`, table, when, body });
};

/** What a library keeps decides what its materials are ready for: all of them are noted, and their facts made anew. */
const ofLibrary = (table: string, when: "INSERT" | "UPDATE" | "DELETE"): Step => {
	const row = when === "DELETE" ? "OLD" : "NEW";
	const body = `INSERT INTO index_mark (material_id) SELECT id FROM material WHERE library_id = ${row}.library_id;
								DELETE FROM facts WHERE revision_id IN
									(SELECT r.id FROM revision r JOIN material m ON m.id = r.material_id WHERE m.library_id = ${row}.library_id);`;
	return (dialect) => dialect.trigger({ name: `mark_${table}_${when.toLowerCase()}`, table, when, body });
};

/** Steps of one migration, in order. Never edited once released; a new one is added. */
export const MIGRATIONS: readonly { readonly name: string; readonly steps: readonly Step[] }[] = [
	{
		name: "001-first-slice",
		steps: [
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
	{
		name: "002-sources-and-own-properties",
		steps: [
			`CREATE TABLE source (id TEXT PRIMARY KEY, library_id TEXT NOT NULL REFERENCES library(id), version INTEGER NOT NULL, content TEXT NOT NULL,
				changed_at TEXT NOT NULL)`,
			`CREATE INDEX source_library ON source (library_id)`,
			`CREATE TABLE own_property (uid TEXT PRIMARY KEY, library_id TEXT NOT NULL REFERENCES library(id), version INTEGER NOT NULL, content TEXT NOT NULL,
				changed_at TEXT NOT NULL)`,
			`CREATE INDEX own_property_library ON own_property (library_id)`,
			`CREATE INDEX material_origin ON material (origin_revision_id)`,
		],
	},
	{
		name: "003-facts-stars-and-views",
		steps: [
			// derived from the document; made anew when it is missing or of another version
			`CREATE TABLE facts (revision_id TEXT PRIMARY KEY REFERENCES revision(id), version INTEGER NOT NULL, bytes BLOB NOT NULL,
				readiness TEXT NOT NULL)`,
			`CREATE TABLE star (person_id TEXT NOT NULL REFERENCES person(id), material_id TEXT NOT NULL REFERENCES material(id), ord INTEGER NOT NULL,
				PRIMARY KEY (person_id, material_id))`,
			`CREATE TABLE grid_view (id TEXT PRIMARY KEY, person_id TEXT NOT NULL REFERENCES person(id), name TEXT NOT NULL, address TEXT NOT NULL,
				shared INTEGER NOT NULL, changed_at TEXT NOT NULL)`,
		],
	},
	{
		name: "004-money-of-projects",
		steps: [`ALTER TABLE project ADD COLUMN money TEXT NOT NULL DEFAULT '{"currency":"EUR","rates":[]}'`],
	},
	{
		name: "005-files-of-records",
		steps: [
			// who may name a file in a draft before any revision does
			`CREATE TABLE file_upload (hash TEXT NOT NULL REFERENCES blob(hash), person_id TEXT NOT NULL REFERENCES person(id), at TEXT NOT NULL,
				PRIMARY KEY (hash, person_id))`,
		],
	},
	{
		name: "006-people-teams-and-sessions",
		steps: [
			`ALTER TABLE person ADD COLUMN login TEXT NOT NULL DEFAULT ''`,
			// salted scrypt with its costs; null: cannot sign in with a password
			`ALTER TABLE person ADD COLUMN secret TEXT`,
			`ALTER TABLE person ADD COLUMN does TEXT NOT NULL DEFAULT ''`,
			`ALTER TABLE person ADD COLUMN left_at TEXT`,
			`CREATE UNIQUE INDEX person_login ON person (lower(login)) WHERE login <> '' AND left_at IS NULL`,
			`CREATE TABLE team (id TEXT PRIMARY KEY, name TEXT NOT NULL)`,
			`CREATE TABLE member (team_id TEXT NOT NULL REFERENCES team(id), person_id TEXT NOT NULL REFERENCES person(id), PRIMARY KEY (team_id, person_id))`,
			`CREATE TABLE session (hash TEXT PRIMARY KEY, id TEXT NOT NULL UNIQUE, person_id TEXT NOT NULL REFERENCES person(id), agent TEXT NOT NULL,
				created_at TEXT NOT NULL, seen_at TEXT NOT NULL)`,
			`CREATE TABLE token (id TEXT PRIMARY KEY, hash TEXT NOT NULL UNIQUE, person_id TEXT NOT NULL REFERENCES person(id), name TEXT NOT NULL,
				scope TEXT NOT NULL CHECK (scope IN ('read','write')), created_at TEXT NOT NULL, expires_at TEXT NOT NULL, used_at TEXT)`,
			`CREATE TABLE ticket (id TEXT PRIMARY KEY, hash TEXT NOT NULL UNIQUE, kind TEXT NOT NULL CHECK (kind IN ('setup','invitation','reset')),
				person_id TEXT REFERENCES person(id), content TEXT NOT NULL, made_by TEXT REFERENCES person(id), expires_at TEXT NOT NULL, used_at TEXT)`,
			// a grant now goes to a person, a team or everyone here
			`CREATE TABLE grant_new (subject_kind TEXT NOT NULL CHECK (subject_kind IN ('person','team','everyone')), subject TEXT NOT NULL,
				kind TEXT NOT NULL CHECK (kind IN ('library','set','project')), target TEXT NOT NULL, role TEXT NOT NULL,
				PRIMARY KEY (subject_kind, subject, kind, target))`,
			`INSERT INTO grant_new SELECT 'person', subject, kind, target, role FROM access_grant`,
			`DROP TABLE access_grant`,
			`ALTER TABLE grant_new RENAME TO access_grant`,
			`CREATE INDEX grant_target ON access_grant (kind, target)`,
			`CREATE TABLE library_set (id TEXT PRIMARY KEY, name TEXT NOT NULL)`,
			`CREATE TABLE set_member (set_id TEXT NOT NULL REFERENCES library_set(id), library_id TEXT NOT NULL REFERENCES library(id),
				PRIMARY KEY (set_id, library_id))`,
			// who holds which role where, through whatever grant: their own, a team's, everyone's, and a set's in each of its libraries
			({ name }) => [
				`CREATE VIEW reach AS
				WITH direct AS (
					SELECT g.subject AS person_id, g.kind, g.target, g.role FROM access_grant g WHERE g.subject_kind = 'person'
					UNION ALL SELECT m.person_id, g.kind, g.target, g.role FROM access_grant g JOIN member m ON m.team_id = g.subject WHERE g.subject_kind = 'team'
					UNION ALL SELECT p.id, g.kind, g.target, g.role FROM access_grant g ${name === "sqlite" ? "JOIN" : "CROSS JOIN"} person p WHERE g.subject_kind = 'everyone')
				SELECT person_id, kind, target, role FROM direct
				UNION ALL SELECT d.person_id, 'library', s.library_id, d.role FROM direct d JOIN set_member s ON s.set_id = d.target WHERE d.kind = 'set'`,
			],
		],
	},
	{
		name: "007-libraries-of-a-team",
		steps: [
			`ALTER TABLE library ADD COLUMN owner TEXT REFERENCES person(id)`,
			`ALTER TABLE library ADD COLUMN description TEXT NOT NULL DEFAULT ''`,
			`UPDATE library SET owner = (SELECT subject FROM access_grant WHERE kind = 'library' AND target = library.id ORDER BY role DESC LIMIT 1)`,
			// who opened the lock; it closes itself when nobody used it for the library's idle time
			`CREATE TABLE library_lock (library_id TEXT PRIMARY KEY REFERENCES library(id), opened_by TEXT NOT NULL REFERENCES person(id),
				since TEXT NOT NULL, used_at TEXT NOT NULL)`,
			`ALTER TABLE library ADD COLUMN lock_minutes INTEGER NOT NULL DEFAULT 30`,
			// left out of this person's choosers; nothing else
			`CREATE TABLE library_hidden (library_id TEXT NOT NULL REFERENCES library(id), person_id TEXT NOT NULL REFERENCES person(id),
				PRIMARY KEY (library_id, person_id))`,
			`CREATE TABLE working_list (library_id TEXT NOT NULL REFERENCES library(id), material_id TEXT NOT NULL REFERENCES material(id),
				PRIMARY KEY (library_id, material_id))`,
			`CREATE TABLE edition (id TEXT PRIMARY KEY, library_id TEXT REFERENCES library(id), set_id TEXT REFERENCES library_set(id), no INTEGER NOT NULL,
				note TEXT NOT NULL, actor TEXT NOT NULL REFERENCES person(id), at TEXT NOT NULL, CHECK ((library_id IS NULL) <> (set_id IS NULL)))`,
			`CREATE UNIQUE INDEX edition_no ON edition (COALESCE(library_id, set_id), no)`,
			`CREATE TABLE edition_entry (edition_id TEXT NOT NULL REFERENCES edition(id), material_id TEXT NOT NULL REFERENCES material(id),
				revision_id TEXT NOT NULL REFERENCES revision(id), name TEXT NOT NULL, group_path TEXT NOT NULL, item_code TEXT NOT NULL,
				retired INTEGER NOT NULL, PRIMARY KEY (edition_id, material_id))`,
			// a set is frozen as these editions of its libraries
			`CREATE TABLE set_edition (set_edition_id TEXT NOT NULL REFERENCES edition(id), edition_id TEXT NOT NULL REFERENCES edition(id),
				PRIMARY KEY (set_edition_id, edition_id))`,
			`ALTER TABLE publish ADD COLUMN approved_by TEXT REFERENCES person(id)`,
			// no row: the project follows the library's latest
			`CREATE TABLE follow (project_id TEXT NOT NULL REFERENCES project(id), library_id TEXT NOT NULL REFERENCES library(id),
				edition_id TEXT NOT NULL REFERENCES edition(id), PRIMARY KEY (project_id, library_id))`,
			// which classes of a publish go forward by themselves: none, words, words and values added
			`ALTER TABLE project ADD COLUMN forward TEXT NOT NULL DEFAULT 'none' CHECK (forward IN ('none','words','values-added'))`,
			`CREATE UNIQUE INDEX material_name_in_project ON material (project_id, name_key) WHERE removed_at IS NULL AND project_id IS NOT NULL`,
			`CREATE INDEX publish_item_revision ON publish_item (revision_id)`,
			`CREATE INDEX draft_base ON draft (base_revision_id)`,
		],
	},
	{
		name: "008-notices",
		steps: [
			// what a person has seen of what happened, and kinds that they want nothing of
			`CREATE TABLE notice_state (person_id TEXT PRIMARY KEY REFERENCES person(id), seen_seq INTEGER NOT NULL, seen_day TEXT NOT NULL,
				off TEXT NOT NULL DEFAULT '[]')`,
			`CREATE INDEX event_actor ON event (actor, seq)`,
			`CREATE INDEX event_action ON event (action, seq)`,
			`CREATE INDEX material_owner ON material (owner, review_at)`,
			`CREATE INDEX material_library ON material (library_id)`,
			`CREATE INDEX material_group ON material (group_id)`,
			`CREATE INDEX material_successor ON material (successor_id)`,
			`CREATE INDEX edition_entry_material ON edition_entry (material_id)`,
			// pieces of a part are counted wherever a mass is told
			`CREATE INDEX occurrence_part ON occurrence (part_id)`,
			`CREATE INDEX assignment_project ON assignment (project_id)`,
		],
	},
	{
		name: "009-kept-index",
		steps: [
			// which image of the table of materials belongs to these data, and up to which note it knows of changes
			`CREATE TABLE index_image (id INTEGER PRIMARY KEY CHECK (id = 1), stamp TEXT NOT NULL, seq INTEGER NOT NULL, version INTEGER NOT NULL)`,
			// the same material may stand here many times: a trigger inherits how the statement that fires it treats conflicts
			`CREATE TABLE index_mark (seq INTEGER PRIMARY KEY AUTOINCREMENT, material_id TEXT NOT NULL)`,
			...(["INSERT", "UPDATE", "DELETE"] as const).flatMap((when): Step[] => {
				return [
					marks("material", when, "id"),
					marks("revision", when, "material_id"),
					marks("draft", when, "material_id"),
					marks("working_list", when, "material_id"),
					// what a material is ready for goes with them
					ofLibrary("own_property", when),
				];
			}),
			// a path is made of the names above, so all of the library may stand elsewhere
			(dialect) =>
				dialect.trigger({
					name: "mark_group",
					table: "library_group",
					when: "UPDATE OF name, parent_id",
					body: "INSERT INTO index_mark (material_id) SELECT id FROM material WHERE library_id = NEW.library_id;",
				}),
		],
	},
	{
		name: "010-name-links",
		steps: [
			// the row holds them, so that they are undone, merged and told of like the rest of it; the table is for looking up
			`ALTER TABLE material ADD COLUMN known_as TEXT NOT NULL DEFAULT '[]'`,
			`CREATE TABLE name_link (scope TEXT NOT NULL, external TEXT NOT NULL, key TEXT NOT NULL,
				material_id TEXT NOT NULL REFERENCES material(id) ON DELETE CASCADE)`,
			`CREATE INDEX name_link_key ON name_link (key)`,
			`CREATE INDEX name_link_material ON name_link (material_id)`,
			(dialect) =>
				dialect.trigger({
					name: "name_link_update",
					table: "material",
					when: "UPDATE OF known_as",
					body: `DELETE FROM name_link WHERE material_id = NEW.id;
						INSERT INTO name_link (scope, external, key, material_id)
							SELECT value->>'scope', value->>'name', value->>'key', NEW.id FROM ${
								dialect.name === "sqlite" ? "json_each(NEW.known_as)" : "jsonb_array_elements(CAST(NEW.known_as AS jsonb)) value"
							};`,
				}),
		],
	},
	{
		name: "011-counting",
		steps: [
			// who uses a library, and how many stand in a group, are counted in the indexes alone
			`DROP INDEX material_library`,
			`CREATE INDEX material_library ON material (library_id, id)`,
			`DROP INDEX material_group`,
			`CREATE INDEX material_group ON material (group_id, removed_at)`,
			`CREATE INDEX revision_material ON revision (material_id, id)`,
			`DROP INDEX assignment_revision`,
			`CREATE INDEX assignment_revision ON assignment (revision_id, project_id)`,
		],
	},
	{
		name: "012-doors",
		steps: [
			// groups form a tree, whoever writes: no group stands under itself, or under one of another library
			...(["INSERT", "UPDATE OF parent_id, library_id"] as const).map(
				(when): Step =>
					(dialect) =>
						dialect.guard({
							name: `group_tree_${when.slice(0, 6).toLowerCase()}`,
							table: "library_group",
							when,
							only: "NEW.parent_id IS NOT NULL",
							wrong: `NEW.parent_id = NEW.id
					OR NOT EXISTS (SELECT 1 FROM library_group p WHERE p.id = NEW.parent_id AND p.library_id = NEW.library_id)
					OR EXISTS (WITH RECURSIVE up(id, depth) AS (SELECT NEW.parent_id, 1
						UNION ALL SELECT g.parent_id, up.depth + 1 FROM library_group g JOIN up ON g.id = up.id WHERE g.parent_id IS NOT NULL AND up.depth < 100)
						SELECT 1 FROM up WHERE up.id = NEW.id OR up.depth >= 100)`,
							code: "group-loop",
						}),
			),
			// a retired material is not, by whatever way, its own successor
			(dialect) =>
				dialect.guard({
					name: "successor_line",
					table: "material",
					when: "UPDATE OF successor_id",
					only: "NEW.successor_id IS NOT NULL",
					wrong: `NEW.successor_id = NEW.id
				OR EXISTS (WITH RECURSIVE line(id, depth) AS (SELECT NEW.successor_id, 1
					UNION ALL SELECT m.successor_id, line.depth + 1 FROM material m JOIN line ON m.id = line.id WHERE m.successor_id IS NOT NULL AND line.depth < 100)
					SELECT 1 FROM line WHERE line.id = NEW.id)`,
					code: "retired-loop",
				}),
			// which document names which file, written when a document is stored
			`CREATE TABLE document_file (document_hash TEXT NOT NULL REFERENCES document(hash), file_hash TEXT NOT NULL, PRIMARY KEY (document_hash, file_hash))`,
			`CREATE INDEX document_file_file ON document_file (file_hash)`,
			inSqlite(
				`INSERT INTO document_file (document_hash, file_hash)
				SELECT DISTINCT d.hash, a.value->>'hash' FROM document d, json_each(CAST(d.bytes AS TEXT), '$.attachments') a
					WHERE a.value->>'hash' IS NOT NULL
				UNION SELECT d.hash, json_extract(CAST(d.bytes AS TEXT), '$.look.texture.hash') FROM document d
					WHERE json_extract(CAST(d.bytes AS TEXT), '$.look.texture.hash') IS NOT NULL`,
			),
			// whose right a project's rule acts by: of whoever set it
			`ALTER TABLE project ADD COLUMN forward_by TEXT REFERENCES person(id)`,
			inSqlite(
				`UPDATE project SET forward_by = (SELECT e.actor FROM event e WHERE e.subject_kind = 'project' AND e.subject_id = project.id
				AND e.action = 'project.following' AND json_extract(e.changeset, '$.after.forward') IS NOT NULL ORDER BY e.seq DESC LIMIT 1)
				WHERE forward <> 'none'`,
			),
			// bodies of a file that are no solids, by name; and why a solid's volume may not be what was drawn
			`ALTER TABLE import ADD COLUMN left_out TEXT NOT NULL DEFAULT '[]'`,
			`ALTER TABLE body ADD COLUMN doubt TEXT`,
			// the last step of a page's queue that a draft has taken, so that one that comes twice counts once
			`CREATE TABLE draft_client (material_id TEXT NOT NULL REFERENCES material(id) ON DELETE CASCADE, person_id TEXT NOT NULL REFERENCES person(id),
				client TEXT NOT NULL, step INTEGER NOT NULL, at TEXT NOT NULL, PRIMARY KEY (material_id, person_id, client))`,
		],
	},
	{
		name: "013-marks-and-owners",
		steps: [
			// only what stands in the group, or in one below it, stands under another path
			(dialect) => dialect.dropTrigger("mark_group", "library_group"),
			(dialect) =>
				dialect.trigger({
					name: "mark_group",
					table: "library_group",
					when: "UPDATE OF name, parent_id",
					body: `INSERT INTO index_mark (material_id) SELECT id FROM material WHERE group_id IN
						(WITH RECURSIVE below(id, depth) AS (SELECT NEW.id, 0
							UNION ALL SELECT g.id, below.depth + 1 FROM library_group g JOIN below ON g.parent_id = below.id WHERE below.depth < 100)
							SELECT id FROM below);`,
				}),
			"CREATE INDEX group_parent ON library_group (parent_id)",
			// long work may be about a library too
			"ALTER TABLE job ADD COLUMN library_id TEXT REFERENCES library(id)",
		],
	},
	{
		name: "014-uses-of-files",
		steps: [
			// who needs which file: a file goes when nobody does any more. What a document names is one kind of use among others
			`CREATE TABLE blob_use (hash TEXT NOT NULL, owner_kind TEXT NOT NULL, owner_id TEXT NOT NULL, at TEXT NOT NULL,
				PRIMARY KEY (hash, owner_kind, owner_id))`,
			"CREATE INDEX blob_use_owner ON blob_use (owner_kind, owner_id)",
			"INSERT INTO blob_use SELECT file_hash, 'document', document_hash, '' FROM document_file",
			"INSERT INTO blob_use SELECT hash, 'upload', person_id, at FROM file_upload",
			"INSERT INTO blob_use SELECT hash, 'geometry', hash, '' FROM geometry",
			"INSERT INTO blob_use SELECT mesh_hash, 'geometry', hash, '' FROM geometry",
			"DROP TABLE document_file",
			"DROP TABLE file_upload",
		],
	},
	{
		name: "015-kept-apart",
		steps: [
			// two that look alike, and of which somebody has said that they are not one; `a` sorts before `b`
			`CREATE TABLE kept_apart (a TEXT NOT NULL REFERENCES material(id) ON DELETE CASCADE,
				b TEXT NOT NULL REFERENCES material(id) ON DELETE CASCADE, person_id TEXT NOT NULL REFERENCES person(id), at TEXT NOT NULL,
				PRIMARY KEY (a, b))`,
			"CREATE INDEX kept_apart_b ON kept_apart (b)",
		],
	},
	{
		name: "016-own-uses",
		steps: [
			// uses that a library adds to the built-in ones; what its materials are ready for goes with them
			`CREATE TABLE own_use (uid TEXT PRIMARY KEY, library_id TEXT NOT NULL REFERENCES library(id), version INTEGER NOT NULL, content TEXT NOT NULL,
				changed_at TEXT NOT NULL)`,
			"CREATE INDEX own_use_library ON own_use (library_id)",
			...(["INSERT", "UPDATE", "DELETE"] as const).map((when): Step => ofLibrary("own_use", when)),
		],
	},
];
