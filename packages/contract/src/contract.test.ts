import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fillPath, type MeshSolid, PATHS, packMeshes, unpackMeshes, uuid7 } from "./index";
import { ROUTES } from "./routes";

describe("the route table", () => {
	it("has no two routes on one method and path, and a sentence for each", () => {
		const keys = Object.values(ROUTES).map((r) => `${r.method} ${r.path}`);
		expect(new Set(keys).size).toBe(keys.length);
		for (const route of Object.values(ROUTES)) expect(route.summary.length).toBeGreaterThan(3);
	});

	it("is what the browser knows of it: the same names, methods and paths", () => {
		expect(Object.entries(PATHS).sort()).toEqual(
			Object.entries(ROUTES)
				.map(([name, { method, path }]) => [name, { method, path }])
				.sort(),
		);
	});

	it("fills paths safely: an id cannot leave its segment", () => {
		expect(fillPath(ROUTES.getSheet, { id: "../../etc" }).path).toBe("/api/v1/materials/..%2F..%2Fetc");
		expect(fillPath(ROUTES.getRevision, { id: "a", no: "2" })).toEqual({ path: "/api/v1/materials/a/revisions/2", rest: {} });
	});
});

describe("packed meshes", () => {
	const floats = fc.array(fc.float({ noNaN: true }), { maxLength: 30 }).map((a) => new Float32Array(a));
	const solid: fc.Arbitrary<MeshSolid> = fc.record({
		product: fc.nat(1000),
		n: fc.nat(100),
		positions: floats,
		normals: floats,
		triangles: fc.array(fc.nat(), { maxLength: 30 }).map((a) => new Uint32Array(a)),
		lines: floats,
	});

	it("come back as they were packed", () => {
		fc.assert(
			fc.property(fc.array(solid, { maxLength: 6 }), (solids) => {
				const bytes = packMeshes(solids);
				expect(unpackMeshes(bytes.buffer as ArrayBuffer)).toEqual({ ok: true, value: solids });
			}),
			{ seed: 3 },
		);
	});

	it("say what does not fit", () => {
		const wrong = unpackMeshes(new Uint32Array([1, 1, 0]).buffer as ArrayBuffer);
		expect(wrong.ok ? null : wrong.issues[0]).toMatchObject({ code: "bad-mesh" });
		const newer = new Uint32Array(packMeshes([]).buffer as ArrayBuffer);
		newer[1] = 9;
		const version = unpackMeshes(newer.buffer as ArrayBuffer);
		expect(version.ok ? null : version.issues[0]?.expected).toBe("version 1");
	});
});

describe("ids", () => {
	it("carry version, variant and time where the layout of RFC 9562 puts them", () => {
		// unix_ts_ms 0x017F22E279B0, rand_a 0xCC3, rand_b 0x18C4DC0C0C07398F
		const random = Uint8Array.from([0x0c, 0xc3, 0x18, 0xc4, 0xdc, 0x0c, 0x0c, 0x07, 0x39, 0x8f]);
		expect(uuid7(0x017f22e279b0, random)).toBe("017f22e2-79b0-7cc3-98c4-dc0c0c07398f");
	});
});
