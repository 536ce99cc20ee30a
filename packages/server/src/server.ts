import { mkdir } from "node:fs/promises";
import { createServer, type Server } from "node:http";
import { join } from "node:path";
import { createKernel, type Kernel } from "@alvek/kernel";
import { pino } from "pino";
import { openBlobs } from "./db/blobs";
import { type Db, openDatabase } from "./db/connection";
import { migrate } from "./db/migrations";
import { createApp } from "./http/app";
import { createJobs } from "./jobs/service";
import { tableFinding } from "./materials/finding";
import { createServices, type Services } from "./services";

export type Installation = {
	readonly db: Db;
	readonly services: Services;
	readonly kernel: Kernel;
	readonly idle: () => Promise<void>;
	/** Reads the index of materials anew after a whole library was taken in. */
	readonly reload: () => Promise<void>;
	close(): Promise<void>;
};

export type InstallationOptions = {
	readonly dataDir: string;
	readonly kernelWorker: URL;
	readonly version: string;
	readonly demo?: boolean;
};

/** Database, blobs, kernel and services of one data folder; the demo seed and the server both stand on it. */
export async function openInstallation(options: InstallationOptions): Promise<Installation> {
	await mkdir(options.dataDir, { recursive: true });
	const db = await openDatabase(join(options.dataDir, "alvek.sqlite"));
	await migrate(db);
	const blobs = await openBlobs(join(options.dataDir, "blobs"));
	const kernel = createKernel({ workerUrl: options.kernelWorker });
	const jobs = createJobs(db, blobs, kernel);
	await jobs.interruptLeftovers();
	await blobs.sweep(new Set((await db.all<{ hash: string }>("SELECT hash FROM blob")).map((b) => b.hash)));
	const finding = tableFinding(db);
	await finding.load();
	const services = createServices({ finding, blobs, jobs, version: options.version, demo: options.demo === true });
	return {
		db,
		services,
		kernel,
		idle: jobs.idle,
		reload: () => finding.load(),
		async close() {
			await kernel.close();
			await jobs.idle();
			await db.close();
		},
	};
}

export type ListenOptions = {
	readonly port: number;
	readonly host: string;
	readonly webRoot: string | null;
	readonly hostNames: readonly string[];
	readonly behindProxy?: boolean;
	readonly quiet?: boolean;
};

/** Starts listening; resolves with the server and its address, rejects with `EADDRINUSE` when the port is busy. */
export function listen(installation: Installation, options: ListenOptions): Promise<{ server: Server; port: number }> {
	const log = pino({ level: options.quiet ? "silent" : "warn" });
	const app = createApp({
		db: installation.db,
		services: installation.services,
		log,
		webRoot: options.webRoot,
		hostNames: options.hostNames,
		behindProxy: options.behindProxy === true,
	});
	const server = createServer(app);
	return new Promise((resolve, reject) => {
		server.once("error", reject);
		server.listen(options.port, options.host, () => {
			server.off("error", reject);
			const address = server.address();
			resolve({ server, port: typeof address === "object" && address !== null ? address.port : options.port });
		});
	});
}
