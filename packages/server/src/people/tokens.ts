import type { RouteInput, TokenSecret, TokenView } from "@alvek/contract";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite } from "../db";
import { countTokens, hasToken, insertToken, recordEvent, removeTokenRow, tokenOf, tokensOf } from "../repo";
import { daysFrom } from "../runtime";
import { hashOf, newSecret } from "./secrets";

const MOST = 50;

export async function listTokens(ctx: Context): Promise<Result<readonly TokenView[]>> {
	return ok(await tokensOf(ctx.db, ctx.actor.person));
}

/** The secret is answered here once; only its hash is kept. */
export function makeToken(ctx: Context, input: RouteInput<"makeToken">): Promise<Result<TokenSecret>> {
	return inWrite(ctx, async (sql) => {
		const name = cleanName(input.name);
		if (!name.ok) return name;
		const { person } = ctx.actor;
		if ((await countTokens(sql, person)) >= MOST)
			return fail({ code: "too-many", path: "tokens", actual: MOST + 1, expected: `at most ${MOST}` });
		if (await hasToken(sql, input.id)) return fail({ code: "id-taken" });
		const secret = `alvek_${newSecret()}`;
		const createdAt = ctx.now();
		const made = { id: input.id, name: name.value, scope: input.scope, createdAt, expiresAt: daysFrom(createdAt, input.days) };
		await insertToken(sql, {
			id: made.id,
			hash: hashOf(secret),
			person_id: person,
			name: made.name,
			scope: made.scope,
			created_at: createdAt,
			expires_at: made.expiresAt,
			used_at: null,
		});
		await recordEvent(ctx, sql, {
			action: "token.make",
			kind: "person",
			subject: person,
			changeset: { name: made.name, scope: made.scope, expiresAt: made.expiresAt },
			inverse: null,
		});
		return ok({ ...made, usedAt: null, secret });
	});
}

export function removeToken(ctx: Context, input: { id: string }): Promise<Result<null>> {
	return inWrite(ctx, async (sql) => {
		const { person } = ctx.actor;
		const row = await tokenOf(sql, person, input.id);
		if (row === null) return fail({ code: "not-found", path: "The token" });
		await removeTokenRow(sql, input.id);
		await recordEvent(ctx, sql, {
			action: "token.remove",
			kind: "person",
			subject: person,
			changeset: { name: row.name },
			inverse: null,
		});
		return ok(null);
	});
}

/** A token that the server's own scripts (benches, tests) show to work over HTTP as this person; one day at most. */
export async function scriptToken(ctx: Context): Promise<string> {
	const made = await makeToken(ctx, { id: ctx.newId(), name: "a script of this machine", scope: "write", days: 1 });
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value.secret;
}
