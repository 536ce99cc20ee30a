import { fail, ok, type Result } from "@alvek/core/result";
import type { Sql } from "../db";
import { isLoginTaken, secretByLogin, secretOf, setSecret } from "../repo";
import { checkPassword, hashPassword, isOutdated, passwordFits } from "./password";

/**
 * Who somebody is: the port behind which accounts sit. The local ones keep passwords here; single sign-on would answer
 * the same questions from elsewhere.
 */
export type Accounts = {
	/** The person behind these credentials; null when they do not fit, whatever the reason. */
	check(sql: Sql, login: string, password: string): Promise<string | null>;
	/** A password that may be kept, ready to be stored with `keep`. Slow on purpose, so never inside a transaction. */
	prepare(password: string, login: string): Promise<Result<string>>;
	keep(sql: Sql, person: string, prepared: string): Promise<void>;
	/** The same password, ready to be kept at today's cost; null when it is kept so already. */
	renewed(sql: Sql, person: string, password: string): Promise<string | null>;
};

export const localAccounts: Accounts = {
	async check(sql, login, password) {
		const row = await secretByLogin(sql, login.trim());
		return (await passwordFits(password, row?.secret ?? null)) ? (row?.id ?? null) : null;
	},
	async prepare(password, login) {
		const checked = checkPassword(password, login);
		return checked.ok ? ok(await hashPassword(checked.value)) : checked;
	},
	async renewed(sql, person, password) {
		const secret = await secretOf(sql, person);
		return secret !== null && isOutdated(secret) ? hashPassword(password) : null;
	},
	async keep(sql, person, prepared) {
		await setSecret(sql, person, prepared);
	},
};

/** A name to sign in with: short, no spaces, nobody else's. */
export async function ensureLoginAvailable(sql: Sql, login: string, except: string): Promise<Result<string>> {
	const text = login.trim();
	if (!/^[\p{L}\p{N}][\p{L}\p{N}._@+-]{1,79}$/u.test(text))
		return fail({ code: "bad-login", path: "sign-in name", actual: text.slice(0, 80) });
	const taken = await isLoginTaken(sql, text, except);
	return taken ? fail({ code: "login-taken", path: "sign-in name", actual: text }) : ok(text);
}
