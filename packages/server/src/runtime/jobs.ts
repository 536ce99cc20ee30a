import type { JobView } from "@alvek/contract";
import { describeIssue, fail, type Issue, ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import { LRUCache } from "lru-cache";
import { type Context, type Db, faultOf, inWrite, type Report, reportToConsole, type Sql } from "../db";
import { endJob, insertJob, jobById, runningJobs } from "../repo";

/** Kinds of long work. Each says what became of it when the server stopped in the middle. */
const KINDS = {
	request: { interrupted: "asking again: the server stopped in the middle and nothing was changed" },
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
	/** What the work of a request answered; kept for a while, in this process. */
	resultOf(ctx: Context, input: { id: string }): Promise<Result<unknown>>;
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
	const here = new JobsHere(db, report);
	return {
		interruptLeftovers: (now) => here.interruptLeftovers(now),
		run: (ctx, job, work) => here.run(ctx, job, work),
		getJob: (ctx, input) => here.view(ctx, input.id),
		resultOf: (ctx, input) => here.resultOf(ctx, input.id),
		cancelJob: (ctx, input) => here.cancel(ctx, input.id),
		onChange: (listener) => here.onChange(listener),
		idle: () => here.idle(),
	};
}

/** With their sentences, as everywhere. */
const inWords = (issues: readonly Issue[]) => issues.map((i) => ({ ...i, message: describeIssue(i) }));

/** Requests of one person that run as jobs at the same time. */
const MOST_AT_ONCE = 8;

/** Answers that are kept until somebody asks for them. */
const MOST_ANSWERS = 100;

class JobsHere {
	private readonly running = new Map<string, Running>();
	/** Jobs whose end is not written yet. */
	private readonly ended = new Map<string, End>();
	/** Answers of requests, the latest ones. */
	private readonly answers = new LRUCache<string, { readonly value: unknown }>({ max: MOST_ANSWERS });
	private readonly listeners = new Set<(person: string, job: JobView) => void>();

	constructor(
		private readonly db: Db,
		private readonly report: Report,
	) {}

	async interruptLeftovers(now: string): Promise<void> {
		for (const { id, kind } of await runningJobs(this.db)) {
			const expected = Object.hasOwn(KINDS, kind) ? KINDS[kind as JobKind].interrupted : "starting it again";
			const issues = JSON.stringify([{ code: "interrupted", expected }]);
			await endJob(this.db, id, { state: "interrupted", progress: 0, issues, ended_at: now });
		}
	}

	async run(ctx: Context, wanted: NewJob, work: Work): Promise<Result<JobView>> {
		const { id, kind } = wanted;
		const mine = [...this.running.values()].filter((r) => r.person === ctx.actor.person).length;
		if (kind === "request" && mine >= MOST_AT_ONCE)
			return fail({ code: "too-many-requests", expected: "a moment, when one of your jobs has ended" });
		const created = await inWrite(ctx, (sql) => begun(ctx, sql, wanted));
		if (!created.ok) return created;
		const { person } = ctx.actor;
		const job: Running = { controller: new AbortController(), person, done: Promise.resolve(), progress: 0, stage: "waiting" };
		const tell = (end?: End): void => {
			const view: JobView = {
				id,
				kind,
				state: end?.state ?? "running",
				progress: end === undefined ? job.progress : end.state === "done" ? 1 : 0,
				stage: job.stage,
				issues: inWords(end?.issues ?? []),
			};
			for (const listener of this.listeners) listener(person, view);
		};
		this.running.set(id, job);
		job.done = this.endOf(job, { id, kind, work }, tell).then(async (end) => {
			await this.finish(id, end, ctx.now());
			this.running.delete(id);
			tell(end);
		});
		return this.view(ctx, id);
	}

	async view(ctx: Context, id: string): Promise<Result<JobView>> {
		const owed = this.ended.get(id);
		if (owed !== undefined) await this.finish(id, owed, ctx.now());
		const row = await jobById(this.db, id);
		if (row === null) return fail({ code: "not-found", path: "The job" });
		const refused = may(ctx.actor, "job.read", { kind: "job", person: row.person_id });
		if (refused !== null) return fail(refused);
		const live = this.running.get(id);
		const end = this.ended.get(id);
		return ok({
			id,
			kind: row.kind,
			state: end?.state ?? row.state,
			progress: live?.progress ?? row.progress,
			stage: live?.stage ?? row.stage,
			issues: inWords(end?.issues ?? (JSON.parse(row.issues) as Issue[])),
		});
	}

	async resultOf(ctx: Context, id: string): Promise<Result<unknown>> {
		const job = await this.view(ctx, id);
		if (!job.ok) return job;
		const answer = this.answers.get(id);
		return answer === undefined ? fail({ code: "not-found", path: "The answer of this job" }) : ok(answer.value);
	}

	async cancel(ctx: Context, id: string): Promise<Result<JobView>> {
		const job = await this.view(ctx, id);
		if (!job.ok) return job;
		const live = this.running.get(id);
		live?.controller.abort();
		await live?.done;
		return this.view(ctx, id);
	}

	onChange(listener: (person: string, job: JobView) => void): () => void {
		this.listeners.add(listener);
		return () => this.listeners.delete(listener);
	}

	async idle(): Promise<void> {
		await Promise.all([...this.running.values()].map((r) => r.done));
	}

	/**
	 * How a job ended is known at once, also while it cannot be written: a full disk may refuse that too. It is written
	 * again when somebody asks.
	 */
	private async finish(id: string, end: End, now: string): Promise<void> {
		this.ended.set(id, end);
		try {
			const progress = end.state === "done" ? 1 : 0;
			await endJob(this.db, id, { state: end.state, progress, issues: JSON.stringify(end.issues), ended_at: now });
			this.ended.delete(id);
		} catch (cause) {
			this.report("the end of a job could not be written", cause);
		}
	}

	private async endOf(
		job: Running,
		{ id, kind, work }: Pick<NewJob, "id" | "kind"> & { readonly work: Work },
		tell: () => void,
	): Promise<End> {
		try {
			const result = await work((progress, stage) => {
				Object.assign(job, { progress, stage });
				tell();
			}, job.controller.signal);
			if (result.ok && kind === "request") this.answers.set(id, { value: result.value });
			if (result.ok) return { state: "done", issues: [] };
			return { state: result.issues[0]?.code === "cancelled" ? "cancelled" : "failed", issues: result.issues };
		} catch (cause) {
			this.report("a job failed", cause);
			return { state: "failed", issues: [faultOf(cause) ?? { code: "internal", expected: "trying again; nothing was changed" }] };
		}
	}
}

/** The row of a job that begins now. */
async function begun(ctx: Context, sql: Sql, { id, kind, owner }: NewJob): Promise<Result<null>> {
	if ((await jobById(sql, id)) !== null) return fail({ code: "id-taken", expected: "a new id" });
	await insertJob(sql, {
		id,
		kind,
		person_id: ctx.actor.person,
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
}
