import { mkdir } from "node:fs/promises";
import { createServer, type Server } from "node:http";
import { join } from "node:path";
import { createKernel, type Kernel } from "@alvek/kernel";
import { pino } from "pino";
import { type BackupState, refuseUnfinished } from "./backup";
import { type DataFolderLock, type Db, Fault, faultOf, holdFolder, migrate, openDatabase, type Report } from "./db";
import { type Health, healthOf } from "./health";
import { createApp } from "./http/app";
import { createHub, type Hub } from "./live";
import { MaterialIndex, materialQueries, snapshotIn } from "./material-index";
import { createImports } from "./parts";
import { createJobs, createWorkers, daily, openBlobs, removeUnusedFiles, type WorkerFiles } from "./runtime";
import { createServices, type Services } from "./services";

export type Installation = {
	readonly db: Db;
	readonly services: Services;
	readonly kernel: Kernel;
	readonly hub: Hub;
	readonly health: () => Promise<Health>;
	readonly idle: () => Promise<void>;
	/** The index of materials stands; looking for materials waits for it, all else goes on. */
	readonly ready: Promise<void>;
	/** Reads the index of materials anew after a whole library was taken in. */
	readonly reload: () => Promise<void>;
	close(): Promise<void>;
};

export type InstallationOptions = {
	readonly dataDir: string;
	/** Where the data are kept, when not in a file of SQLite in the folder: `postgres://...` */
	readonly database?: string;
	readonly workers: WorkerFiles;
	readonly version: string;
	readonly demo?: boolean;
	/** How scheduled backups are doing, where there are any. */
	readonly backups?: BackupState;
	/** Where failures go that no reply can tell. */
	readonly report?: Report;
};

/** Database, blobs, kernel and services of one data folder; the demo seed and the server both stand on it. */
export async function openInstallation(options: InstallationOptions): Promise<Installation> {
	const { dataDir } = options;
	try {
		await mkdir(dataDir, { recursive: true });
	} catch (cause) {
		throw inFolder(cause, dataDir);
	}
	await refuseUnfinished(dataDir);
	const hold = await holdFolder(dataDir);
	let db: Db | null = null;
	try {
		db = await openDatabase(options.database ?? join(dataDir, "alvek.sqlite"), options.report);
		return await openOn(db, hold, options);
	} catch (cause) {
		await db?.close();
		await hold.release();
		throw inFolder(cause, dataDir);
	}
}

/** The failure with the folder named that it is about. */
function inFolder(cause: unknown, dataDir: string): unknown {
	const issue = faultOf(cause);
	return issue === null || issue.path !== undefined ? cause : new Fault({ ...issue, path: dataDir });
}

/** The index is kept for the next start every so often, when more than so many materials changed. */
const KEEP_INDEX_MS = 30 * 60_000;
const KEPT_AFTER = 200;

async function openOn(db: Db, hold: DataFolderLock, options: InstallationOptions): Promise<Installation> {
	const { dataDir, version, backups } = options;
	await migrate(db);
	const blobs = await openBlobs(join(dataDir, "blobs"));
	const kernel = createKernel({ workerUrl: options.workers.kernel });
	const workers = createWorkers(options.workers);
	const { report } = options;
	const jobs = createJobs(db, report);
	await jobs.interruptLeftovers(new Date().toISOString());
	const imports = createImports({ blobs, kernel, workers, jobs, ...(report === undefined ? {} : { report }) });
	const tidying = daily(
		"files that nothing needs could not be removed",
		() => removeUnusedFiles(db, blobs, new Date().toISOString()),
		{ report },
	);
	const index = new MaterialIndex(db, snapshotIn(db, join(dataDir, "index.table")), report);
	const ready = index.start();
	const keepIndex = async (changes: number): Promise<void> => {
		if (db.state.damaged) return;
		await index.keep(changes).catch((cause) => {
			// without it the next start only takes longer; damage is told by whoever meets it
			if (!db.state.damaged) process.emitWarning(`The index of materials could not be kept: ${String(cause)}`);
		});
	};
	const closing = new AbortController();
	const keeping = setInterval(() => keepIndex(KEPT_AFTER), KEEP_INDEX_MS).unref();
	ready
		.then(() => keepIndex(KEPT_AFTER))
		.then(() => index.warm(closing.signal))
		// told to whoever waits for it
		.catch(() => undefined);
	const health = (): Promise<Health> =>
		healthOf({ db, dataDir, version, ...(backups === undefined ? {} : { backups }) }, Date.now());
	const queries = materialQueries(db, index);
	const services = createServices({ queries, blobs, workers, jobs, imports, version, demo: options.demo === true, health });
	const hub = createHub(db);
	jobs.onChange((person, job) => hub.tell(person, { type: "job", id: job.id, data: job }));
	return {
		db,
		services,
		kernel,
		hub,
		health,
		idle: jobs.idle,
		ready,
		reload: () => index.load(),
		async close() {
			clearInterval(keeping);
			await tidying.stop();
			closing.abort();
			await kernel.close();
			await workers.close();
			await jobs.idle();
			await hub.close();
			await keepIndex(0);
			await index.close();
			await db.close();
			await hold.release();
		},
	};
}

export type ListenOptions = {
	readonly port: number;
	readonly host: string;
	readonly webRoot: string | null;
	readonly hostNames: readonly string[];
	readonly behindProxy?: boolean;
	readonly fairShare?: number;
	/** What is written on the console: nothing, failures, or a line for every request (JSON). */
	readonly log?: "silent" | "warn" | "info";
};

/** Starts listening; resolves with the server and its address, rejects with `EADDRINUSE` when the port is busy. */
export function listen(
	installation: Installation,
	options: ListenOptions,
): Promise<{ server: Server; port: number; stop: () => Promise<void> }> {
	const log = pino({ level: options.log ?? "warn" });
	const app = createApp({
		db: installation.db,
		services: installation.services,
		hub: installation.hub,
		health: installation.health,
		log,
		webRoot: options.webRoot,
		hostNames: options.hostNames,
		behindProxy: options.behindProxy === true,
		...(options.fairShare === undefined ? {} : { fairShare: options.fairShare }),
	});
	const server = createServer(app);
	return new Promise((resolve, reject) => {
		server.once("error", reject);
		server.listen(options.port, options.host, () => {
			server.off("error", reject);
			const address = server.address();
			const port = typeof address === "object" && address !== null ? address.port : options.port;
			resolve({ server, port, stop: () => drain(server) });
		});
	});
}

const DRAIN_MS = 10_000;

/** Takes nothing new, lets what was begun be answered, and ends the streams; after ten seconds whatever still hangs is cut. */
async function drain(server: Server): Promise<void> {
	const closed = new Promise<void>((resolve) => server.close(() => resolve()));
	server.emit("draining");
	// a connection falls idle once its last answer is out
	const idle = setInterval(() => server.closeIdleConnections(), 50);
	const cut = setTimeout(() => server.closeAllConnections(), DRAIN_MS);
	await closed;
	clearInterval(idle);
	clearTimeout(cut);
}
