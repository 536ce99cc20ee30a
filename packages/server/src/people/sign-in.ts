import type { RouteInput, SessionView } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite } from "../db";
import { personHere, removeSession } from "../repo";
import { type Accounts, localAccounts } from "./accounts";
import { getSession } from "./service";
import { bySession, openSession, signOut } from "./sessions";
import { redeemTicket } from "./tickets";

/** Ways into the installation; each that succeeds answers the secret of a new session. */
export function signInServices(options: { version: string; demo: boolean; accounts?: Accounts }) {
	const { version, demo, accounts = localAccounts } = options;

	/** A session that the browser still held ends with the new one, so that nobody keeps a second door open. */
	const enter = (ctx: Context, person: string, agent: string, renewed: string | null = null): Promise<Result<string>> =>
		inWrite(ctx, async (sql) => {
			if (renewed !== null) await accounts.keep(sql, person, renewed);
			await removeSession(sql, ctx.session ?? "");
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
			const person = await personHere(ctx.db, input.person);
			if (!demo || person === null || person.secret === 1) return fail({ code: "not-found", path: "The person" });
			return enter(ctx, input.person, agent);
		},
		useTicket: (ctx: Context, input: RouteInput<"useTicket">, agent: string) => redeemTicket(ctx, accounts, input, agent),
		async sessionOf(ctx: Context, secret: string): Promise<Result<SessionView>> {
			const known = await bySession(ctx, secret);
			return known === null ? fail({ code: "signed-out" }) : getSession({ ...ctx, ...known }, version, demo);
		},
		signOut,
	};
}
