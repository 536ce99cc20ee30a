import type { OwnPropertyView, OwnUseView, SourceView } from "@alvek/contract";
import {
	addressIssue,
	decodeOwn,
	decodeOwnUse,
	decodeSource,
	nameKey,
	type OwnUse,
	type Source,
	USES,
} from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseLibrary } from "../access";
import { type Context, inWrite } from "../db";
import {
	type KeptRecord,
	ownPropertiesOf,
	ownUsesOf,
	putRecord,
	type RecordKind,
	recordById,
	recordEvent,
	recordsOf,
} from "../repo";

const MOST_RECORDS = 2000;

async function list(ctx: Context, library: string, kind: RecordKind): Promise<Result<readonly KeptRecord[]>> {
	const allowed = await authoriseLibrary(ctx, ctx.db, library, "library.read");
	return allowed.ok ? ok(await recordsOf(ctx.db, kind, library, MOST_RECORDS)) : allowed;
}

/** Version 0 is a new record; any other has to be the one that the author saw. A repeated save of the same content is one. */
function save(
	ctx: Context,
	library: string,
	kind: RecordKind,
	record: { id: string; version: number; content: unknown },
): Promise<Result<{ version: number }>> {
	return inWrite(ctx, async (sql) => {
		const allowed = await authoriseLibrary(ctx, sql, library, "library.edit");
		if (!allowed.ok) return allowed;
		const content = JSON.stringify(record.content);
		const existing = await recordById(sql, kind, record.id);
		if (existing !== null && existing.library_id !== library) return fail({ code: "id-taken" });
		if (existing !== null && existing.content === content) return ok({ version: existing.version });
		if ((existing?.version ?? 0) !== record.version) {
			const current = existing === null ? null : (JSON.parse(existing.content) as unknown);
			return fail({
				code: "conflict",
				path: kind,
				actual: record.version,
				expected: `version ${existing?.version ?? 0}`,
				current,
			});
		}
		const version = record.version + 1;
		await putRecord(sql, kind, { id: record.id, version, content, library, at: ctx.now() });
		await recordEvent(ctx, sql, {
			action: `${kind}.save`,
			kind: "library",
			subject: library,
			changeset: { id: record.id, version, before: existing?.content ?? null, after: content },
			inverse: null,
		});
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

export async function listOwnUses(ctx: Context, input: { id: string }): Promise<Result<readonly OwnUseView[]>> {
	const rows = await list(ctx, input.id, "use");
	return rows.ok ? ok(rows.value.map((r) => ({ version: r.version, content: JSON.parse(r.content) as OwnUse }))) : rows;
}

/** Uses that one library adds, put away ones among them. */
const MOST_USES = 60;

/** The readiness of the whole library changes with it: the database notes all of its materials for the index. */
export async function saveOwnUse(
	ctx: Context,
	input: { id: string; version: number; content?: unknown },
): Promise<Result<OwnUseView>> {
	const content = decodeOwnUse(input.content);
	if (!content.ok) return content;
	const allowed = await authoriseLibrary(ctx, ctx.db, input.id, "library.edit");
	if (!allowed.ok) return allowed;
	const known = await ownUsesOf(ctx.db, input.id);
	const { uid, name } = content.value;
	const others = known.filter((u) => u.uid !== uid);
	if (USES.some((u) => nameKey(u.name) === nameKey(name)) || others.some((u) => !u.off && nameKey(u.name) === nameKey(name)))
		return fail({ code: "use-taken", path: "name", actual: name });
	if (others.length >= MOST_USES) return fail({ code: "too-many-uses", expected: String(MOST_USES) });
	const record = { id: uid, version: input.version, content: content.value };
	const saved = await save(ctx, input.id, "use", record);
	return saved.ok ? ok({ version: saved.value.version, content: content.value }) : saved;
}

/** The readiness of the whole library may change with it: the database notes all of its materials for the index. */
export async function saveOwnProperty(
	ctx: Context,
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
	const existing = known.find((p) => p.uid === uid) ?? content.value;
	if (existing.siUnit !== content.value.siUnit)
		return fail({ code: "own-unit", path: "unit", actual: content.value.unit, expected: existing.unit });
	const record = { id: content.value.uid, version: input.version, content: content.value };
	const saved = await save(ctx, input.id, "property", record);
	return saved.ok ? ok({ version: saved.value.version, content: content.value }) : saved;
}
