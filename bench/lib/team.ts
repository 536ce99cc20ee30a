import { fillPath, type RouteInput, type RouteName, type RouteReply, uuid7 } from "@alvek/contract";
import { ROUTES } from "@alvek/contract/routes";
import { firstValue, makeValue, type NumberValue } from "@alvek/core/material";
import type { Result } from "@alvek/core/result";
import { random } from "./crowd";

/** Simulated people who work on one server at the same time, and what was confirmed to them. */
export type Team = {
	/** Works until `stop`; each person one step after the other. */
	work(): Promise<void>;
	stop(): void;
	readonly figures: Figures;
	/** Compares what was confirmed with what the server says now: all of it, or what was touched since it was asked last. */
	missing(all: boolean): Promise<readonly string[]>;
};

export type Figures = {
	readonly reads_ms: number[];
	readonly writes_ms: number[];
	/** Refusals that the rules ask for: a conflict, somebody else's lock, a version that moved on. */
	readonly refused: Map<string, number>;
	/** What nobody should ever see. */
	readonly wrong: string[];
};

/** Refusals that belong to working together. */
const ORDINARY = new Set(["conflict", "nothing-changed", "not-found", "newer-change", "merge-moved", "locked-by", "locked"]);

const newId = (): string => uuid7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));

/** A density as a person types it. */
function density(text: string): NumberValue {
	const made = makeValue("density", text, {}, { evidence: "measured" });
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}

/** What was confirmed: the newest answer of each thing, and how many counted steps. */
type Confirmed = {
	/** Own materials: name, the last density that was published, its revision. */
	readonly materials: Map<string, { name: string; density: number; revision: number; draft: number | null }>;
	/** The material that everybody adds to: confirmed additions. */
	additions: Set<string>;
	/** Parts of the person's own project and the material given last. */
	readonly parts: Map<string, string | null>;
};

type Person = {
	readonly n: number;
	readonly library: string;
	/** The draft that everybody of one account adds to. */
	readonly shared: string;
	/** Materials that were touched since they were compared last. */
	readonly touched: Set<string>;
	readonly confirmed: Confirmed;
	readonly project: string;
	readonly call: <N extends RouteName>(name: N, input: RouteInput<N>) => Promise<Result<RouteReply<N>> | null>;
};

/** No answer came, so it may have happened or not. */
const UNKNOWN = "unknown";
const ACCOUNTS = ["local", "okke", "tove", "ines", "rhea"] as const;

/** The shortest pause of a person between two steps; the longest is four times that. Short ones fill the machine. */
const THINK_MS = Number(process.env.THINK_MS ?? 100);

type TeamOptions = {
	readonly sessions: number;
	/** A STEP file's bytes: each session gets a project with its parts. */
	readonly geometry: Uint8Array;
	readonly seed: number;
	/** Whether the server is killed under them, so that no answer is an ordinary thing. */
	readonly kills: boolean;
};

/** Sessions of the demo's people, several for each, each account with a library of its own whose lock it holds. */
export async function assemble(base: string, { sessions, geometry, seed, kills }: TeamOptions): Promise<Team> {
	const figures: Figures = { reads_ms: [], writes_ms: [], refused: new Map(), wrong: [] };
	let running = false;
	const caller = (who: Readonly<Record<string, string>>): Person["call"] =>
		async function call(name, input) {
			const route = ROUTES[name];
			const { path, rest } = fillPath(route, input as Record<string, unknown>);
			const isGet = route.method === "GET";
			const query = isGet ? `?${new URLSearchParams(rest as Record<string, string>)}` : "";
			const body = isGet ? {} : { body: JSON.stringify(rest) };
			const headers = { ...who, ...(isGet ? {} : { "Content-Type": "application/json" }) };
			const began = performance.now();
			try {
				const response = await fetch(base + path + query, { method: route.method, headers, ...body });
				const result = (await response.json()) as Result<never>;
				(isGet ? figures.reads_ms : figures.writes_ms).push(performance.now() - began);
				if (!result.ok) {
					const code = result.issues[0]?.code ?? "";
					if (response.status >= 500 || !ORDINARY.has(code))
						figures.wrong.push(`${name}: ${response.status} ${JSON.stringify(result.issues)}`);
					else figures.refused.set(code, (figures.refused.get(code) ?? 0) + 1);
				}
				return result;
			} catch (cause) {
				if (!kills) figures.wrong.push(`${name}: ${String(cause)}`);
				return null;
			}
		};
	const team: Person[] = [];
	for (let n = 0; n < sessions; n++) {
		const account = ACCOUNTS[n % ACCOUNTS.length] as string;
		const who = await signIn(base, account);
		const call = caller(who);
		const library = `load-${account}`;
		const shared = `shared-${account}`;
		if (n < ACCOUNTS.length) {
			await need(call("createLibrary", { id: library, name: `Load of ${account}`, description: "" }));
			await need(call("openLock", { id: library }));
			await need(call("createMaterial", { id: shared, libraryId: library, name: "Everybody's" }));
		}
		const project = newId();
		await need(call("createProject", { id: project, name: `Project of ${n}` }));
		await importInto(base, who, project, geometry);
		const view = await need(call("getProject", { id: project }));
		const parts = new Map(view.parts.map((p): [string, string | null] => [p.id, null]));
		const confirmed: Confirmed = { materials: new Map(), additions: new Set(), parts };
		team.push({ n, call, project, library, shared, touched: new Set(), confirmed });
	}
	figures.reads_ms.length = 0;
	figures.writes_ms.length = 0;

	return {
		figures,
		async work() {
			running = true;
			await Promise.all(
				team.map(async (person) => {
					const next = random(seed * 1000 + person.n);
					while (running) {
						await step(person, next);
						// far quicker than people are, and still time to look at what one did
						await new Promise((r) => setTimeout(r, THINK_MS + 3 * THINK_MS * next()));
					}
				}),
			);
		},
		stop() {
			running = false;
		},
		async missing(all) {
			const lost: string[] = [];
			for (const person of team) {
				lost.push(...(await missingOf(person, all ? [...person.confirmed.materials.keys()] : [...person.touched])));
				person.touched.clear();
			}
			return lost;
		},
	};
}

async function step(person: Person, next: () => number): Promise<void> {
	const { call, confirmed, library } = person;
	const pick = next();
	const own = [...confirmed.materials.keys()];
	const some = own[Math.floor(next() * own.length)];
	if (pick < 0.12 || some === undefined) {
		const id = newId();
		const name = `Person ${person.n} grade ${id.slice(-8)}`;
		const value = density(`${(1 + Math.floor(next() * 8000) / 1000).toFixed(3)} g/cm3`);
		if ((await call("createMaterial", { id, libraryId: library, name }))?.ok !== true) return;
		const drafted = await call("saveDraft", { id, edits: [{ at: "density", from: null, to: value }] as never });
		if (drafted?.ok !== true) return;
		const done = await call("publishDrafts", { items: [{ id, hash: drafted.value.hash }], note: "made under load" });
		if (done?.ok !== true) return;
		confirmed.materials.set(id, { name, density: value.low as number, revision: 1, draft: null });
		person.touched.add(id);
	} else if (pick < 0.4) {
		await editAndPublish(person, some, next);
	} else if (pick < 0.55) {
		await addToShared(person, next);
	} else if (pick < 0.75) {
		const parts = [...confirmed.parts.keys()];
		const part = parts[Math.floor(next() * parts.length)] as string;
		const done = await call("assign", { id: person.project, parts: [part], materialId: some, draft: false } as never);
		if (done?.ok === true) confirmed.parts.set(part, some);
		// no answer: it may have happened or not
		else if (done === null) confirmed.parts.set(part, UNKNOWN);
	} else if (pick < 0.85) await call("findMaterials", { text: `grade ${Math.floor(next() * 20)}`, limit: "60" });
	else if (pick < 0.92) await call("getProject", { id: person.project });
	else if (pick < 0.96) await call("getSheet", { id: some });
	else await call("history", { kind: "library", id: library });
}

/** The next revision of an own material. An answer that never came may stand for either. */
async function editAndPublish(person: Person, id: string, next: () => number): Promise<void> {
	const { call, confirmed } = person;
	const sheet = await call("getSheet", { id });
	if (sheet?.ok !== true) return;
	const { row } = sheet.value;
	const value = density(`${(1 + Math.floor(next() * 8000) / 1000).toFixed(3)} g/cm3`);
	const from = row.document.values.density ?? null;
	const saved = await call("saveDraft", { id, edits: [{ at: "density", from, to: value }] as never });
	const known = confirmed.materials.get(id);
	if (known === undefined) return;
	person.touched.add(id);
	if (saved === null) known.draft = null;
	if (saved?.ok !== true) return;
	known.draft = value.low;
	const done = await call("publishDrafts", { items: [{ id, hash: saved.value.hash }], note: "again" });
	if (done?.ok === true) Object.assign(known, { density: value.low as number, revision: done.value.revision, draft: null });
}

/** Everybody adds a source of their own to one draft: a lost update would drop somebody's. */
async function addToShared(person: Person, next: () => number): Promise<void> {
	const key = `p${person.n}-${Math.floor(next() * 1e9)}`;
	const to = { kind: "document", title: key, text: "", address: "", date: "2026", conditions: "" };
	const done = await person.call("saveDraft", { id: person.shared, edits: [{ at: `sources:${key}`, from: null, to }] as never });
	if (done?.ok === true) person.confirmed.additions.add(key);
}

async function missingOf(person: Person, ids: readonly string[]): Promise<readonly string[]> {
	const { call, confirmed, n, shared } = person;
	const lost: string[] = [];
	for (const id of ids) {
		const known = confirmed.materials.get(id);
		if (known === undefined) continue;
		const sheet = await call("getSheet", { id });
		if (sheet?.ok !== true) {
			lost.push(`${n}: “${known.name}” is gone`);
			continue;
		}
		const { row, revisions } = sheet.value;
		if (row.name !== known.name) lost.push(`${n}: “${known.name}” is called “${row.name}”`);
		if (row.revision < known.revision)
			lost.push(`${n}: “${known.name}” is at revision ${row.revision}, ${known.revision} was confirmed`);
		const at = revisions.find((r) => r.no === known.revision);
		const revision = await call("getRevision", { id, no: String(known.revision) });
		const low = revision?.ok === true ? firstValue(revision.value.document, "density")?.low : null;
		if (at === undefined || low !== known.density)
			lost.push(`${n}: revision ${known.revision} of “${known.name}” says ${low}, ${known.density} was confirmed`);
		// the draft that was confirmed last is there, or has become a revision whose answer was never read
		const now = firstValue(row.document, "density")?.low;
		if (known.draft !== null && now !== known.draft)
			lost.push(`${n}: the draft of “${known.name}” says ${now}, ${known.draft} was confirmed`);
	}
	const sheet = await call("getSheet", { id: shared });
	const there = sheet?.ok === true ? sheet.value.row.document.sources : {};
	for (const key of confirmed.additions)
		if (!Object.hasOwn(there, key)) lost.push(`${n}: the addition ${key} to everybody's is gone`);
	const project = await call("getProject", { id: person.project });
	const parts = new Map(project?.ok === true ? project.value.parts.map((p) => [p.id, p.assignment?.materialId ?? null]) : []);
	for (const [part, material] of [...confirmed.parts].filter(([, m]) => m !== UNKNOWN))
		if (parts.get(part) !== material) lost.push(`${n}: a part stands on ${parts.get(part)}, ${material} was confirmed`);
	return lost;
}

async function need<T>(answer: Promise<Result<T> | null>): Promise<T> {
	const result = await answer;
	if (result?.ok !== true) throw new Error(JSON.stringify(result));
	return result.value;
}

/** A session of one of the demo's people, as a browser holds it. */
async function signIn(base: string, person: string): Promise<Record<string, string>> {
	const reply = await fetch(`${base}/api/v1/session/demo`, {
		method: "POST",
		headers: { "Content-Type": "application/json", Origin: base },
		body: JSON.stringify({ person }),
	});
	return { Cookie: reply.headers.get("set-cookie")?.split(";")[0] ?? "", Origin: base };
}

async function importInto(base: string, who: Record<string, string>, project: string, bytes: Uint8Array): Promise<void> {
	const job = newId();
	const path = `/api/v1/projects/${project}/geometry?${new URLSearchParams({ file: "nested.step", job })}`;
	await fetch(base + path, {
		method: "POST",
		headers: { ...who, "Content-Type": "application/octet-stream" },
		body: bytes as never,
	});
	for (;;) {
		const reply = (await (await fetch(`${base}/api/v1/jobs/${job}`, { headers: who })).json()) as { value: { state: string } };
		if (reply.value.state === "done") return;
		if (reply.value.state !== "running") throw new Error(JSON.stringify(reply));
		await new Promise((r) => setTimeout(r, 50));
	}
}

export const quantile = (x: readonly number[], q: number): number =>
	[...x].sort((a, b) => a - b)[Math.min(x.length - 1, Math.floor(x.length * q))] ?? 0;
