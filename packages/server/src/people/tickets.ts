import type { TicketLink, TicketView } from "@alvek/contract";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite, type Sql } from "../db";
import {
	changePersonRow,
	insertPerson,
	insertTicket,
	isAnybodySetUp,
	joinTeams,
	recordEvent,
	removeOpenTickets,
	removeSessionsOf,
	removeTokensOf,
	setFirstLogin,
	type TicketRecord,
	ticketByHash,
	ticketUsed,
} from "../repo";
import { daysFrom } from "../runtime";
import { type Accounts, ensureLoginAvailable } from "./accounts";
import { hashOf, newSecret } from "./secrets";
import { openSession } from "./sessions";

type Kind = TicketView["kind"];
type Content = { readonly name: string; readonly admin: boolean; readonly teams: readonly string[] };
const NO_CONTENT: Content = { name: "", admin: false, teams: [] };

const DAYS: Readonly<Record<Kind, number>> = { setup: 7, invitation: 7, reset: 2 };

/** A link that opens one door once. Only the hash of its secret is kept. */
export async function makeTicket(
	ctx: Context,
	sql: Sql,
	ticket: { kind: Kind; person: string | null; content?: Content; madeBy: string | null },
): Promise<TicketLink> {
	const secret = newSecret();
	const expiresAt = daysFrom(ctx.now(), DAYS[ticket.kind]);
	// a newer link for the same person takes the place of an older one
	if (ticket.person !== null) await removeOpenTickets(sql, ticket.person);
	await insertTicket(sql, {
		id: ctx.newId(),
		hash: hashOf(secret),
		kind: ticket.kind,
		person_id: ticket.person,
		content: JSON.stringify(ticket.content ?? NO_CONTENT),
		made_by: ticket.madeBy,
		expires_at: expiresAt,
		used_at: null,
	});
	return { path: `/join/${secret}`, expiresAt };
}

async function openTicket(sql: Sql, secret: string, now: string): Promise<Result<TicketRecord>> {
	const row = await ticketByHash(sql, hashOf(secret), now);
	return row === null ? fail({ code: "ticket-gone" }) : ok(row);
}

export async function readTicket(ctx: Context, input: { ticket: string }): Promise<Result<TicketView>> {
	const ticket = await openTicket(ctx.db, input.ticket, ctx.now());
	if (!ticket.ok) return ticket;
	const { kind, content, name, login } = ticket.value;
	// the first person has a stand-in's name until somebody sets the installation up
	const known = kind === "setup" ? "" : (name ?? (JSON.parse(content) as Content).name);
	return ok({ kind, name: known, login: login ?? "" });
}

/** Initials from a name: the first letters of its first and last word. */
export function initialsOf(name: string): string {
	const words = name.split(/\s+/).filter((w) => w !== "");
	const letters = words.length > 1 ? [words[0], words.at(-1)] : [words[0]?.slice(0, 1), words[0]?.slice(1, 2)];
	return letters
		.map((w) => [...(w ?? "")][0] ?? "")
		.join("")
		.toUpperCase();
}

/** Makes the account, or gives it a new password (which ends its other sessions and its tokens), and signs in. The session's secret. */
export async function redeemTicket(
	ctx: Context,
	accounts: Accounts,
	input: { ticket: string; name: string; login: string; password: string },
	agent: string,
): Promise<Result<string>> {
	// looked at before the slow part, so that a wrong link costs nothing
	const existing = await openTicket(ctx.db, input.ticket, ctx.now());
	if (!existing.ok) return existing;
	const prepared = await accounts.prepare(input.password, input.login);
	if (!prepared.ok) return prepared;
	return inWrite(ctx, async (sql) => {
		const ticket = await openTicket(sql, input.ticket, ctx.now());
		if (!ticket.ok) return ticket;
		const { kind, person_id } = ticket.value;
		const name = cleanName(input.name);
		if (!name.ok) return name;
		const login = await ensureLoginAvailable(sql, input.login, person_id ?? "");
		if (!login.ok) return login;
		const content = JSON.parse(ticket.value.content) as Content;
		const person = person_id ?? ctx.newId();
		const row = { name: name.value, login: login.value, initials: initialsOf(name.value) };
		if (person_id === null) {
			await insertPerson(sql, { id: person, ...row, admin: content.admin ? 1 : 0 });
			await joinTeams(sql, person, content.teams);
		} else if (kind === "setup") await changePersonRow(sql, person, row);
		// somebody who never signed in with a name chooses one now
		else await setFirstLogin(sql, person, login.value);
		await accounts.keep(sql, person, prepared.value);
		await removeSessionsOf(sql, person);
		await removeTokensOf(sql, person);
		await ticketUsed(sql, ticket.value.id, ctx.now());
		await recordEvent({ ...ctx, actor: { person, admin: false } }, sql, {
			action: `person.${kind}`,
			kind: "person",
			subject: person,
			changeset: { name: name.value },
			inverse: null,
		});
		return ok(await openSession(ctx, sql, person, agent));
	});
}

/** The link of a first start: it makes the first person the administrator. Null once somebody can sign in. */
export async function setupLink(ctx: Context): Promise<string | null> {
	const made = await inWrite(ctx, async (sql) => {
		if (await isAnybodySetUp(sql)) return ok(null);
		return ok((await makeTicket(ctx, sql, { kind: "setup", person: ctx.actor.person, madeBy: null })).path);
	});
	return made.ok ? made.value : null;
}
