import { type JobView, packMeshes, type RouteInput, UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { isZip } from "@alvek/formats";
import type { Kernel, StepGeometry } from "@alvek/kernel";
import { authoriseProject } from "../access";
import { type Context, inWrite, type Report, reportToConsole, type Sql } from "../db";
import { unpackStepIn } from "../exchange";
import {
	type AssignmentState,
	assignmentStates,
	fileOf,
	giveDefault,
	importsOf,
	isBlobNamed,
	partsOfFile,
	recordEvent,
	setAssignments,
} from "../repo";
import type { Blobs, Jobs, Upload, Workers } from "../runtime";
import { takeOut } from "./files";
import { insertGeometry } from "./geometry";

type Input = RouteInput<"importGeometry">;
type Blob = { readonly hash: string; readonly size: number };
/** A file and when it came, ms: who receives the same content later has a right to it of their own. */
type Received = Blob & { readonly at: number };

/** Brings STEP files into projects: received, read by the kernel in a job, stored all or nothing. */
export function createImports(parts: { blobs: Blobs; kernel: Kernel; workers: Workers; jobs: Jobs; report?: Report }) {
	const { blobs, kernel, workers, jobs, report = reportToConsole } = parts;
	/** Projects with the files that they are reading. */
	const reserved = new Set<string>();

	/** Deletes an upload that came to nothing, unless something else names the same bytes, or is about to. */
	const discardUnnamed = async (sql: Sql, { hash, at }: Received): Promise<void> => {
		const awaited = [...reserved].some((reads) => reads.endsWith(` ${hash}`));
		if (!awaited && !(await isBlobNamed(sql, hash))) await blobs.discard(hash, at);
	};

	/** The file itself, or the one that an archive holds: an archive goes as soon as it is unpacked. */
	const stepOf = async (sql: Sql, received: Received, file: string): Promise<Result<Received & { readonly file: string }>> => {
		// a large file is not read whole only to see what it is
		if (!isZip(await blobs.begin(received.hash, 4))) return ok({ ...received, file });
		const unpacked = await unpackStepIn(workers, await blobs.read(received.hash));
		await discardUnnamed(sql, received);
		if (!unpacked.ok) return unpacked;
		const hash = await blobs.put(unpacked.value.bytes);
		return ok({ hash, size: unpacked.value.bytes.length, at: Date.now(), file: unpacked.value.name });
	};

	return {
		async importGeometry(ctx: Context, asked: Input, upload: Upload): Promise<Result<JobView>> {
			const project = await authoriseProject(ctx, ctx.db, asked.id, "project.edit");
			if (!project.ok) return project;
			if (upload.length !== null && upload.length > UPLOAD_LIMIT_BYTES)
				return fail({ code: "upload-too-large", actual: upload.length, expected: "200 MB" });
			const received = await blobs.receive(upload.stream, UPLOAD_LIMIT_BYTES, upload.length);
			if (!received.ok) return received;
			const unpacked = await stepOf(ctx.db, { ...received.value, at: Date.now() }, asked.file);
			if (!unpacked.ok) return unpacked;
			const blob = unpacked.value;
			const input = { ...asked, file: blob.file };
			const reads = `${input.id} ${blob.hash}`;
			const refused = (await refusal(ctx.db, input, blob)) ?? (reserved.has(reads) ? alreadyHere(input.file) : null);
			if (refused !== null) {
				await discardUnnamed(ctx.db, blob);
				return refused;
			}
			// nothing is waited for in between: of two at once the second sees the first
			reserved.add(reads);
			const begun = await jobs.run(ctx, { id: input.job, kind: "import", owner: { project: input.id } }, async (tell, signal) => {
				try {
					const read = await workers.kernelTurn(
						async () => readGeometry(kernel, new Uint8Array(await blobs.read(blob.hash)), tell, signal),
						signal,
					);
					return read.ok ? await storeImport(ctx, blobs, { ...input, blob, geometry: read.value }, signal) : read;
				} finally {
					reserved.delete(reads);
					await discardUnnamed(ctx.db, blob).catch((cause) => report("a refused file could not be deleted", cause));
				}
			});
			if (!begun.ok) reserved.delete(reads);
			return begun;
		},
	};
}

function readGeometry(
	kernel: Kernel,
	bytes: Uint8Array,
	tell: (progress: number, stage: string) => void,
	signal: AbortSignal,
): Promise<Result<StepGeometry>> {
	tell(0, "reading the geometry");
	return kernel.read({
		bytes,
		mesh: true,
		signal,
		onProgress: (done, total) => tell(total === 0 ? 0 : (0.95 * done) / total, `solid ${Math.min(done + 1, total)} of ${total}`),
	});
}

const alreadyHere = (file: string) =>
	fail({ code: "already-imported", actual: file, expected: "a file that is not in this project yet" });

/** Why this file is not brought in; null: it is. */
async function refusal(sql: Sql, input: Input, { hash, size }: Blob): Promise<ReturnType<typeof fail> | null> {
	if (size === 0) return fail({ code: "empty-file", actual: input.file, expected: "a STEP file with content" });
	const here = await importsOf(sql, input.id);
	if (here.some((i) => i.geometry_hash === hash)) return alreadyHere(input.file);
	const twin = here.find((i) => i.file.toLowerCase() === input.file.toLowerCase());
	return twin !== undefined && input.same === undefined
		? fail({ code: "same-name", actual: twin.file, choices: ["replace", "beside"] })
		: null;
}

type Carried = { readonly name: string; readonly productId: string; readonly state: AssignmentState };

/** Takes the files of this name out; what their parts were made of, by name and number. */
async function replacedBy(ctx: Context, sql: Sql, input: Input): Promise<Result<readonly Carried[]>> {
	const files = (await importsOf(sql, input.id)).filter((i) => i.file.toLowerCase() === input.file.toLowerCase());
	const carried: Carried[] = [];
	for (const { geometry_hash: hash } of files) {
		const parts = await partsOfFile(sql, input.id, hash);
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
	const parts = await partsOfFile(sql, project, hash);
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
	input: Input & { readonly blob: Blob; readonly geometry: StepGeometry },
	signal: AbortSignal,
): Promise<Result<null>> {
	const { id: project, file, blob, geometry } = input;
	const meshes = packMeshes(meshSolids(geometry));
	const meshHash = await blobs.put(meshes);
	return inWrite(ctx, async (sql) => {
		const allowed = await authoriseProject(ctx, sql, project, "project.edit");
		if (!allowed.ok) return allowed;
		if (signal.aborted) return fail({ code: "cancelled" });
		// of two that were begun at once the second one is here already
		if ((await fileOf(sql, project, blob.hash)) !== null) return alreadyHere(file);
		const replaced = input.same === "replace" ? await replacedBy(ctx, sql, input) : ok([]);
		if (!replaced.ok) return replaced;
		const stored = { project, file, ...blob, meshHash, meshSize: meshes.length, geometry };
		const parts = await insertGeometry(ctx, sql, stored);
		await carryMaterials(sql, project, blob.hash, replaced.value);
		await giveDefault(sql, project);
		await recordEvent(ctx, sql, {
			action: "project.import",
			kind: "project",
			subject: project,
			changeset: { file, hash: blob.hash, parts, leftOut: geometry.model.leftOut.length },
			inverse: { kind: "geometry", project, hash: blob.hash, aside: ctx.newId(), back: false },
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
			const move = (data: Float32Array, of: "points" | "directions"): Float32Array => moved(data, solid.placement, of);
			return [
				{
					product: product.index,
					n,
					positions: move(mesh.positions, "points"),
					normals: move(mesh.normals, "directions"),
					triangles: mesh.triangles,
					lines: move(mesh.lines, "points"),
				},
			];
		}),
	);
}

type Rigid = { readonly rotation: readonly (readonly number[])[]; readonly translation: readonly number[] };

function moved(data: Float32Array, { rotation, translation }: Rigid, of: "points" | "directions"): Float32Array {
	const out = new Float32Array(data.length);
	for (let i = 0; i < data.length; i += 3) {
		for (let r = 0; r < 3; r++) {
			const row = rotation[r] as readonly number[];
			const turned =
				(row[0] as number) * (data[i] as number) +
				(row[1] as number) * (data[i + 1] as number) +
				(row[2] as number) * (data[i + 2] as number);
			out[i + r] = turned + (of === "points" ? (translation[r] as number) : 0);
		}
	}
	return out;
}
