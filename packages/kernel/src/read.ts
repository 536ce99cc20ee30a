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

/** `gap`: edges or vertices miss what they bound by so much; `invalid`: the boundary contradicts itself. */
export type GeometryDoubt = { readonly kind: "gap"; readonly gap_m: number } | { readonly kind: "invalid" };

export type ReadSolid = {
	/** STEP entity number. */
	readonly entity: number;
	readonly geometry: SolidGeometry;
	/** Why its volume may not be what its author drew; null: nothing speaks against it. */
	readonly doubt: GeometryDoubt | null;
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
	let entities: ReadonlyMap<number, unknown> = new Map();
	try {
		const status: unknown = reader.ReadFile(path);
		occ.FS.unlink(path);
		if (status !== "IFSelect_RetDone" && status !== occ.IFSelect_ReturnStatus.IFSelect_RetDone) {
			return fail({ code: "solid-failed", path: "file", actual: "the kernel could not load it" });
		}
		entities = entitiesByNumber(reader.StepModel(), wanted);
		return use((entity, name, mesh) => {
			const handle = entities.get(entity);
			if (handle === undefined) return fail(failed(name, "the kernel does not know it"));
			reader.ClearShapes();
			const progress = new occ.Message_ProgressRange();
			try {
				// the kernel's bindings type this more narrowly than they take it
				if (!reader.TransferEntity(handle as never, progress) || reader.NbShapes() !== 1)
					return fail(failed(name, "its surfaces make no solid"));
				const shape = reader.Shape(1);
				const read = measure(occ, shape, { entity, name, mesh });
				shape.delete();
				return read;
			} finally {
				progress.delete();
			}
		});
	} finally {
		for (const handle of entities.values()) (handle as { delete(): void }).delete();
		reader.ClearShapes();
		// the session holds the model and every shape that it made, beyond the reader's own life
		const session = reader.WS();
		for (const mode of [7, 1]) session.ClearData(mode);
		session.delete();
		reader.delete();
	}
}

/** Entities of the kernel's model by their number in the file: matched by label, never by order. */
function entitiesByNumber(
	model: { NbEntities(): number; Value(i: number): unknown; IdentLabel(e: never): number; delete(): void },
	wanted: ReadonlyMap<number, string>,
) {
	const found = new Map<number, unknown>();
	for (let i = 1; i <= model.NbEntities() && found.size < wanted.size; i++) {
		const entity = model.Value(i);
		// the kernel's bindings type this more narrowly than they take it
		const number = model.IdentLabel(entity as never);
		if (wanted.has(number)) found.set(number, entity);
		else (entity as { delete(): void }).delete();
	}
	model.delete();
	return found;
}

function failed(path: string, actual: string): Issue {
	return { code: "solid-failed", path: `“${path}”`, actual };
}

type Shape = ReturnType<InstanceType<Occ["STEPControl_Reader"]>["Shape"]>;

/** Objects of the kernel live in its own memory until they are deleted. */
class Owned {
	private readonly objects: { delete(): void }[] = [];
	keep<T extends { delete(): void }>(object: T): T {
		this.objects.push(object);
		return object;
	}
	free(): void {
		for (const object of this.objects.reverse()) object.delete();
	}
}

function measure(
	occ: Occ,
	shape: Shape,
	{ entity, name, mesh }: { readonly entity: number; readonly name: string; readonly mesh: boolean },
): Result<ReadSolid> {
	const owned = new Owned();
	try {
		// near its own middle first: about the file's origin the moments lose V d^2 x 1e-16, which is all of them far away
		const middle = middleOf(occ, shape, owned);
		const near = movedBy(occ, shape, middle, owned);
		const surface = owned.keep(new occ.GProp_GProps());
		occ.BRepGProp.SurfaceProperties(near, surface, INTEGRATION_ERROR, false);
		const area = rawProperties(occ, surface).mass;
		const volume = owned.keep(new occ.GProp_GProps());
		occ.BRepGProp.VolumeProperties(near, volume, INTEGRATION_ERROR, true, false);
		const raw = rawProperties(occ, volume);
		const geometry = toSi({ ...raw, area }, middle);
		if (!(raw.mass > 0) || !Number.isFinite(raw.mass)) return fail({ code: "open-shell", path: `“${name}”` });
		if (![area, ...raw.centroid, ...raw.inertia].every(Number.isFinite)) return fail(failed(name, "its geometry is not finite"));
		const doubt = doubtOf(occ, shape, Math.cbrt(raw.mass), owned);
		return ok({ entity, geometry, doubt, mesh: mesh ? tessellate(occ, shape, Math.cbrt(raw.mass)) : null });
	} finally {
		owned.free();
	}
}

/** The middle of the box around a shape, in whole millimetres, so that moving by it is exact. */
function middleOf(occ: Occ, shape: Shape, owned: Owned): Vec3 {
	const box = owned.keep(new occ.Bnd_Box());
	occ.BRepBndLib.Add(shape, box, false);
	if (box.IsVoid()) return [0, 0, 0];
	const [low, high] = [owned.keep(box.CornerMin()), owned.keep(box.CornerMax())];
	const middle = (a: number, b: number): number => {
		const x = Math.round(a / 2 + b / 2);
		return Number.isFinite(x) ? x : 0;
	};
	return [middle(low.X(), high.X()), middle(low.Y(), high.Y()), middle(low.Z(), high.Z())];
}

function movedBy(occ: Occ, shape: Shape, by: Vec3, owned: Owned): Shape {
	if (by.every((x) => x === 0)) return shape;
	const vector = owned.keep(new occ.gp_Vec(-by[0], -by[1], -by[2]));
	const move = owned.keep(new occ.gp_Trsf());
	move.SetTranslation(vector);
	const transform = owned.keep(new occ.BRepBuilderAPI_Transform(shape, move, true, false));
	return owned.keep(transform.Shape());
}

/** Of the size of a solid, and at least so many millimetres, by which parts of its boundary may miss each other. */
const GAP_SHARE = 1e-3;
const GAP_MM = 0.02;

/**
 * What is wrong with a boundary that still encloses a volume, in millimetres and words; null: nothing. The kernel closes
 * gaps by widening its tolerances, so the widest of them tells how far edges and vertices are from what they bound.
 */
function doubtOf(occ: Occ, shape: Shape, size: number, owned: Owned): GeometryDoubt | null {
	const gap = widestTolerance(occ, shape, owned);
	if (gap > Math.max(GAP_MM, GAP_SHARE * size)) return { kind: "gap", gap_m: gap * MM };
	const check = owned.keep(new occ.BRepCheck_Analyzer(shape, true, false, false));
	return check.IsValid() ? null : { kind: "invalid" };
}

function widestTolerance(occ: Occ, shape: Shape, owned: Owned): number {
	let widest = 0;
	for (const [kind, read] of [
		["TopAbs_VERTEX", (s: Shape): number => toleranceOf(occ.TopoDS.Vertex(s))],
		["TopAbs_EDGE", (s: Shape): number => toleranceOf(occ.TopoDS.Edge(s))],
	] as const) {
		// the kernel's bindings type this more narrowly than they take it
		const walk = owned.keep(new occ.TopExp_Explorer(shape, occ.TopAbs_ShapeEnum[kind] as never));
		for (; walk.More(); walk.Next()) {
			const part = walk.Current();
			widest = Math.max(widest, read(part));
			part.delete();
		}
	}
	return widest;

	function toleranceOf(part: { delete(): void }): number {
		// the kernel's bindings type this more narrowly than they take it
		const tolerance = occ.BRep_Tool.Tolerance(part as never);
		part.delete();
		return tolerance;
	}
}

/** mm -> m, and the moments from the middle to the centroid d: I_c = I_o - V (|d|^2 1 - d d^T). */
function toSi(
	{ mass: volume, area, centroid, inertia }: ReturnType<typeof rawProperties> & { readonly area: number },
	middle: Vec3,
): SolidGeometry {
	const d = centroid;
	const square = d.reduce((s, x) => s + x * x, 0);
	const moved = (r: number, c: number): number =>
		((inertia[3 * r + c] as number) - volume * ((r === c ? square : 0) - (d[r] as number) * (d[c] as number))) * MM ** 5;
	const row = (r: number): Vec3 => [moved(r, 0), moved(r, 1), moved(r, 2)];
	const tensor: Mat3 = [row(0), row(1), row(2)];
	return {
		volume: volume * 1e-9,
		area: area * 1e-6,
		centroid: [(middle[0] + centroid[0]) * MM, (middle[1] + centroid[1]) * MM, (middle[2] + centroid[2]) * MM],
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
	// the shape keeps its triangles, and parts of it may be shared with what outlives it
	occ.BRepTools.Clean(shape, true);
	return mesh;
}
