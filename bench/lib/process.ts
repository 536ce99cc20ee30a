import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

const root = process.cwd();

/** The real server process. */
export type ServerProcess = {
	readonly dataDir: string;
	readonly base: string;
	/** Until it listens. */
	start(): Promise<void>;
	/** Waits until it says something on its console; all that it said since its start. */
	says(text: string): Promise<string>;
	/** Without warning. */
	kill(): Promise<void>;
	/** As a service is stopped; its exit code. */
	stop(): Promise<number | null>;
	/** `npm run verify` on its data: what it complains of; empty when all is well. */
	verify(): string;
	remove(): void;
};

/** @param main the demo, which fills its folder with its data, unless another is named */
export async function serverProcess(
	dataDir = mkdtempSync(join(tmpdir(), "alvek-load-")),
	main = "demo/dist/main.js",
): Promise<ServerProcess> {
	const port = await freePort();
	let child: ChildProcess | null = null;
	let said = "";
	let ended: string | null = null;
	// whatever ends this process ends the server with it
	process.once("exit", () => child?.kill("SIGKILL"));
	process.once("uncaughtException", (cause) => {
		console.error(cause);
		process.exit(1);
	});
	const gone = (signal: NodeJS.Signals): Promise<number | null> => {
		const running = child;
		child = null;
		if (running === null || running.exitCode !== null) return Promise.resolve(running?.exitCode ?? null);
		return new Promise((resolve) => {
			running.once("exit", resolve);
			running.kill(signal);
		});
	};
	const says = async (text: string): Promise<string> => {
		while (!said.includes(text)) {
			if (ended !== null) throw new Error(ended);
			await new Promise((resolve) => setTimeout(resolve, 5));
		}
		return said;
	};
	return {
		dataDir,
		base: `http://127.0.0.1:${port}`,
		async start() {
			const started = spawn(
				process.execPath,
				[...(process.env.PROF ? ["--cpu-prof", "--cpu-prof-dir=/tmp/prof"] : []), join(root, main)],
				{
					// backups have a bench of their own
					env: { ALVEK_BACKUP_EVERY: "0", ...process.env, ALVEK_DATA: dataDir, PORT: String(port) },
					stdio: ["ignore", "pipe", "inherit"],
				},
			);
			child = started;
			said = "";
			started.stdout.on("data", (data) => {
				said += String(data);
			});
			started.once("exit", (code) => {
				ended = `the server ended with ${code} before it said what was waited for`;
			});
			ended = null;
			await says("Alvek is at");
		},
		says,
		async kill() {
			await gone("SIGKILL");
		},
		stop: () => gone("SIGTERM"),
		verify() {
			const done = spawnSync(process.execPath, [join(root, "packages/server/dist/keep.js"), "verify"], {
				env: { ...process.env, ALVEK_DATA: dataDir },
				encoding: "utf8",
			});
			return done.status === 0 ? "" : `${done.stdout}${done.stderr}`;
		},
		remove: () => rmSync(dataDir, { recursive: true, force: true }),
	};
}

function freePort(): Promise<number> {
	return new Promise((resolve) => {
		const probe = createServer().listen(0, "127.0.0.1", () => {
			const address = probe.address();
			probe.close(() => resolve(typeof address === "object" && address !== null ? address.port : 0));
		});
	});
}
