import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { familyName, propertyById } from "@alvek/core/property";
import type { Result } from "@alvek/core/result";
import { builtWorkers, newContext, openInstallation } from "@alvek/server";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { OWN, SUPPLIED } from "./materials.data";
import { seedDemo } from "./seed";

const dataDir = mkdtempSync(join(tmpdir(), "alvek-demo-"));
let installation: Awaited<ReturnType<typeof openInstallation>>;
beforeAll(async () => {
	installation = await openInstallation({
		dataDir,
		workers: builtWorkers(new URL("../../", import.meta.url)),
		version: "test",
	});
	await seedDemo(installation, () => undefined);
});
afterAll(async () => {
	await installation.close();
	rmSync(dataDir, { recursive: true, force: true });
});

const rows = [...OWN, ...SUPPLIED];

describe("the demo's data", () => {
	it("are about thirty materials over all the kinds that it wants to show", () => {
		expect(rows.length).toBeGreaterThanOrEqual(30);
		const kinds = new Set(rows.map((r) => r.family.split(".")[0]));
		for (const kind of ["metal", "polymer", "elastomer", "composite", "ceramic", "wood", "foam"]) expect(kinds).toContain(kind);
		for (const row of rows) {
			expect(familyName(row.family), row.name).toBeDefined();
			for (const [property] of row.values) expect(propertyById(property), `${row.name}: ${property}`).toBeDefined();
		}
	});

	it("raise no check but carried-over values: every number is plausible for its family", async () => {
		const page = await installation.services.json.findMaterials(newContext(installation.db), { limit: "100" } as never);
		if (!page.ok) throw new Error();
		const { checkMaterial, checkText } = await import("@alvek/core/material");
		const odd = page.value.rows.flatMap((r) =>
			checkMaterial(r.document, { own: [], base: null })
				.filter((c) => c.code !== "carried-over" && c.code !== "carried-words")
				.map((c) => `${r.name}: ${c.title}, ${checkText(c)}`),
		);
		expect(odd).toEqual([]);
	});

	it("show the situations that they promise", async () => {
		const project = await installation.services.json.getProject(newContext(installation.db), { id: "winch" });
		if (!project.ok) throw new Error();
		const { totals, parts, occurrences } = project.value;
		expect(new Set(parts.map((p) => p.name)).size).toBeGreaterThanOrEqual(14);
		expect(occurrences.map((o) => o.name).filter((name) => /^Bearing set [12] of 2$/.test(name))).toHaveLength(2);
		expect(totals.behind).toBeGreaterThan(0);
		expect(totals.carriedOver).toBeGreaterThan(0);
		expect(parts.filter((p) => p.assignment === null).map((p) => p.name)).toEqual(["Motor housing"]);
		expect(totals.mass_kg?.low).toBeLessThan(totals.mass_kg?.high ?? 0);
	});

	it("show work under way: a near duplicate, a proposal, a local change, a private library, a default, a picture", async () => {
		const { json } = installation.services;
		const ctx = newContext(installation.db);
		const rhea = { ...ctx, actor: { person: "rhea", admin: false } };
		const value = async <T>(reply: Promise<Result<T>>): Promise<T> => {
			const result = await reply;
			if (!result.ok) throw new Error(JSON.stringify(result.issues));
			return result.value;
		};
		const alike = await value(json.listDuplicates(ctx, { id: "orrisay" } as never));
		expect(JSON.stringify(alike)).toContain("Havrin stainless18");
		const { proposals } = await value(json.getLibrary(ctx, { id: "prototypes" }));
		expect(proposals.map((p) => [p.by, p.materials.map((m) => m.name)])).toEqual([["Ines Calderwick", ["Pelluna POM black"]]]);
		const winch = await value(json.getProject(ctx, { id: "winch" }));
		expect(winch.parts.filter((p) => p.assignment?.own).map((p) => p.name)).toEqual(["Brake disc"]);
		expect((await value(json.listLibraries(rhea, {}))).map((l) => l.id).sort()).toEqual(["orrisay", "prototypes", "tolvane"]);
		expect((await value(json.getProject(ctx, { id: "boom-study" }))).default?.material).toBe("Havrin mild plate");
		expect((await value(json.listTextures(rhea, {}))).map((t) => t.material)).toEqual(["Osier ash"]);
	});

	it("are filled once: a second start changes nothing", async () => {
		const count = async () => (await installation.db.one<{ n: number }>("SELECT COUNT(*) AS n FROM event"))?.n;
		const before = await count();
		await seedDemo(installation, () => undefined);
		expect(await count()).toBe(before);
	});
});
