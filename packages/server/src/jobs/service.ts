import type { Readable } from "node:stream";
import { type JobView, packMeshes, type RouteInput, UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import { describeIssue, fail, type Issue, ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import type { Kernel, StepGeometry } from "@alvek/kernel";
import type { Blobs } from "../db/blobs";
import type { Sql } from "../db/connection";
import { faultOf } from "../db/faults";
import { authoriseProject } from "../db/rights";
import { type AssignmentState, type Context, inWrite, recordEvent } from "../db/write";
import { assignmentStates, setAssignments } from "../parts/assignments";
import { takeOut } from "../parts/files";
import { giveDefault } from "../parts/following";
import { insertGeometry } from "../parts/store";
import { type Report, reportToConsole } from "../runtime/report";

type JobRecord = {
	id: string;
	kind: string;
	person_id: string;
	state: JobView["state"];
	progress: number;
	stage: string;
	issues: string;
};

export type Upload = { readonly stream: Readable; readonly length: number | null };

export type Jobs = {
	/** Work that a crash cut off is named as such; nothing of it was ever visible. */
	interruptLeftovers(): Promise<void>;
	importGeometry(ctx: Context, input: RouteInput<"importGeometry">, upload: Upload): Promise<Result<JobView>>;
	getJob(ctx: Context, input: { id: string }): Promise<Result<JobView>>;
	cancelJob(ctx: Context, input: { id: string }): Promise<Result<JobView>>;
	/** Resolves when nothing runs any more. */
	idle(): Promise<void>;
};

export function createJobs(sql: Sql, blobs: Blobs, kernel: Kernel, report: Report = reportToConsole): Jobs {
	const running = new Map<
		string,
		{ controller: AbortController; done: Promise<void>; progress: number; stage: string; reads: string }
	>();

	/** Jobs whose end is not written yet. */
	const ended = new Map<string, { state: JobView["state"]; issues: readonly Issue[] }>();

	const view = async (ctx: Context, id: string): Promise<Result<JobView>> => {
		const owed = ended.get(id);
		if (owed !== undefined) await finish(id, owed.state, owed.issues, ctx.now());
		const row = await sql.one<JobRecord>("SELECT id, kind, person_id, state, progress, stage, issues FROM job WHERE id = $id", {
			id,
		});
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
			// with their sentences, as everywhere
			issues: (end?.issues ?? (JSON.parse(row.issues) as Issue[])).map((i) => ({ ...i, message: describeIssue(i) })),
		});
	};

	/**
	 * How a job ended is known at once, also while it cannot be written: a full disk may refuse that too. It is written
	 * again when somebody asks.
	 */
	const finish = async (id: string, state: JobView["state"], issues: readonly Issue[], now: string): Promise<void> => {
		ended.set(id, { state, issues });
		try {
			await write(id, state, issues, now);
			ended.delete(id);
		} catch (cause) {
			report("the end of a job could not be written", cause);
		}
	};

	const write = (id: string, state: JobView["state"], issues: readonly Issue[], now: string): Promise<void> =>
		sql.run("UPDATE job SET state = $state, progress = $progress, issues = $issues, ended_at = $now WHERE id = $id", {
			id,
			state,
			progress: state === "done" ? 1 : 0,
			issues: JSON.stringify(issues),
			now,
		});

	const runImport = async (
		ctx: Context,
		input: RouteInput<"importGeometry">,
		blob: { hash: string; size: number },
	): Promise<void> => {
		const entry = running.get(input.job);
		if (entry === undefined) return;
		try {
			const bytes = new Uint8Array(await blobs.read(blob.hash));
			entry.stage = "reading the geometry";
			const read = await kernel.read({
				bytes,
				mesh: true,
				signal: entry.controller.signal,
				onProgress: (done, total) => {
					entry.progress = total === 0 ? 0 : (0.95 * done) / total;
					entry.stage = `solid ${Math.min(done + 1, total)} of ${total}`;
				},
			});
			const stored = read.ok ? await storeImport(ctx, blobs, input, blob, read.value, entry.controller.signal) : read;
			const code = stored.ok ? "" : (stored.issues[0]?.code ?? "");
			await finish(
				input.job,
				stored.ok ? "done" : code === "cancelled" ? "cancelled" : "failed",
				stored.ok ? [] : stored.issues,
				ctx.now(),
			);
		} catch (cause) {
			report("an import failed", cause);
			const fault = faultOf(cause);
			const issue: Issue = fault ?? { code: "internal", expected: "trying again; nothing was imported" };
			await finish(input.job, "failed", [issue], ctx.now());
		} finally {
			running.delete(input.job);
			reserved.delete(entry.reads);
			await discardUnnamed(blob.hash).catch((cause) => report("a refused file could not be deleted", cause));
		}
	};

	/** Projects with the files that they are reading. */
	const reserved = new Set<string>();

	/** Why this file is not brought in; null: it is. */
	const refusal = async (
		input: RouteInput<"importGeometry">,
		hash: string,
		size: number,
	): Promise<ReturnType<typeof fail> | null> => {
		if (size === 0) return fail({ code: "empty-file", actual: input.file, expected: "a STEP file with content" });
		const here = await sql.all<{ file: string; geometry_hash: string }>(
			"SELECT file, geometry_hash FROM import WHERE project_id = $project",
			{ project: input.id },
		);
		if (here.some((i) => i.geometry_hash === hash)) return alreadyHere(input.file);
		const twin = here.find((i) => i.file.toLowerCase() === input.file.toLowerCase());
		return twin !== undefined && input.same === undefined
			? fail({ code: "same-name", actual: twin.file, choices: ["replace", "beside"] })
			: null;
	};

	/** Deletes an upload that came to nothing, unless something else names the same bytes, or is about to. */
	const discardUnnamed = async (hash: string): Promise<void> => {
		const named = await sql.one("SELECT 1 AS x FROM blob WHERE hash = $hash", { hash });
		if (named === null && ![...reserved].some((reads) => reads.endsWith(` ${hash}`))) await blobs.discard(hash);
	};

	return {
		async interruptLeftovers() {
			await sql.run("UPDATE job SET state = 'interrupted', issues = $issues WHERE state = 'running'", {
				issues: JSON.stringify([
					{ code: "interrupted", expected: "starting it again: the server stopped in the middle and nothing was imported" },
				]),
			});
		},
		async importGeometry(ctx, input, upload) {
			const project = await authoriseProject(ctx, sql, input.id, "project.edit");
			if (!project.ok) return project;
			if (upload.length !== null && upload.length > UPLOAD_LIMIT_BYTES) {
				return fail({ code: "upload-too-large", actual: upload.length, expected: "200 MB" });
			}
			const blob = await blobs.receive(upload.stream, UPLOAD_LIMIT_BYTES, upload.length);
			if (!blob.ok) return blob;
			const { hash, size } = blob.value;
			const reads = `${input.id} ${hash}`;
			const refused = (await refusal(input, hash, size)) ?? (reserved.has(reads) ? alreadyHere(input.file) : null);
			if (refused !== null) {
				await discardUnnamed(hash);
				return refused;
			}
			// nothing is waited for in between: of two at once the second sees the first
			reserved.add(reads);
			const created = await inWrite(ctx, async (tx) => {
				const taken = await tx.one("SELECT 1 AS x FROM job WHERE id = $id", { id: input.job });
				if (taken !== null) return fail({ code: "id-taken", expected: "a new id" });
				await tx.run(
					`INSERT INTO job (id, kind, person_id, project_id, state, progress, stage, issues, created_at)
					 VALUES ($id, 'import', $person, $project, 'running', 0, 'waiting', '[]', $at)`,
					{ id: input.job, person: ctx.actor.person, project: input.id, at: ctx.now() },
				);
				return ok(null);
			});
			if (!created.ok) {
				reserved.delete(reads);
				return created;
			}
			const entry = { controller: new AbortController(), done: Promise.resolve(), progress: 0, stage: "waiting", reads };
			running.set(input.job, entry);
			entry.done = runImport(ctx, input, blob.value);
			return view(ctx, input.job);
		},
		getJob: (ctx, input) => view(ctx, input.id),
		async cancelJob(ctx, input) {
			const job = await view(ctx, input.id);
			if (!job.ok) return job;
			const entry = running.get(input.id);
			entry?.controller.abort();
			await entry?.done;
			return view(ctx, input.id);
		},
		async idle() {
			await Promise.all([...running.values()].map((r) => r.done));
		},
	};
}

const alreadyHere = (file: string) =>
	fail({ code: "already-imported", actual: file, expected: "a file that is not in this project yet" });

type Carried = { readonly name: string; readonly productId: string; readonly state: AssignmentState };

/** Takes the files of this name out; what their parts were made of, by name and number. */
async function replacedBy(ctx: Context, sql: Sql, input: RouteInput<"importGeometry">): Promise<Result<readonly Carried[]>> {
	const files = await sql.all<{ hash: string }>(
		"SELECT geometry_hash AS hash FROM import WHERE project_id = $project AND lower(file) = lower($file)",
		{ project: input.id, file: input.file },
	);
	const carried: Carried[] = [];
	for (const { hash } of files) {
		const parts = await sql.all<{ id: string; name: string; productId: string }>(
			"SELECT id, name, product_id AS productId FROM part WHERE project_id = $project AND geometry_hash = $hash",
			{ project: input.id, hash },
		);
		const states = await assignmentStates(
			sql,
			parts.map((p) => p.id),
		);
		for (const [i, part] of parts.entries()) carried.push({ ...part, state: states[i] as AssignmentState });
		const out = await takeOut(ctx, sql, input.id, hash);
		if (!out.ok) return out;
	}
	return ok(carried);
}

/** Parts of the same name and number are made of the same as before, where there is one of each only. */
async function carryMaterials(sql: Sql, project: string, hash: string, carried: readonly Carried[]): Promise<void> {
	if (carried.length === 0) return;
	const parts = await sql.all<{ id: string; name: string; productId: string }>(
		"SELECT id, name, product_id AS productId FROM part WHERE project_id = $project AND geometry_hash = $hash",
		{ project, hash },
	);
	const keyOf = (p: { name: string; productId: string }): string => `${p.productId}\n${p.name}`;
	const only = <T extends { name: string; productId: string }>(list: readonly T[]): Map<string, T> => {
		const counts = new Map<string, number>();
		for (const p of list) counts.set(keyOf(p), (counts.get(keyOf(p)) ?? 0) + 1);
		return new Map(list.filter((p) => counts.get(keyOf(p)) === 1).map((p) => [keyOf(p), p]));
	};
	const before = only(carried);
	const states = [...only(parts)].flatMap(([key, part]) => {
		const state = before.get(key)?.state;
		return state === undefined ? [] : [{ ...state, part: part.id }];
	});
	await setAssignments(sql, states);
}

/** All rows of an import in one transaction, or none. */
async function storeImport(
	ctx: Context,
	blobs: Blobs,
	input: RouteInput<"importGeometry">,
	blob: { hash: string; size: number },
	geometry: StepGeometry,
	signal: AbortSignal,
): Promise<Result<null>> {
	const meshes = packMeshes(meshSolids(geometry));
	const meshHash = await blobs.put(meshes);
	return inWrite(ctx, async (sql) => {
		const project = await authoriseProject(ctx, sql, input.id, "project.edit");
		if (!project.ok) return project;
		if (signal.aborted) return fail({ code: "cancelled" });
		// of two that were begun at once the second one is here already
		const twin = await sql.one("SELECT 1 AS x FROM import WHERE project_id = $project AND geometry_hash = $hash", {
			project: input.id,
			hash: blob.hash,
		});
		if (twin !== null) return alreadyHere(input.file);
		const replaced = input.same === "replace" ? await replacedBy(ctx, sql, input) : ok([]);
		if (!replaced.ok) return replaced;
		const parts = await insertGeometry(ctx, sql, {
			project: input.id,
			file: input.file,
			hash: blob.hash,
			size: blob.size,
			meshHash,
			meshSize: meshes.length,
			geometry,
		});
		await carryMaterials(sql, input.id, blob.hash, replaced.value);
		await giveDefault(sql, input.id);
		await recordEvent(ctx, sql, {
			action: "project.import",
			kind: "project",
			subject: input.id,
			changeset: { file: input.file, hash: blob.hash, parts, leftOut: geometry.model.leftOut.length },
			inverse: { kind: "geometry", project: input.id, hash: blob.hash, aside: ctx.newId(), back: false },
		});
		return ok(null);
	});
}

/** Meshes by product and number within it. A solid that is mapped into its product is drawn where it stands there. */
function meshSolids(geometry: StepGeometry) {
	const byEntity = new Map(geometry.solids.map((s) => [s.entity, s.mesh]));
	return geometry.model.products.flatMap((product) =>
		product.solids.flatMap((solid, n) => {
			const mesh = byEntity.get(solid.entity);
			if (mesh == null) return [];
			const move = (data: Float32Array, points: boolean): Float32Array => moved(data, solid.placement, points);
			return [
				{
					product: product.index,
					n,
					positions: move(mesh.positions, true),
					normals: move(mesh.normals, false),
					triangles: mesh.triangles,
					lines: move(mesh.lines, true),
				},
			];
		}),
	);
}

type Rigid = { readonly rotation: readonly (readonly number[])[]; readonly translation: readonly number[] };

function moved(data: Float32Array, { rotation, translation }: Rigid, points: boolean): Float32Array {
	const out = new Float32Array(data.length);
	for (let i = 0; i < data.length; i += 3) {
		for (let r = 0; r < 3; r++) {
			const row = rotation[r] as readonly number[];
			const turned =
				(row[0] as number) * (data[i] as number) +
				(row[1] as number) * (data[i + 1] as number) +
				(row[2] as number) * (data[i + 2] as number);
			out[i + r] = turned + (points ? (translation[r] as number) : 0);
		}
	}
	return out;
}
