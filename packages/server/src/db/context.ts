import { fail, type Result } from "@alvek/core/result";
import type { Actor } from "@alvek/core/rights";
import type { Db, Sql } from "./connection";

/** Everything a service may use; nothing of HTTP. */
export type Context = {
	readonly db: Db;
	readonly actor: Actor;
	/** Hash of the session that asks; absent for tokens and scripts of the server itself. */
	readonly session?: string;
	/** Which open page asks, so that it is not told its own news. */
	readonly tab?: string;
	/** Takes the names of the steps that were recorded, for the reply. */
	readonly steps?: Set<string>;
	/** The request runs as a job: it tells how far it is, and ends without a trace when its signal says so. */
	readonly work?: {
		readonly tell: (progress: number, stage: string) => void;
		readonly signal: AbortSignal;
	};
	readonly now: () => string;
	readonly newId: () => string;
};

/**
 * The only way to write: one transaction, rolled back when the Result is not ok (Sequelize itself commits a returned
 * failure). What follows from a change follows from the commit: the index and the streams look for themselves.
 */
export function inWrite<T>(ctx: Context, fn: (sql: Sql) => Promise<Result<T>>): Promise<Result<T>> {
	return ctx.db.transaction(async (sql) => {
		// a job that was stopped leaves nothing behind, whether it waited for its turn or was at work
		const stopped = (): boolean => ctx.work?.signal.aborted === true;
		if (stopped()) return { commit: false, value: fail({ code: "cancelled" }) };
		const value = await fn(sql);
		return stopped() && value.ok ? { commit: false, value: fail({ code: "cancelled" }) } : { commit: value.ok, value };
	});
}
