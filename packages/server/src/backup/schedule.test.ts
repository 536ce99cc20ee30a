import { mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { backupName } from "./back-up";
import { keepBackups } from "./schedule";

let folder: string;
beforeEach(() => {
	folder = mkdtempSync(join(tmpdir(), "alvek-schedule-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const ready = async (): Promise<boolean> => true;
const KEEP = { days: 2, weeks: 0, months: 0 };
/** A command that writes a file of one byte where it is told to, in place of a whole backup. */
const writes = (file: string): readonly string[] => [
	process.execPath,
	"-e",
	`require("fs").writeFileSync(${JSON.stringify(file)}, "x")`,
];
const daysAgo = (n: number): string => new Date(Date.now() - n * 86_400_000).toISOString();

async function until(done: () => boolean): Promise<void> {
	for (let n = 0; n < 500 && !done(); n++) await new Promise((r) => setTimeout(r, 10));
	expect(done()).toBe(true);
}

describe("scheduled backups", () => {
	it("one is made when the newest is too old, and only then are older ones deleted", async () => {
		const old = [3, 4, 5].map((n) => backupName(daysAgo(n)));
		for (const name of [...old, "thesis.txt"]) writeFileSync(join(folder, name), "");
		const backups = keepBackups({ folder, every_h: 24, keep: KEEP, command: writes, failed: () => undefined, ready });
		await until(() => backups.state.last !== null && Date.now() - Date.parse(backups.state.last) < 60_000);
		await backups.stop();
		const names = readdirSync(folder).sort();
		// the newest of each of the last two days that have one
		expect(names).toEqual([old[0] as string, backupName(backups.state.last as string), "thesis.txt"].sort());
		expect(backups.state.failed).toBeNull();
	});

	it("none is made while the newest is young enough", async () => {
		const name = backupName(daysAgo(0.5));
		writeFileSync(join(folder, name), "");
		const backups = keepBackups({ folder, every_h: 24, keep: KEEP, command: writes, failed: () => undefined, ready });
		await until(() => backups.state.last !== null);
		await backups.stop();
		expect(readdirSync(folder)).toEqual([name]);
	});

	it("none is tried before there are data", async () => {
		const command = (): readonly string[] => [process.execPath, "-e", "process.exit(1)"];
		const backups = keepBackups({ folder, every_h: 24, keep: KEEP, command, failed: () => undefined, ready: async () => false });
		await new Promise((r) => setTimeout(r, 100));
		await backups.stop();
		expect([backups.state, readdirSync(folder)]).toEqual([{ last: null, failed: null }, []]);
	});

	it("one that fails deletes nothing and says why", async () => {
		const old = [3, 4, 5].map((n) => backupName(daysAgo(n)));
		for (const name of old) writeFileSync(join(folder, name), "");
		const said: string[] = [];
		const command = (): readonly string[] => [
			process.execPath,
			"-e",
			'console.error("The database is damaged."); process.exit(1)',
		];
		const backups = keepBackups({ folder, every_h: 24, keep: KEEP, command, failed: (why) => said.push(why), ready });
		await until(() => backups.state.failed !== null);
		await backups.stop();
		expect([said, backups.state.failed]).toEqual([["The database is damaged."], "The database is damaged."]);
		expect(readdirSync(folder).sort()).toEqual([...old].sort());
	});
});
