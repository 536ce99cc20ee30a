import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import init, { type OpenCascadeInstance } from "replicad-opencascadejs";

/** The pinned B-rep kernel and its memory. */
export type Occ = OpenCascadeInstance & { readonly wasmMemory: { readonly buffer: ArrayBuffer } };

/** Boots the kernel, silenced: it prints statistics that would end up on stdout. */
export async function bootKernel(): Promise<Occ> {
	const path = createRequire(import.meta.url).resolve("replicad-opencascadejs/wasm");
	const options = { wasmBinary: readFileSync(path), print: () => undefined, printErr: () => undefined };
	const occ = (await (init as (o: object) => Promise<unknown>)(options)) as Occ;
	checkStructLayout(occ);
	return occ;
}

/** Raw mass properties of a shape: mm3, mm, mm5, inertia about `about`. */
export type RawProperties = {
	readonly mass: number;
	readonly centroid: readonly [number, number, number];
	/** 3x3 in rows about the reference point; off-diagonals are the negative products. */
	readonly inertia: readonly number[];
};

/**
 * Reads a GProp_GProps. The binding leaves out its matrix of inertia, so the struct itself is read: 16 doubles, the
 * centroid relative to the reference point, that point, the mass, and the matrix about it.
 */
export function rawProperties(occ: Occ, properties: object): RawProperties {
	const at = pointerOf(properties);
	const d = new Float64Array(occ.wasmMemory.buffer, at, 16);
	const [gx = 0, gy = 0, gz = 0, lx = 0, ly = 0, lz = 0, mass = 0] = d;
	return { mass, centroid: [gx + lx, gy + ly, gz + lz], inertia: Array.from(d.slice(7, 16)) };
}

/** The address that an embind object wraps, whatever the minifier called its fields. */
function pointerOf(object: object): number {
	for (const key of Reflect.ownKeys(object)) {
		const holder = (object as Record<PropertyKey, unknown>)[key];
		if (typeof holder !== "object" || holder === null) continue;
		const address = Object.values(holder).find((v) => typeof v === "number" && v > 1024);
		if (typeof address === "number") return address;
	}
	throw new Error("the kernel's objects hold no address; its version changed");
}

/** A box of 2 x 3 x 5 about its corner: V = 30, Ixx = V (b^2 + c^2) / 3 and so on, Ixy = -V a b / 4. */
function checkStructLayout(occ: Occ): void {
	const properties = new occ.GProp_GProps();
	const box = new occ.BRepPrimAPI_MakeBox(2, 3, 5).Shape();
	occ.BRepGProp.VolumeProperties(box, properties, 1e-12, true, false);
	const { mass, centroid, inertia } = rawProperties(occ, properties);
	const expected = [30, 1, 1.5, 2.5, 340, -45, -75, -45, 290, -112.5, -75, -112.5, 130];
	const got = [mass, ...centroid, ...inertia];
	if (got.some((x, i) => Math.abs(x - (expected[i] as number)) > 1e-9)) {
		throw new Error(`the kernel's mass properties are laid out otherwise: ${got.join(", ")}`);
	}
}
