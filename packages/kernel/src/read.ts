import type { Mat3, SolidGeometry, Vec3 } from "@alvek/core/mass";
import { readStep, type StepModel, type StepSolid } from "@alvek/core/part21";
import { fail, type Issue, ok, type Result } from "@alvek/core/result";
import { type Occ, rawProperties } from "./occ";

/** Triangles of one solid in metres, ready for drawing; `lines` are the edges as pairs of points. */
export type Mesh = {
	readonly positions: Float32Array;
	readonly normals: Float32Array;
	readonly triangles: Uint32Array;
	readonly lines: Float32Array;
};

export type ReadSolid = {
	/** STEP entity number. */
	readonly entity: number;
	readonly geometry: SolidGeometry;
	readonly mesh: Mesh | null;
};

export type StepGeometry = { readonly model: StepModel; readonly solids: readonly ReadSolid[] };

export type ReadOptions = { readonly mesh: boolean };

/** Largest relative error of the adaptive integration for each face; planes and quadrics come out at 1e-15 anyway. */
const INTEGRATION_ERROR = 1e-12;
const MM = 1e-3;

/** STEP is ASCII; some writers put UTF-8 or Latin-1 into names. */
export function decodeStepBytes(bytes: Uint8Array): string {
	try {
		return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
	} catch {
		return new TextDecoder("latin1").decode(bytes);
	}
}

/**
 * Reads a STEP file: names and placements by our own text reader, each distinct solid once by the kernel.
 * @returns exact volume, area, centroid and second moments of each solid in SI, in the product's own coordinates
 */
export function readStepFile(
	occ: Occ,
	bytes: Uint8Array,
	options: ReadOptions,
	onProgress: (done: number, total: number) => void = () => undefined,
): Result<StepGeometry> {
	const model = readStep(decodeStepBytes(bytes));
	if (!model.ok) return model;
	const wanted = new Map<number, string>();
	for (const product of model.value.products) {
		for (const solid of product.solids) wanted.set(solid.entity, solidName(product.name, solid, product.solids.length));
	}
	onProgress(0, wanted.size);
	return withReader(occ, bytes, wanted, (transfer) => {
		const solids: ReadSolid[] = [];
		for (const [entity, name] of wanted) {
			const read = transfer(entity, name, options.mesh);
			if (!read.ok) return read;
			solids.push(read.value);
			onProgress(solids.length, wanted.size);
		}
		return ok({ model: model.value, solids });
	});
}

export function solidName(product: string, solid: StepSolid, count: number): string {
	return count > 1 && solid.name !== "" ? `${product} / ${solid.name}` : product;
}

type Transfer = (entity: number, name: string, mesh: boolean) => Result<ReadSolid>;

function withReader(
	occ: Occ,
	bytes: Uint8Array,
	wanted: ReadonlyMap<number, string>,
	use: (transfer: Transfer) => Result<StepGeometry>,
): Result<StepGeometry> {
	const path = "/part.step";
	occ.FS.writeFile(path, bytes);
	const reader = new occ.STEPControl_Reader();
	try {
		const status: unknown = reader.ReadFile(path);
		occ.FS.unlink(path);
		if (status !== "IFSelect_RetDone" && status !== occ.IFSelect_ReturnStatus.IFSelect_RetDone) {
			return fail({ code: "solid-failed", path: "file", actual: "the kernel could not load it" });
		}
		const entities = entitiesByNumber(reader.StepModel(), wanted);
		return use((entity, name, mesh) => {
			const handle = entities.get(entity);
			if (handle === undefined) return fail(failed(name, "the kernel does not know it"));
			reader.ClearShapes();
			const progress = new occ.Message_ProgressRange();
			if (!reader.TransferEntity(handle as never, progress) || reader.NbShapes() !== 1) {
				return fail(failed(name, "its surfaces make no solid"));
			}
			return measure(occ, reader.Shape(1), entity, name, mesh);
		});
	} finally {
		reader.delete();
	}
}

/** Entities of the kernel's model by their number in the file: matched by label, never by order. */
function entitiesByNumber(
	model: { NbEntities(): number; Value(i: number): unknown; IdentLabel(e: never): number },
	wanted: ReadonlyMap<number, string>,
) {
	const found = new Map<number, unknown>();
	for (let i = 1; i <= model.NbEntities() && found.size < wanted.size; i++) {
		const entity = model.Value(i);
		const number = model.IdentLabel(entity as never);
		if (wanted.has(number)) found.set(number, entity);
	}
	return found;
}

function failed(path: string, actual: string): Issue {
	return { code: "solid-failed", path: `“${path}”`, actual };
}

type Shape = ReturnType<InstanceType<Occ["STEPControl_Reader"]>["Shape"]>;

function measure(occ: Occ, shape: Shape, entity: number, name: string, mesh: boolean): Result<ReadSolid> {
	const surface = new occ.GProp_GProps();
	occ.BRepGProp.SurfaceProperties(shape, surface, INTEGRATION_ERROR, false);
	const area = rawProperties(occ, surface).mass;
	// moments about the origin: with a reference point elsewhere the kernel's own shift comes out wrong. The shift back
	// to the centroid loses V d^2 x 1e-16, below 1e-9 of the result up to d = 3000 sizes of the solid
	const volume = new occ.GProp_GProps();
	occ.BRepGProp.VolumeProperties(shape, volume, INTEGRATION_ERROR, true, false);
	const raw = rawProperties(occ, volume);
	const geometry = toSi(raw.mass, area, raw.centroid, raw.inertia);
	for (const object of [surface, volume]) object.delete();
	if (!(raw.mass > 0) || !Number.isFinite(raw.mass)) return fail({ code: "open-shell", path: `“${name}”` });
	if (![area, ...raw.centroid, ...raw.inertia].every(Number.isFinite)) return fail(failed(name, "its geometry is not finite"));
	return ok({ entity, geometry, mesh: mesh ? tessellate(occ, shape, Math.cbrt(raw.mass)) : null });
}

/** mm -> m, and the moments from the origin to the centroid d: I_c = I_o - V (|d|^2 1 - d d^T). */
function toSi(volume: number, area: number, centroid: Vec3, inertia: readonly number[]): SolidGeometry {
	const d = centroid;
	const square = d.reduce((s, x) => s + x * x, 0);
	const moved = (r: number, c: number): number =>
		((inertia[3 * r + c] as number) - volume * ((r === c ? square : 0) - (d[r] as number) * (d[c] as number))) * MM ** 5;
	const row = (r: number): Vec3 => [moved(r, 0), moved(r, 1), moved(r, 2)];
	const tensor: Mat3 = [row(0), row(1), row(2)];
	return {
		volume: volume * 1e-9,
		area: area * 1e-6,
		centroid: [centroid[0] * MM, centroid[1] * MM, centroid[2] * MM],
		inertia: tensor,
	};
}

function tessellate(occ: Occ, shape: Shape, size: number): Mesh {
	const deflection = Math.max(size * 0.004, 1e-4);
	const data = occ.ReplicadMeshExtractor.extract(shape, deflection, 0.35, false);
	const edges = occ.ReplicadEdgeMeshExtractor.extract(shape, deflection, 0.35);
	const { buffer } = occ.wasmMemory;
	const floats = (pointer: number, count: number, scale: number): Float32Array =>
		new Float32Array(buffer, pointer, count).map((x) => x * scale);
	const mesh: Mesh = {
		positions: floats(data.getVerticesPtr(), data.getVerticesSize(), MM),
		normals: floats(data.getNormalsPtr(), data.getNormalsSize(), 1),
		triangles: new Uint32Array(buffer, data.getTrianglesPtr(), data.getTrianglesSize()).slice(),
		lines: floats(edges.getLinesPtr(), edges.getLinesSize(), MM),
	};
	data.delete();
	edges.delete();
	return mesh;
}
