import type { JobView } from "@alvek/contract";
import { describeIssue, fail, type Issue, ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import { type Context, type Db, faultOf, inWrite, type Report, reportToConsole } from "../db";
import { endJob, insertJob, jobById, runningJobs } from "../repo";

/** Kinds of long work. Each says what became of it when the server stopped in the middle. */
const KINDS = {
	import: { interrupted: "starting it again: the server stopped in the middle and nothing was imported" },
} as const satisfies Readonly<Record<string, { readonly interrupted: string }>>;
export type JobKind = keyof typeof KINDS;

export type NewJob = {
	/** Made by whoever asks, so that asking twice is harmless. */
	readonly id: string;
	readonly kind: JobKind;
	/** What the work is about; null: nothing that is kept here. */
	readonly owner: { readonly library: string } | { readonly project: string } | null;
};

/** Long work. Told between 0 and 1 how far it is, and what it is at; ended by its signal. */
export type Work = (tell: (progress: number, stage: string) => void, signal: AbortSignal) => Promise<Result<unknown>>;

export type Jobs = {
	/** Work that a crash cut off is named as such; nothing of it was ever visible. */
	interruptLeftovers(now: string): Promise<void>;
	/** Begins; the job as it stands then. Its end is written whatever happens. */
	run(ctx: Context, job: NewJob, work: Work): Promise<Result<JobView>>;
	getJob(ctx: Context, input: { id: string }): Promise<Result<JobView>>;
	/** Ends the work, and waits until it has ended. */
	cancelJob(ctx: Context, input: { id: string }): Promise<Result<JobView>>;
	/** Told of every step of a job, for whose it is; ends with what it returns. */
	onChange(listener: (person: string, job: JobView) => void): () => void;
	/** Resolves when nothing runs any more. */
	idle(): Promise<void>;
};

type Running = {
	readonly controller: AbortController;
	readonly person: string;
	done: Promise<void>;
	progress: number;
	stage: string;
};
type End = { readonly state: JobView["state"]; readonly issues: readonly Issue[] };

/** The port behind which long work runs: here, in this process. */
export function createJobs(db: Db, report: Report = reportToConsole): Jobs {
	const running = new Map<string, Running>();
	/** Jobs whose end is not written yet. */
	const ended = new Map<string, End>();
	const listeners = new Set<(person: string, job: JobView) => void>();

	/** With their sentences, as everywhere. */
	const inWords = (issues: readonly Issue[]) => issues.map((i) => ({ ...i, message: describeIssue(i) }));

	const tell = (person: string, job: JobView): void => {
		for (const listener of listeners) listener(person, job);
	};

	const view = async (ctx: Context, id: string): Promise<Result<JobView>> => {
		const owed = ended.get(id);
		if (owed !== undefined) await finish(id, owed, ctx.now());
		const row = await jobById(db, id);
		if (row === null) return fail({ code: "not-found", path: "The job" });
		const refused = may(ctx.actor, "job.read", { kind: "job", person: row.person_id });
		if (refused !== null) return fail(refused);
		const live = running.get(id);
		const end = ended.get(id);
		return ok({
			id,
			kind: row.kind,
			state: end?.state ?? row.state,
			progress: live?.progress ?? row.progress,
			stage: live?.stage ?? row.stage,
			issues: inWords(end?.issues ?? (JSON.parse(row.issues) as Issue[])),
		});
	};

	/**
	 * How a job ended is known at once, also while it cannot be written: a full disk may refuse that too. It is written
	 * again when somebody asks.
	 */
	const finish = async (id: string, end: End, now: string): Promise<void> => {
		ended.set(id, end);
		try {
			const progress = end.state === "done" ? 1 : 0;
			await endJob(db, id, { state: end.state, progress, issues: JSON.stringify(end.issues), ended_at: now });
			ended.delete(id);
		} catch (cause) {
			report("the end of a job could not be written", cause);
		}
	};

	const endOf = async (job: Running, work: Work, told: () => void): Promise<End> => {
		try {
			const result = await work((progress, stage) => {
				Object.assign(job, { progress, stage });
				told();
			}, job.controller.signal);
			if (result.ok) return { state: "done", issues: [] };
			return { state: result.issues[0]?.code === "cancelled" ? "cancelled" : "failed", issues: result.issues };
		} catch (cause) {
			report("a job failed", cause);
			return { state: "failed", issues: [faultOf(cause) ?? { code: "internal", expected: "trying again; nothing was changed" }] };
		}
	};

	return {
		async interruptLeftovers(now) {
			for (const { id, kind } of await runningJobs(db)) {
				const expected = Object.hasOwn(KINDS, kind) ? KINDS[kind as JobKind].interrupted : "starting it again";
				const issues = JSON.stringify([{ code: "interrupted", expected }]);
				await endJob(db, id, { state: "interrupted", progress: 0, issues, ended_at: now });
			}
		},
		async run(ctx, { id, kind, owner }, work) {
			const { person } = ctx.actor;
			const created = await inWrite(ctx, async (sql) => {
				if ((await jobById(sql, id)) !== null) return fail({ code: "id-taken", expected: "a new id" });
				await insertJob(sql, {
					id,
					kind,
					person_id: person,
					project_id: owner !== null && "project" in owner ? owner.project : null,
					library_id: owner !== null && "library" in owner ? owner.library : null,
					state: "running",
					progress: 0,
					stage: "waiting",
					issues: "[]",
					created_at: ctx.now(),
					ended_at: null,
				});
				return ok(null);
			});
			if (!created.ok) return created;
			const job: Running = { controller: new AbortController(), person, done: Promise.resolve(), progress: 0, stage: "waiting" };
			const told = (end?: End): void =>
				tell(person, {
					id,
					kind,
					state: end?.state ?? "running",
					progress: end === undefined ? job.progress : end.state === "done" ? 1 : 0,
					stage: job.stage,
					issues: inWords(end?.issues ?? []),
				});
			running.set(id, job);
			job.done = endOf(job, work, told).then(async (end) => {
				await finish(id, end, ctx.now());
				running.delete(id);
				told(end);
			});
			return view(ctx, id);
		},
		getJob: (ctx, input) => view(ctx, input.id),
		async cancelJob(ctx, input) {
			const job = await view(ctx, input.id);
			if (!job.ok) return job;
			const live = running.get(input.id);
			live?.controller.abort();
			await live?.done;
			return view(ctx, input.id);
		},
		onChange(listener) {
			listeners.add(listener);
			return () => listeners.delete(listener);
		},
		async idle() {
			await Promise.all([...running.values()].map((r) => r.done));
		},
	};
}
