import { fail, ok, type Result } from "@alvek/core/result";

/** Drawing data of one solid: metres, edges as pairs of points. */
export type MeshSolid = {
	/** Index of the product in its file, and of the solid within it. */
	readonly product: number;
	readonly n: number;
	readonly positions: Float32Array;
	readonly normals: Float32Array;
	readonly triangles: Uint32Array;
	readonly lines: Float32Array;
};

const MAGIC = 0x4d564c41; // "ALVM" read as a little-endian integer
const VERSION = 1;
/** Magic, version, number of solids; then per solid: product, n, and four lengths. */
const HEAD_WORDS = 3;
const SOLID_WORDS = 6;

/** Packs meshes into one buffer: little-endian 32-bit words throughout, so every array is aligned. */
export function packMeshes(solids: readonly MeshSolid[]): Uint8Array {
	const words = solids.reduce(
		(n, s) => n + s.positions.length + s.normals.length + s.triangles.length + s.lines.length,
		HEAD_WORDS + SOLID_WORDS * solids.length,
	);
	const buffer = new ArrayBuffer(words * 4);
	const head = new Uint32Array(buffer);
	head.set([MAGIC, VERSION, solids.length]);
	let at = HEAD_WORDS + SOLID_WORDS * solids.length;
	solids.forEach((s, i) => {
		const lengths = [s.positions.length, s.normals.length, s.triangles.length, s.lines.length];
		head.set([s.product, s.n, ...lengths], HEAD_WORDS + SOLID_WORDS * i);
		for (const [part, Kind] of [
			[s.positions, Float32Array],
			[s.normals, Float32Array],
			[s.triangles, Uint32Array],
			[s.lines, Float32Array],
		] as const) {
			// each part is of its own kind, which the pair beside it says
			new Kind(buffer, at * 4, part.length).set(part as never);
			at += part.length;
		}
	});
	return new Uint8Array(buffer);
}

/** Views into a packed buffer; nothing is copied. Issue `bad-mesh` names what does not fit. */
export function unpackMeshes(bytes: ArrayBuffer): Result<readonly MeshSolid[]> {
	const head = new Uint32Array(bytes, 0, Math.min(HEAD_WORDS, Math.floor(bytes.byteLength / 4)));
	if (head[0] !== MAGIC) return fail({ code: "bad-mesh", actual: head[0] ?? 0, expected: `magic ${MAGIC}` });
	if (head[1] !== VERSION) return fail({ code: "bad-mesh", actual: head[1] ?? 0, expected: `version ${VERSION}` });
	const count = head[2] ?? 0;
	const index = new Uint32Array(bytes, HEAD_WORDS * 4, SOLID_WORDS * count);
	let at = HEAD_WORDS + SOLID_WORDS * count;
	const take = <T>(Kind: new (b: ArrayBuffer, o: number, l: number) => T, length: number): T => {
		const view = new Kind(bytes, at * 4, length);
		at += length;
		return view;
	};
	const solids: MeshSolid[] = [];
	for (let i = 0; i < count; i++) {
		const [product = 0, n = 0, p = 0, m = 0, t = 0, l = 0] = index.subarray(SOLID_WORDS * i, SOLID_WORDS * (i + 1));
		solids.push({
			product,
			n,
			positions: take(Float32Array, p),
			normals: take(Float32Array, m),
			triangles: take(Uint32Array, t),
			lines: take(Float32Array, l),
		});
	}
	return ok(solids);
}
