import type { OwnPropertyView, SourceView } from "@alvek/contract";
import { addressIssue, decodeOwn, decodeSource, nameKey, type Source } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary } from "../db/rights";
import { type Context, inWrite, recordEvent } from "../db/write";
import type { Finding } from "../materials/finding";
import { ownPropertiesOf } from "../materials/store";

type Kept = { readonly id: string; readonly version: number; readonly content: string };

/** What a library keeps beside its materials, each with a version: sources, and properties of its own. */
const TABLES = { source: { table: "source", key: "id" }, property: { table: "own_property", key: "uid" } } as const;
type RecordKind = keyof typeof TABLES;

async function list(ctx: Context, library: string, kind: RecordKind): Promise<Result<readonly Kept[]>> {
	const allowed = await authoriseLibrary(ctx, ctx.db, library, "library.read");
	if (!allowed.ok) return allowed;
	const { table, key } = TABLES[kind];
	return ok(
		await ctx.db.all<Kept>(
			`SELECT ${key} AS id, version, content FROM ${table} WHERE library_id = $library ORDER BY changed_at DESC LIMIT 2000`,
			{ library },
		),
	);
}

/** Version 0 is a new record; any other has to be the one that the author saw. A repeated save of the same content is one. */
function save(
	ctx: Context,
	library: string,
	kind: RecordKind,
	record: { id: string; version: number; content: unknown },
	afterwards: () => Promise<void> = async () => undefined,
): Promise<Result<{ version: number }>> {
	const { table, key } = TABLES[kind];
	return inWrite(ctx, async (sql, after) => {
		const allowed = await authoriseLibrary(ctx, sql, library, "library.edit");
		if (!allowed.ok) return allowed;
		const content = JSON.stringify(record.content);
		const standing = await sql.one<Kept & { library_id: string }>(
			`SELECT ${key} AS id, version, content, library_id FROM ${table} WHERE ${key} = $id`,
			{ id: record.id },
		);
		if (standing !== null && standing.library_id !== library) return fail({ code: "id-taken" });
		if (standing !== null && standing.content === content) return ok({ version: standing.version });
		if ((standing?.version ?? 0) !== record.version) {
			const current = standing === null ? null : (JSON.parse(standing.content) as unknown);
			return fail({
				code: "conflict",
				path: kind,
				actual: record.version,
				expected: `version ${standing?.version ?? 0}`,
				current,
			});
		}
		const version = record.version + 1;
		await sql.run(
			`INSERT INTO ${table} (${key}, library_id, version, content, changed_at) VALUES ($id, $library, $version, $content, $at)
			 ON CONFLICT (${key}) DO UPDATE SET version = $version, content = $content, changed_at = $at`,
			{ id: record.id, library, version, content, at: ctx.now() },
		);
		await recordEvent(ctx, sql, {
			action: `${kind}.save`,
			kind: "library",
			subject: library,
			changeset: { id: record.id, version, before: standing?.content ?? null, after: content },
			inverse: null,
		});
		after(afterwards);
		return ok({ version });
	});
}

export async function listSources(ctx: Context, input: { id: string }): Promise<Result<readonly SourceView[]>> {
	const rows = await list(ctx, input.id, "source");
	return rows.ok ? ok(rows.value.map((r) => ({ id: r.id, version: r.version, content: JSON.parse(r.content) as Source }))) : rows;
}

export async function saveSource(
	ctx: Context,
	input: { id: string; source: string; version: number; content?: unknown },
): Promise<Result<SourceView>> {
	const content = decodeSource(input.content, "source");
	if (!content.ok) return content;
	const address = addressIssue(content.value, "source");
	if (address !== null) return fail(address);
	const saved = await save(ctx, input.id, "source", { id: input.source, version: input.version, content: content.value });
	return saved.ok ? ok({ id: input.source, version: saved.value.version, content: content.value }) : saved;
}

export async function listOwnProperties(ctx: Context, input: { id: string }): Promise<Result<readonly OwnPropertyView[]>> {
	const rows = await list(ctx, input.id, "property");
	return rows.ok ? ok(rows.value.map((r) => ({ version: r.version, content: JSON.parse(r.content) as OwnProperty }))) : rows;
}

/** The readiness of the whole library may change with it, so the index is loaded anew. */
export async function saveOwnProperty(
	ctx: Context,
	finding: Finding,
	input: { id: string; version: number; content?: unknown },
): Promise<Result<OwnPropertyView>> {
	const content = decodeOwn(input.content);
	if (!content.ok) return content;
	const allowed = await authoriseLibrary(ctx, ctx.db, input.id, "library.edit");
	if (!allowed.ok) return allowed;
	const known = await ownPropertiesOf(ctx.db, input.id);
	const { uid, name } = content.value;
	if (known.some((p) => p.uid !== uid && nameKey(p.name) === nameKey(name)))
		return fail({ code: "own-taken", path: "name", actual: name });
	// numbers that stand in documents would be taken for something else
	const standing = known.find((p) => p.uid === uid) ?? content.value;
	if (standing.siUnit !== content.value.siUnit)
		return fail({ code: "own-unit", path: "unit", actual: content.value.unit, expected: standing.unit });
	const saved = await save(
		ctx,
		input.id,
		"property",
		{ id: content.value.uid, version: input.version, content: content.value },
		() => finding.reloadLibrary(input.id),
	);
	return saved.ok ? ok({ version: saved.value.version, content: content.value }) : saved;
}
