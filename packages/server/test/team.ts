import { type Client, fixture, lowOf, newId, personWith, type Running, startServer, value } from "./harness";

/** A library with an editor and a reader beside the first person, and a project with parts; the lock is closed. */
export type Team = {
	readonly server: Running;
	readonly ed: Client;
	readonly reader: Client;
	readonly project: string;
	readonly part: string;
};

export async function startTeam(): Promise<Team> {
	const server = await startServer();
	const project = newId();
	await server.must("createProject", { id: project, name: "Winch" });
	await server.importFile(project, "nested.step", fixture("nested.step"));
	const part = (await server.must("getProject", { id: project })).parts[0]?.id ?? "";
	const ed = await personWith(server, "ed", { own: "editor" });
	const reader = await personWith(server, "rea", { own: "reader" });
	await server.must("closeLock", { id: "own" });
	return { server, ed, reader, project, part };
}

export const edit = (at: string, from: unknown, to: unknown) => ({ at, from, to }) as never;

export async function make(by: Client, name: string, density = "2.70 g/cm3", group = "Metals / Test"): Promise<string> {
	const id = newId();
	await by.must("createMaterial", { id, libraryId: "own", name, group });
	await by.must("openLock", { id: "own", takeOver: true });
	const draft = await by.must("saveDraft", { id, edits: [edit("density", null, value("density", density))] });
	await by.must("publishDraft", { id, note: "first", hash: draft.hash });
	return id;
}

export async function revise(by: Client, id: string, density: string, note = "weighed again"): Promise<number> {
	const { values } = (await by.must("getSheet", { id })).row.document;
	const draft = await by.must("saveDraft", { id, edits: [edit("density", values.density, value("density", density))] });
	await by.must("openLock", { id: "own", takeOver: true });
	return (await by.must("publishDraft", { id, note, hash: draft.hash })).revision;
}

export const densityOf = async (by: Client, id: string): Promise<unknown> =>
	lowOf((await by.must("getSheet", { id })).row.document, "density");
