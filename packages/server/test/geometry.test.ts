import { readdirSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { zipOf } from "../../formats/src/testing";
import { fixture, newId, type Running, startServer } from "./harness";

/** Files of a project: brought in, told in words, replaced, taken out, and brought back. */
let server: Running;
beforeAll(async () => {
	server = await startServer();
});
afterAll(() => server.stop());

const NESTED = fixture("nested.step");
/** The same geometry under other names, so another file. */
const RENAMED = Buffer.from(NESTED.toString().replaceAll("Becket", "Becket B"));

async function project(): Promise<string> {
	const id = newId();
	await server.must("createProject", { id, name: `Project ${id.slice(-6)}` });
	return id;
}
async function send(id: string, file: string, bytes: Uint8Array, same?: "replace" | "beside") {
	const query = new URLSearchParams({ file, job: newId(), ...(same === undefined ? {} : { same }) });
	const reply = await server.raw(`/api/v1/projects/${id}/geometry?${query}`, {
		method: "POST",
		headers: { "Content-Type": "application/octet-stream" },
		body: bytes as never,
	});
	const sent = (await reply.json()) as { ok: boolean; value: { id: string }; issues: { code: string; message: string }[] };
	if (!sent.ok) return { state: "refused", issues: sent.issues };
	for (;;) {
		const job = await server.must("getJob", { id: sent.value.id });
		if (job.state !== "running") return job as typeof job & { issues: readonly { code: string; message?: string }[] };
		await new Promise((r) => setTimeout(r, 30));
	}
}
const view = (id: string) => server.must("getProject", { id });
const blobs = (): number =>
	readdirSync(`${server.dataDir}/blobs`, { recursive: true, encoding: "utf8" }).filter((f) => /[0-9a-f]{64}$/.test(f)).length;

describe("a file of a project", () => {
	it("is taken out with all that came with it, and brought back with what its parts were made of", async () => {
		const id = await project();
		await send(id, "nested.step", NESTED);
		const before = await view(id);
		const part = before.parts[0]?.id ?? "";
		await server.must("assign", { id, parts: [part], materialId: "plate" });
		const given = await view(id);
		const hash = given.imports[0]?.hash ?? "";
		const out = await server.must("removeGeometry", { id, hash });
		expect([out.value.parts, out.value.occurrences, out.value.solids, out.value.imports]).toEqual([[], [], [], []]);
		expect(out.value.totals.mass_kg).toBeNull();
		expect((await server.must("getSheet", { id: "plate" })).whereUsed).toEqual([]);
		const back = await server.must("undo", { event: out.event });
		expect({ ...(await view(id)), imports: [] }).toEqual({ ...given, imports: [] });
		// and again, after a restart
		server = await server.restart();
		await server.must("undo", { event: back.event });
		expect((await view(id)).parts).toEqual([]);
		// what was brought in again stands in the way of the old one
		await send(id, "nested.step", NESTED);
		const steps = await server.must("listSteps", {});
		expect(steps.some((s) => s.did === "brought geometry in: nested.step")).toBe(true);
		expect(await server.refused("removeGeometry", { id, hash: "0".repeat(64) })).toBe("not-found");
		// bringing in is a step like any other
		const import_ = steps.find((s) => s.did === "brought geometry in: nested.step");
		await server.must("undo", { event: import_?.seq ?? 0 });
		expect((await view(id)).parts).toEqual([]);
	});

	it("of the same name with other content is asked about: it takes the other's place with its materials, or stands beside it", async () => {
		const id = await project();
		await send(id, "winch.step", NESTED);
		const one = (await view(id)).parts.find((p) => p.name !== "Becket");
		await server.must("assign", { id, parts: [one?.id ?? ""], materialId: "plate" });
		const asked = await send(id, "Winch.STEP", RENAMED);
		expect(asked.issues[0]).toMatchObject({ code: "same-name" });
		expect((await view(id)).parts).toHaveLength(5);
		expect((await send(id, "winch.step", RENAMED, "replace")).state).toBe("done");
		const now = await view(id);
		expect([now.imports.length, now.parts.length]).toEqual([1, 5]);
		expect(now.parts.find((p) => p.name === one?.name)?.assignment?.material).toBe("Plate 21");
		expect(now.parts.filter((p) => p.assignment !== null)).toHaveLength(1);
		expect((await send(id, "winch.step", NESTED, "beside")).state).toBe("done");
		expect((await view(id)).parts).toHaveLength(10);
	});

	it("sent twice at once comes in once; the second is told that it is here", async () => {
		const id = await project();
		const [a, b] = await Promise.all([send(id, "twin.step", NESTED), send(id, "twin.step", NESTED)]);
		expect([a.state, b.state].sort()).toEqual(["done", "refused"]);
		expect([...a.issues, ...b.issues][0]).toMatchObject({ code: "already-imported" });
		expect((await view(id)).parts).toHaveLength(5);
	});

	it("that is refused tells scripts the same sentence, and leaves no bytes behind", async () => {
		const id = await project();
		const kept = blobs();
		const job = await send(id, "broken.step", Buffer.from(NESTED.toString().replace("VECTOR('',#39,60.)", "VECTOR('',#39)")));
		expect([job.state, job.issues[0]?.message]).toEqual(["failed", expect.stringMatching(/Nothing was imported\.$/)]);
		await send(id, "empty.step", new Uint8Array());
		for (let i = 0; i < 50 && blobs() !== kept; i++) await new Promise((r) => setTimeout(r, 20));
		expect(blobs()).toBe(kept);
		// the bytes of something that is named stay
		const other = await project();
		await send(other, "nested.step", NESTED);
		const named = blobs();
		await send(other, "again.step", NESTED);
		expect(blobs()).toBe(named);
	});

	it("comes in an archive too: it is the file that counts, under its own name", async () => {
		const id = await project();
		const packed = zipOf([
			{ name: "export/winch.stp", data: NESTED },
			{ name: "export/readme.txt", data: NESTED.subarray(0, 20) },
		]);
		const kept = blobs();
		expect((await send(id, "winch.zip", packed)).state).toBe("done");
		const { imports, parts } = await view(id);
		expect([imports.map((i) => i.file), parts.length]).toEqual([["winch.stp"], 5]);
		expect(blobs()).toBeGreaterThanOrEqual(kept);
		expect((await send(id, "nested.step", NESTED)).issues[0]).toMatchObject({ code: "already-imported" });
		expect((await send(id, "WINCH.zip", zipOf([{ name: "Winch.stp", data: RENAMED }]))).issues[0]).toMatchObject({
			code: "same-name",
		});
	});

	it.each([
		["no STEP file", [{ name: "a.txt", data: Buffer.from("x") }], "zip-one-file"],
		["two", ["a.step", "b.step"].map((name) => ({ name, data: NESTED })), "zip-one-file"],
		["one that leads out of it", [{ name: "../a.step", data: NESTED }], "zip-path"],
		["one that is damaged", [{ name: "a.step", data: NESTED, says: { crc: 7 } }], "zip-broken"],
	])("in an archive with %s is refused, and nothing of it stays", async (_, files, code) => {
		const id = await project();
		const kept = blobs();
		expect((await send(id, "x.zip", zipOf(files))).issues[0]).toMatchObject({ code });
		expect(blobs()).toBe(kept);
		expect((await view(id)).imports).toEqual([]);
	});

	it("names what it left out, and which shapes are in doubt", async () => {
		const id = await project();
		const at = NESTED.toString().lastIndexOf("ENDSEC");
		const skin = "#90001=SHELL_BASED_SURFACE_MODEL('Skin',(#90002));#90002=OPEN_SHELL('',());\n";
		const text = NESTED.toString().slice(0, at) + skin + NESTED.toString().slice(at);
		await send(
			id,
			"skin.step",
			Buffer.from(text.replace("CYLINDRICAL_SURFACE('',#230,8.)", "CYLINDRICAL_SURFACE('',#230,10.4)")),
		);
		const { imports, solids } = await view(id);
		expect(imports[0]?.leftOut).toEqual([{ entity: 90001, name: "Skin", what: "surface body" }]);
		expect(solids.filter((s) => s.doubt !== null)).toHaveLength(1);
		expect(solids.find((s) => s.doubt !== null)?.doubt).toMatchObject({ kind: "gap" });
	});
});
