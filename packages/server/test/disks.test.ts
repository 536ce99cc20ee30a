import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describeIssue } from "@alvek/core/result";
import { describe, expect, it } from "vitest";
import { backUp, verify } from "../src/backup";
import { faultOf } from "../src/db";
import { builtWorkers, openInstallation } from "../src/index";
import { newId, root, startServer } from "./harness";

/** A small disk of its own, which takes the right to mount one; false where that is not to be had. */
function mount(dir: string, options: string): boolean {
	mkdirSync(dir, { recursive: true });
	return spawnSync("mount", ["-t", "tmpfs", "-o", options, "tmpfs", dir]).status === 0;
}
const unmount = (dir: string): void => void spawnSync("umount", ["-l", dir]);

const trial = mkdtempSync(join(tmpdir(), "alvek-mount-"));
const mayMount = mount(trial, "size=1m");
unmount(trial);
rmSync(trial, { recursive: true, force: true });

const open = (dataDir: string): Promise<unknown> => openInstallation({ dataDir, workers: builtWorkers(root), version: "test" });
const saidBy = (cause: unknown): string => {
	const fault = faultOf(cause);
	return fault === null ? `no fault: ${String(cause)}` : describeIssue(fault);
};

describe.skipIf(!mayMount)("a disk that refuses", () => {
	it("full: says so, loses nothing that was confirmed, and goes on when there is room", async () => {
		const disk = mkdtempSync(join(tmpdir(), "alvek-full-"));
		mount(disk, "size=8m");
		try {
			const api = await startServer(join(disk, "data"));
			// room for some writes and no more
			const { bavail, bsize } = statfsSync(disk);
			writeFileSync(join(disk, "others"), Buffer.alloc(Math.max(0, bavail * bsize - 400 * 1024)));
			const namesThere = async (): Promise<readonly string[]> =>
				(await api.must("findMaterials", { library: "own", text: "Sheet" })).rows.map((r) => r.name).sort();
			const confirmed: string[] = [];
			let refusal = "";
			for (let n = 0; n < 400 && refusal === ""; n++) {
				const made = await api.call("createMaterial", { id: newId(), libraryId: "own", name: `Sheet ${n}` });
				if (made.ok) confirmed.push(`Sheet ${n}`);
				else refusal = made.issues.map(describeIssue).join(" ");
			}
			expect(refusal).toContain("The server's disk is full, so nothing was changed.");
			// reading goes on, the health says what is wrong
			expect(confirmed.length).toBeGreaterThan(0);
			expect(await namesThere()).toEqual([...confirmed].sort());
			expect(await (await api.raw("/api/health")).json()).toMatchObject({ disk: "saves are refused" });
			await expect(backUp(api.dataDir, join(disk, "backup.tar.gz"), "2026-11-26T00:00:00.000Z").catch(saidBy)).resolves.toContain(
				"disk is full",
			);
			rmSync(join(disk, "others"));
			expect((await api.call("createMaterial", { id: newId(), libraryId: "own", name: "With room again" })).ok).toBe(true);
			expect((await verify(api.dataDir)).wrong).toEqual([]);
			expect(await namesThere()).toEqual([...confirmed].sort());
			await api.stop();
		} finally {
			unmount(disk);
			rmSync(disk, { recursive: true, force: true });
		}
	});

	it("read-only: the start says so and touches nothing", async () => {
		const disk = mkdtempSync(join(tmpdir(), "alvek-readonly-"));
		mount(disk, "size=16m");
		try {
			const api = await startServer(join(disk, "data"));
			await api.installation.close();
			spawnSync("mount", ["-o", "remount,ro", disk]);
			expect(await open(join(disk, "data")).catch(saidBy)).toBe(
				`Alvek may not write to its data folder ${join(disk, "data")}, so nothing was changed. Give its user the right to write there.`,
			);
			spawnSync("mount", ["-o", "remount,rw", disk]);
			expect((await verify(join(disk, "data"))).wrong).toEqual([]);
		} finally {
			unmount(disk);
			rmSync(disk, { recursive: true, force: true });
		}
	});
});

describe("a data folder", () => {
	it("belongs to one process at a time, and is free again when that has ended", async () => {
		const api = await startServer();
		expect(await open(api.dataDir).catch(saidBy)).toContain(`Another Alvek is running on ${api.dataDir}`);
		const again = await api.restart();
		expect((await again.must("listLibraries", {})).length).toBeGreaterThan(0);
		await again.stop();
	});
});
