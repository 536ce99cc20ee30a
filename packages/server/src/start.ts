import { fileURLToPath } from "node:url";
import { describeIssue } from "@alvek/core/result";
import { backupsIn, hasData, keepBackups } from "./backup";
import { faultOf, reportToConsole } from "./db";
import { newContext } from "./http/app";
import { setupLink } from "./people";
import { builtWorkers } from "./runtime";
import { type Installation, listen, openInstallation } from "./server";

/**
 * Opens the installation and serves it until Ctrl+C. Settings come from the environment: `ALVEK_DATA`, `PORT`, `HOST`,
 * `ALVEK_HOSTS`, `ALVEK_PROXY` (1: behind a proxy that ends TLS).
 * @param root the checkout, with a slash at its end
 * @param prepare run before the first request: the demo fills its data here
 * @param demo its made-up people sign in with one click
 */
export async function start(root: URL, prepare: (installation: Installation) => Promise<void>, demo = false): Promise<void> {
	const dataDir = process.env.ALVEK_DATA ?? fileURLToPath(new URL("data", root));
	const port = Number(process.env.PORT ?? 4310);
	const host = process.env.HOST ?? "127.0.0.1";

	const backups = demo ? null : scheduled(dataDir);
	let installation: Installation;
	const began = performance.now();
	try {
		installation = await openInstallation({
			dataDir,
			workers: builtWorkers(root),
			version: VERSION,
			demo,
			...(backups === null ? {} : { backups: backups.state }),
		});
	} catch (cause) {
		await backups?.stop();
		return giveUp(cause);
	}

	const seconds = (): string => `${((performance.now() - began) / 1000).toFixed(2)} s`;
	if (!demo) console.log(`Data opened in ${seconds()}`);
	// what cannot be read is not served in part
	installation.ready.then(() => demo || console.log(`Index of materials ready after ${seconds()}`), giveUp);
	try {
		await prepare(installation);
		const { port: bound, stop } = await listen(installation, {
			port,
			host,
			webRoot: fileURLToPath(new URL("packages/web/dist", root)),
			behindProxy: process.env.ALVEK_PROXY === "1",
			hostNames: (process.env.ALVEK_HOSTS ?? "").split(",").filter((h) => h !== ""),
			log: demo ? "warn" : "info",
		});
		const address = `http://${host === "127.0.0.1" || host === "0.0.0.0" ? "localhost" : host}:${bound}`;
		const setup = demo ? null : await setupLink(newContext(installation.db));
		if (setup !== null) console.log(`Nobody can sign in yet. This link makes the administrator, once: ${address}${setup}`);
		console.log(`Alvek is at ${address}   (Ctrl+C stops it; data in ${dataDir})`);
		let stopping = false;
		const end = async (code: number): Promise<void> => {
			if (stopping) return;
			stopping = true;
			console.log("Stopping: what was begun is finished first.");
			await stop();
			await backups?.stop();
			await installation.close();
			process.exit(code);
		};
		process.on("SIGINT", () => end(0));
		process.on("SIGTERM", () => end(0));
		// a bug that nobody caught: the process is in a state that nobody thought of, so it ends, in order, and is started anew
		for (const kind of ["uncaughtException", "unhandledRejection"] as const)
			process.on(kind, (cause: unknown) => {
				reportToConsole(
					kind === "uncaughtException" ? "a failure that nobody caught" : "a failure that nobody waited for",
					cause,
				);
				// whatever hangs is not waited for
				setTimeout(() => process.exit(1), GIVEN_UP_MS).unref();
				void end(1);
			});
	} catch (cause) {
		await backups?.stop();
		await installation.close();
		if ((cause as { code?: string }).code !== "EADDRINUSE") return giveUp(cause);
		console.error(`Port ${port} is busy. Stop what uses it, or choose another: PORT=4311 npm run demo`);
		process.exit(1);
	}
}

/** How long a process that failed may take to end in order. */
const GIVEN_UP_MS = 15_000;

const VERSION = "0.1.0";

/** What stands in the way in a sentence where it is known; a bug keeps its stack. */
function giveUp(cause: unknown): never {
	const fault = faultOf(cause);
	console.error(fault === null ? cause : describeIssue(fault));
	process.exit(1);
}

/**
 * Backups by themselves: `ALVEK_BACKUP_EVERY` hours (24; 0: none) into `ALVEK_BACKUP_DIR` (`backups` in the data folder),
 * of which `ALVEK_BACKUP_KEEP` days, weeks and months stay (7,4,6).
 */
function scheduled(dataDir: string): ReturnType<typeof keepBackups> | null {
	const every_h = Number(process.env.ALVEK_BACKUP_EVERY ?? 24);
	if (!(every_h > 0)) return null;
	const [days = 7, weeks = 4, months = 6] = (process.env.ALVEK_BACKUP_KEEP ?? "").split(",").filter(Boolean).map(Number);
	const command = fileURLToPath(new URL("keep.js", import.meta.url));
	return keepBackups({
		folder: process.env.ALVEK_BACKUP_DIR ?? backupsIn(dataDir),
		every_h,
		keep: { days, weeks, months },
		command: (file) => [process.execPath, command, "backup", file],
		ready: () => hasData(dataDir),
		failed: (why) => console.error(`The scheduled backup failed: ${why}`),
	});
}
