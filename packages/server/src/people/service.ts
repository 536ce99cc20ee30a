import type { InvitationView, PeopleView, PersonView, RouteInput, SessionView, TeamView, TicketLink } from "@alvek/contract";
import type { EventAction } from "@alvek/core/event";
import { cleanName } from "@alvek/core/material";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Action, may } from "@alvek/core/rights";
import type { Sql } from "../db/connection";
import { type Context, inWrite, recordEvent } from "../db/write";
import { type Accounts, freeLogin, localAccounts } from "./accounts";
import { initialsOf, makeTicket } from "./tickets";

/** Installation-wide rights; the one place where a service asks for them. */
export function allowed(ctx: Context, action: Action): Result<null> {
	const refused = may(ctx.actor, action, { kind: "installation" });
	return refused === null ? ok(null) : fail(refused);
}

type PersonRecord = {
	id: string;
	name: string;
	initials: string;
	admin: number;
	login: string;
	left_at: string | null;
	does: string;
	secret: number;
};

const SELECT_PERSON = "SELECT id, name, initials, admin, login, left_at, does, secret IS NOT NULL AS secret FROM person";

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
	const people = await ctx.db.all<PersonRecord>(`${SELECT_PERSON} WHERE left_at IS NULL ORDER BY admin DESC, name`);
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
	const may = allowed(ctx, "people.read");
	if (!may.ok) return may;
	const people = await ctx.db.all<PersonRecord>(`${SELECT_PERSON} ORDER BY name`);
	const teams = await ctx.db.all<{ id: string; name: string; members: string }>(
		`SELECT t.id, t.name, (SELECT json_group_array(m.person_id) FROM member m WHERE m.team_id = t.id) AS members FROM team t ORDER BY t.name`,
	);
	const invitations = ctx.actor.admin
		? await ctx.db.all<{ id: string; content: string; by: string; expires_at: string }>(
				`SELECT t.id, t.content, p.name AS by, t.expires_at FROM ticket t JOIN person p ON p.id = t.made_by
				 WHERE t.kind = 'invitation' AND t.used_at IS NULL AND t.expires_at > $now ORDER BY t.expires_at DESC`,
				{ now: ctx.now() },
			)
		: [];
	return ok({
		// the name that somebody signs in with is half of their key
		people: people.map((p) => (ctx.actor.admin || p.id === ctx.actor.person ? personView(p) : { ...personView(p), login: "" })),
		teams: teams.map((t): TeamView => ({ id: t.id, name: t.name, members: JSON.parse(t.members) as string[] })),
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
		const may = allowed(ctx, "people.manage");
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
		const open = await sql.one("SELECT 1 AS x FROM ticket WHERE id = $id AND kind = 'invitation' AND used_at IS NULL", {
			id: input.id,
		});
		if (open === null) return fail({ code: "not-found", path: "The invitation" });
		await sql.run("DELETE FROM ticket WHERE id = $id", { id: input.id });
		return ok(null);
	});
}

export async function personById(sql: Sql, id: string): Promise<Result<PersonRecord>> {
	const row = await sql.one<PersonRecord>(`${SELECT_PERSON} WHERE id = $id AND left_at IS NULL`, { id });
	return row === null ? fail({ code: "not-found", path: "The person" }) : ok(row);
}

/** Refuses to leave the installation without an administrator. */
export async function keepsAnAdministrator(sql: Sql, without: string): Promise<Result<null>> {
	const other = await sql.one("SELECT 1 AS x FROM person WHERE admin = 1 AND left_at IS NULL AND id <> $without", { without });
	return other === null ? fail({ code: "last-administrator" }) : ok(null);
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
		await sql.run("UPDATE person SET name = $name, initials = $initials, admin = $admin WHERE id = $id", {
			id: input.id,
			name: name.value,
			initials,
			admin,
		});
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
		const taken = await sql.one("SELECT 1 AS x FROM team WHERE lower(name) = lower($name) AND id <> $id", {
			name: name.value,
			id: input.id,
		});
		if (taken !== null) return fail({ code: "team-taken", path: "name", actual: name.value });
		await sql.run("INSERT INTO team (id, name) VALUES ($id, $name) ON CONFLICT (id) DO UPDATE SET name = $name", {
			id: input.id,
			name: name.value,
		});
		await sql.run("DELETE FROM member WHERE team_id = $id", { id: input.id });
		await sql.run(
			`INSERT INTO member (team_id, person_id) SELECT $id, p.id FROM person p
			 WHERE p.left_at IS NULL AND p.id IN (SELECT value FROM json_each($members))`,
			{ id: input.id, members: JSON.stringify(input.members) },
		);
		return ok(null);
	});
}

export function removeTeam(ctx: Context, input: { id: string }): Promise<Result<null>> {
	const event = { action: "team.remove", kind: "team", subject: input.id, changeset: {} } as const;
	return manage(ctx, event, async (sql) => {
		if ((await sql.one("SELECT 1 AS x FROM team WHERE id = $id", { id: input.id })) === null)
			return fail({ code: "not-found", path: "The team" });
		await sql.run("DELETE FROM access_grant WHERE subject_kind = 'team' AND subject = $id", { id: input.id });
		await sql.run("DELETE FROM member WHERE team_id = $id", { id: input.id });
		await sql.run("DELETE FROM team WHERE id = $id", { id: input.id });
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
		await sql.run("UPDATE person SET name = $name, initials = $initials WHERE id = $id", {
			id: me.value.id,
			name: name.value,
			initials: input.initials === undefined && input.name === undefined ? me.value.initials : initials,
		});
		if (prepared !== null) {
			await accounts.keep(sql, me.value.id, prepared.value);
			// whoever knew the old one may have made tokens with it
			await sql.run("DELETE FROM token WHERE person_id = $id", { id: me.value.id });
			await sql.run("DELETE FROM session WHERE person_id = $id AND hash <> $here", { id: me.value.id, here: ctx.session ?? "" });
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
	const login = await freeLogin(ctx.db, me.login, me.id);
	return login.ok ? accounts.prepare(input.password ?? "", me.login) : login;
}
