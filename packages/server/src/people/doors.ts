import type { RouteInput, SessionView } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite } from "../db/write";
import { type Accounts, localAccounts } from "./accounts";
import { getSession } from "./service";
import { bySession, openSession, signOut } from "./sessions";
import { redeemTicket } from "./tickets";

/** Ways into the installation; each that succeeds answers the secret of a new session. */
export function doorServices(options: { version: string; demo: boolean; accounts?: Accounts }) {
	const { version, demo, accounts = localAccounts } = options;

	/** A session that the browser still held ends with the new one, so that nobody keeps a second door open. */
	const enter = (ctx: Context, person: string, agent: string, renewed: string | null = null): Promise<Result<string>> =>
		inWrite(ctx, async (sql) => {
			if (renewed !== null) await accounts.keep(sql, person, renewed);
			await sql.run("DELETE FROM session WHERE hash = $hash", { hash: ctx.session ?? "" });
			return ok(await openSession(ctx, sql, person, agent));
		});

	return {
		async signIn(ctx: Context, input: RouteInput<"signIn">, agent: string): Promise<Result<string>> {
			const person = await accounts.check(ctx.db, input.login, input.password);
			// one sentence for both: which of the two is wrong helps only somebody who guesses
			if (person === null) return fail({ code: "wrong-sign-in" });
			return enter(ctx, person, agent, await accounts.renewed(ctx.db, person, input.password));
		},
		async signInAs(ctx: Context, input: RouteInput<"signInAs">, agent: string): Promise<Result<string>> {
			const person = await ctx.db.one("SELECT 1 AS x FROM person WHERE id = $id AND secret IS NULL AND left_at IS NULL", {
				id: input.person,
			});
			return demo && person !== null ? enter(ctx, input.person, agent) : fail({ code: "not-found", path: "The person" });
		},
		useTicket: (ctx: Context, input: RouteInput<"useTicket">, agent: string) => redeemTicket(ctx, accounts, input, agent),
		async sessionOf(ctx: Context, secret: string): Promise<Result<SessionView>> {
			const known = await bySession(ctx, secret);
			return known === null ? fail({ code: "signed-out" }) : getSession({ ...ctx, ...known }, version, demo);
		},
		signOut,
	};
}
