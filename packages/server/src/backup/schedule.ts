import { spawn } from "node:child_process";
import { mkdir, readdir, rm } from "node:fs/promises";
import { join } from "node:path";
import { backupName } from "./back-up";
import { madeAt, type Retention, toDelete } from "./retention";

/** How the scheduled backups are doing, for health and for administrators. */
export type BackupState = {
	/** When the newest one was made, UTC ISO; null: never. */
	last: string | null;
	/** Why the latest try failed; null: it did not. */
	failed: string | null;
};

export type BackupPlan = {
	readonly folder: string;
	readonly every_h: number;
	readonly keep: Retention;
	/** The command line that writes one backup; a process of its own, so that hashing keeps no request waiting. */
	readonly command: (file: string) => readonly string[];
	readonly failed: (why: string) => void;
	/** False before the first start has made the data. */
	readonly ready: () => Promise<boolean>;
};

const CHECK_MS = 60_000;

/**
 * Makes a backup whenever the newest one is older than the plan says, looking once a minute, and deletes what the plan
 * no longer keeps, but only after a new one was written whole.
 */
export function keepBackups(plan: BackupPlan): { readonly state: BackupState; stop(): Promise<void> } {
	const state: BackupState = { last: null, failed: null };
	let running: Promise<void> | null = null;
	let triedAt = 0;
	const look = async (): Promise<void> => {
		if (!(await plan.ready())) return;
		await mkdir(plan.folder, { recursive: true });
		state.last = newest(await readdir(plan.folder));
		const since = Date.now() - Math.max(triedAt, state.last === null ? 0 : Date.parse(state.last));
		if (since < plan.every_h * 3_600_000) return;
		triedAt = Date.now();
		await run(plan.command(join(plan.folder, backupName(new Date().toISOString()))));
		const names = await readdir(plan.folder);
		state.last = newest(names);
		state.failed = null;
		for (const name of toDelete(names, plan.keep)) await rm(join(plan.folder, name), { force: true });
	};
	const tick = (): void => {
		running ??= look()
			.catch((cause: Error) => {
				state.failed = cause.message;
				plan.failed(cause.message);
			})
			.finally(() => {
				running = null;
			});
	};
	tick();
	const timer = setInterval(tick, CHECK_MS);
	return {
		state,
		async stop() {
			clearInterval(timer);
			await running;
		},
	};
}

function newest(names: readonly string[]): string | null {
	return (
		names
			.flatMap((n) => madeAt(n) ?? [])
			.sort()
			.at(-1) ?? null
	);
}

/** Runs a command; its last line of complaint is the reason when it fails. */
function run(command: readonly string[]): Promise<void> {
	return new Promise((resolve, reject) => {
		const [program = "", ...args] = command;
		const child = spawn(program, args, { stdio: ["ignore", "ignore", "pipe"] });
		let said = "";
		child.stderr.on("data", (data) => {
			said = (said + String(data)).slice(-2000);
		});
		child.once("error", reject);
		child.once("exit", (code) => {
			if (code === 0) return resolve();
			reject(new Error(said.trim().split("\n").at(-1) || `the backup ended with ${code}`));
		});
	});
}
