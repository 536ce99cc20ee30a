import type { InvitationView, PeopleView, PersonView, RouteInput, SessionView, TicketLink } from "@alvek/contract";
import type { EventAction } from "@alvek/core/event";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { authoriseInstallation } from "../access";
import { type Context, inWrite, type Sql } from "../db";
import {
	allPeople,
	allTeams,
	changePersonRow,
	hasTeam,
	isOtherAdministrator,
	isTeamNameTaken,
	openInvitations,
	type PersonRecord,
	peopleHere,
	personHere,
	putTeam,
	recordEvent,
	removeGrantsOf,
	removeInvitation,
	removeOtherSessions,
	removeTeamRow,
	removeTokensOf,
} from "../repo";
import { type Accounts, ensureLoginAvailable, localAccounts } from "./accounts";
import { initialsOf, makeTicket } from "./tickets";

const personView = (r: PersonRecord): PersonView => ({
	id: r.id,
	name: r.name,
	initials: r.initials,
	admin: r.admin === 1,
	login: r.login,
	left: r.left_at !== null,
});

/** Who is here, and what the page needs before anybody is. */
export async function getSession(ctx: Context, version: string, demo: boolean): Promise<Result<SessionView>> {
	const people = await peopleHere(ctx.db);
	const me = people.find((p) => p.id === ctx.actor.person);
	return ok({
		version,
		person: me === undefined ? null : personView(me),
		people: people.length,
		demo: demo ? people.filter((p) => p.secret === 0).map(({ id, name, initials, does }) => ({ id, name, initials, does })) : [],
		unset: !demo && people.every((p) => p.secret === 0),
	});
}

export async function listPeople(ctx: Context): Promise<Result<PeopleView>> {
	const may = authoriseInstallation(ctx, "people.read");
	if (!may.ok) return may;
	const people = await allPeople(ctx.db);
	const teams = await allTeams(ctx.db);
	const invitations = ctx.actor.admin ? await openInvitations(ctx.db, ctx.now()) : [];
	return ok({
		// the name that somebody signs in with is half of their key
		people: people.map((p) => (ctx.actor.admin || p.id === ctx.actor.person ? personView(p) : { ...personView(p), login: "" })),
		teams,
		invitations: invitations.map((i): InvitationView => {
			const { name, admin } = JSON.parse(i.content) as { name: string; admin: boolean };
			return { id: i.id, name, admin, by: i.by, expiresAt: i.expires_at };
		}),
	});
}

/** One change of people by an administrator: asked for the right, written, told to history. */
export function manage<T>(
	ctx: Context,
	event: { action: EventAction; kind: "person" | "team"; subject: string; changeset: unknown },
	work: (sql: Sql) => Promise<Result<T>>,
): Promise<Result<T>> {
	return inWrite(ctx, async (sql) => {
		const may = authoriseInstallation(ctx, "people.manage");
		if (!may.ok) return may;
		const result = await work(sql);
		if (result.ok) await recordEvent(ctx, sql, { ...event, inverse: null });
		return result;
	});
}

export function invite(ctx: Context, input: RouteInput<"invite">): Promise<Result<TicketLink>> {
	const content = { name: input.name.trim(), admin: input.admin, teams: input.teams };
	const event = { action: "person.invite", kind: "person", subject: ctx.actor.person, changeset: content } as const;
	return manage(ctx, event, async (sql) =>
		ok(await makeTicket(ctx, sql, { kind: "invitation", person: null, content, madeBy: ctx.actor.person })),
	);
}

export function withdrawInvitation(ctx: Context, input: { id: string }): Promise<Result<null>> {
	const event = { action: "person.withdraw", kind: "person", subject: ctx.actor.person, changeset: input } as const;
	return manage(ctx, event, async (sql) => {
		const removed = await removeInvitation(sql, input.id);
		return removed ? ok(null) : fail({ code: "not-found", path: "The invitation" });
	});
}

export async function personById(sql: Sql, id: string): Promise<Result<PersonRecord>> {
	const row = await personHere(sql, id);
	return row === null ? fail({ code: "not-found", path: "The person" }) : ok(row);
}

/** Refuses to leave the installation without an administrator. */
export async function keepsAnAdministrator(sql: Sql, without: string): Promise<Result<null>> {
	return (await isOtherAdministrator(sql, without)) ? ok(null) : fail({ code: "last-administrator" });
}

export function changePerson(ctx: Context, input: RouteInput<"changePerson">): Promise<Result<null>> {
	const event = { action: "person.change", kind: "person", subject: input.id, changeset: input } as const;
	return manage(ctx, event, async (sql) => {
		const person = await personById(sql, input.id);
		if (!person.ok) return person;
		if (input.admin === false && person.value.admin === 1) {
			const kept = await keepsAnAdministrator(sql, input.id);
			if (!kept.ok) return kept;
		}
		const name = cleanName(input.name ?? person.value.name);
		if (!name.ok) return name;
		const admin = (input.admin ?? person.value.admin === 1) ? 1 : 0;
		const initials = input.name === undefined ? person.value.initials : initialsOf(name.value);
		await changePersonRow(sql, input.id, { name: name.value, initials, admin });
		return ok(null);
	});
}

export function resetPassword(ctx: Context, input: { id: string }): Promise<Result<TicketLink>> {
	const event = { action: "person.reset-link", kind: "person", subject: input.id, changeset: {} } as const;
	return manage(ctx, event, async (sql) => {
		const person = await personById(sql, input.id);
		if (!person.ok) return person;
		return ok(await makeTicket(ctx, sql, { kind: "reset", person: input.id, madeBy: ctx.actor.person }));
	});
}

export function saveTeam(ctx: Context, input: RouteInput<"saveTeam">): Promise<Result<null>> {
	const event = { action: "team.save", kind: "team", subject: input.id, changeset: input } as const;
	return manage(ctx, event, async (sql) => {
		const name = cleanName(input.name);
		if (!name.ok) return name;
		if (await isTeamNameTaken(sql, name.value, input.id)) return fail({ code: "team-taken", path: "name", actual: name.value });
		await putTeam(sql, { id: input.id, name: name.value }, input.members);
		return ok(null);
	});
}

export function removeTeam(ctx: Context, input: { id: string }): Promise<Result<null>> {
	const event = { action: "team.remove", kind: "team", subject: input.id, changeset: {} } as const;
	return manage(ctx, event, async (sql) => {
		if (!(await hasTeam(sql, input.id))) return fail({ code: "not-found", path: "The team" });
		await removeGrantsOf(sql, "team", input.id);
		await removeTeamRow(sql, input.id);
		return ok(null);
	});
}

/** My own name, initials, password. A new password needs the old one, and ends my other sessions and my tokens. */
export async function changeMe(
	ctx: Context,
	input: RouteInput<"changeMe">,
	accounts: Accounts = localAccounts,
): Promise<Result<null>> {
	const me = await personById(ctx.db, ctx.actor.person);
	if (!me.ok) return me;
	const prepared = input.password === undefined ? null : await newPassword(ctx, accounts, me.value, input);
	if (prepared !== null && !prepared.ok) return prepared;
	return inWrite(ctx, async (sql) => {
		const name = cleanName(input.name ?? me.value.name);
		if (!name.ok) return name;
		const initials = (input.initials ?? "").trim().slice(0, 3).toUpperCase() || initialsOf(name.value);
		if (input.initials !== undefined || input.name !== undefined)
			await changePersonRow(sql, me.value.id, { name: name.value, initials });
		if (prepared !== null) {
			await accounts.keep(sql, me.value.id, prepared.value);
			// whoever knew the old one may have made tokens with it
			await removeTokensOf(sql, me.value.id);
			await removeOtherSessions(sql, me.value.id, ctx.session ?? "");
		}
		await recordEvent(ctx, sql, {
			action: "person.self",
			kind: "person",
			subject: me.value.id,
			changeset: { name: name.value, password: prepared !== null },
			inverse: null,
		});
		return ok(null);
	});
}

async function newPassword(
	ctx: Context,
	accounts: Accounts,
	me: PersonRecord,
	input: RouteInput<"changeMe">,
): Promise<Result<string>> {
	if (me.secret === 0) return fail({ code: "no-password-here" });
	if ((await accounts.check(ctx.db, me.login, input.oldPassword ?? "")) !== me.id) return fail({ code: "wrong-password" });
	const login = await ensureLoginAvailable(ctx.db, me.login, me.id);
	return login.ok ? accounts.prepare(input.password ?? "", me.login) : login;
}
