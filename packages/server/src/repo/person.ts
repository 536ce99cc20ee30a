import type { Sql } from "../db";

export type PersonRecord = {
	readonly id: string;
	readonly name: string;
	readonly initials: string;
	readonly admin: number;
	readonly login: string;
	readonly left_at: string | null;
	readonly does: string;
	/** 1: has a password; the secret itself is never read here. */
	readonly secret: number;
};

const SELECT_PERSON = `SELECT id, name, initials, admin, login, left_at, does, CASE WHEN secret IS NULL THEN 0 ELSE 1 END AS secret FROM person`;

/** Everybody, by name; those who left too. */
export const allPeople = (sql: Sql): Promise<PersonRecord[]> => sql.all<PersonRecord>(`${SELECT_PERSON} ORDER BY name`);

/** Who is here, administrators first. */
export const peopleHere = (sql: Sql): Promise<PersonRecord[]> =>
	sql.all<PersonRecord>(`${SELECT_PERSON} WHERE left_at IS NULL ORDER BY admin DESC, name`);

/** Somebody who is here. */
export const personHere = (sql: Sql, id: string): Promise<PersonRecord | null> =>
	sql.one<PersonRecord>(`${SELECT_PERSON} WHERE id = $id AND left_at IS NULL`, { id });

export const countPeopleHere = (sql: Sql): Promise<number> => sql.count("person", { left_at: null });

export const hasPerson = (sql: Sql, id: string): Promise<boolean> => sql.has("person", { id, left_at: null });

export async function isOtherAdministrator(sql: Sql, without: string): Promise<boolean> {
	const other = await sql.one("SELECT 1 AS x FROM person WHERE admin = 1 AND left_at IS NULL AND id <> $without", { without });
	return other !== null;
}

/** Whether somebody can sign in with a password. */
export async function isAnybodySetUp(sql: Sql): Promise<boolean> {
	return (await sql.one("SELECT 1 AS x FROM person WHERE secret IS NOT NULL AND left_at IS NULL")) !== null;
}

/** Names of people, those who left too. */
export async function namesOfPeople(sql: Sql): Promise<ReadonlyMap<string, string>> {
	return new Map((await sql.all<{ id: string; name: string }>("SELECT id, name FROM person")).map((p) => [p.id, p.name]));
}

export const insertPerson = (
	sql: Sql,
	person: { id: string; name: string; initials: string; login: string; admin: number },
): Promise<void> => sql.insert("person", person);

export const changePersonRow = (
	sql: Sql,
	id: string,
	set: Partial<Pick<PersonRecord, "name" | "initials" | "admin" | "login">>,
): Promise<void> => sql.update("person", { id }, set);

/** Somebody who never signed in with a name gets one. */
export const setFirstLogin = (sql: Sql, id: string, login: string): Promise<void> =>
	sql.update("person", { id, login: "" }, { login });

/** The stored form of a password, and whose it is, by the name that they sign in with. */
export function secretByLogin(sql: Sql, login: string): Promise<{ id: string; secret: string | null } | null> {
	return sql.one("SELECT id, secret FROM person WHERE lower(login) = lower($login) AND login <> '' AND left_at IS NULL", {
		login,
	});
}

export async function secretOf(sql: Sql, id: string): Promise<string | null> {
	return (await sql.find("person", { id }))?.secret ?? null;
}

export const setSecret = (sql: Sql, id: string, secret: string): Promise<void> => sql.update("person", { id }, { secret });

export async function isLoginTaken(sql: Sql, login: string, except: string): Promise<boolean> {
	const taken = await sql.one(
		"SELECT 1 AS x FROM person WHERE lower(login) = lower($login) AND left_at IS NULL AND id <> $except",
		{ login, except },
	);
	return taken !== null;
}

/** All that opens something for a person or is theirs alone goes; what they answer for becomes another's. */
export async function removePerson(sql: Sql, people: { readonly from: string; readonly to: string }, at: string): Promise<void> {
	const { from, to } = people;
	await sql.update("material", { owner: from }, { owner: to });
	await sql.update("library", { owner: from }, { owner: to });
	await sql.update("grid_view", { person_id: from, shared: 1 }, { person_id: to });
	for (const table of ["session", "token", "ticket", "member", "grid_view", "star"] as const)
		await sql.remove(table, { person_id: from });
	await sql.update("person", { id: from }, { left_at: at, secret: null, login: "", admin: 0 });
}

export type TeamRecord = { readonly id: string; readonly name: string; readonly members: readonly string[] };

export async function allTeams(sql: Sql): Promise<readonly TeamRecord[]> {
	const teams = await sql.all<{ id: string; name: string }>("SELECT id, name FROM team ORDER BY name");
	const members = await sql.all<{ team_id: string; person_id: string }>("SELECT team_id, person_id FROM member");
	return teams.map((t) => ({ ...t, members: members.filter((m) => m.team_id === t.id).map((m) => m.person_id) }));
}

export const hasTeam = (sql: Sql, id: string): Promise<boolean> => sql.has("team", { id });

export async function isTeamNameTaken(sql: Sql, name: string, except: string): Promise<boolean> {
	return (await sql.one("SELECT 1 AS x FROM team WHERE lower(name) = lower($name) AND id <> $except", { name, except })) !== null;
}

/** A team with these members, as far as they are here. */
export async function putTeam(sql: Sql, team: { id: string; name: string }, members: readonly string[]): Promise<void> {
	await sql.run("INSERT INTO team (id, name) VALUES ($id, $name) ON CONFLICT (id) DO UPDATE SET name = excluded.name", team);
	await sql.remove("member", { team_id: team.id });
	await sql.run(
		`INSERT INTO member (team_id, person_id) SELECT ${sql.dialect.typed("id", "text")}, p.id FROM person p
		 WHERE p.left_at IS NULL AND p.id IN ${sql.dialect.list("members")}`,
		{ id: team.id, members: JSON.stringify(members) },
	);
}

/** Teams that are there take somebody in. */
export async function joinTeams(sql: Sql, person: string, teams: readonly string[]): Promise<void> {
	await sql.run(
		`INSERT INTO member (team_id, person_id) SELECT id, ${sql.dialect.typed("person", "text")} FROM team
		 WHERE id IN ${sql.dialect.list("teams")} ON CONFLICT DO NOTHING`,
		{ person, teams: JSON.stringify(teams) },
	);
}

export async function removeTeamRow(sql: Sql, id: string): Promise<void> {
	await sql.remove("member", { team_id: id });
	await sql.remove("team", { id });
}
