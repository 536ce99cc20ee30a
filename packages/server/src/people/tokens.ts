import type { RouteInput, TokenSecret, TokenView } from "@alvek/contract";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite, recordEvent } from "../db/write";
import { daysFrom, hashOf, newSecret } from "./secrets";

const MOST = 50;

export async function listTokens(ctx: Context): Promise<Result<readonly TokenView[]>> {
	return ok(
		await ctx.db.all<TokenView>(
			`SELECT id, name, scope, created_at AS createdAt, expires_at AS expiresAt, used_at AS usedAt FROM token
			 WHERE person_id = $person ORDER BY created_at DESC`,
			{ person: ctx.actor.person },
		),
	);
}

/** The secret is answered here once; only its hash is kept. */
export function makeToken(ctx: Context, input: RouteInput<"makeToken">): Promise<Result<TokenSecret>> {
	return inWrite(ctx, async (sql) => {
		const name = cleanName(input.name);
		if (!name.ok) return name;
		const { person } = ctx.actor;
		const count = await sql.one<{ n: number }>("SELECT COUNT(*) AS n FROM token WHERE person_id = $person", { person });
		if ((count?.n ?? 0) >= MOST) return fail({ code: "too-many", path: "tokens", actual: MOST + 1, expected: `at most ${MOST}` });
		if ((await sql.one("SELECT 1 AS x FROM token WHERE id = $id", { id: input.id })) !== null) return fail({ code: "id-taken" });
		const secret = `alvek_${newSecret()}`;
		const createdAt = ctx.now();
		const made = { id: input.id, name: name.value, scope: input.scope, createdAt, expiresAt: daysFrom(createdAt, input.days) };
		await sql.run(
			`INSERT INTO token (id, hash, person_id, name, scope, created_at, expires_at)
			 VALUES ($id, $hash, $person, $name, $scope, $createdAt, $expiresAt)`,
			{ ...made, hash: hashOf(secret), person },
		);
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
		const row = await sql.one<{ name: string }>("SELECT name FROM token WHERE id = $id AND person_id = $person", {
			id: input.id,
			person,
		});
		if (row === null) return fail({ code: "not-found", path: "The token" });
		await sql.run("DELETE FROM token WHERE id = $id", { id: input.id });
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
