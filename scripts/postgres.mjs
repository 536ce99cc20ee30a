// A PostgreSQL of its own in a temporary folder, where Debian's `postgresql` is installed.
//   npm run test:postgres      installs it when it is missing and this is root, then runs the tests of both engines
import { execFileSync } from "node:child_process";
import { chmodSync, chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

const DEBIAN = "/usr/lib/postgresql";

/** Where initdb and pg_ctl lie, the newest version; null: not installed. */
export function programs() {
	if (!existsSync(DEBIAN)) return null;
	const [newest] = readdirSync(DEBIAN)
		.filter((v) => existsSync(join(DEBIAN, v, "bin/initdb")))
		.sort((a, b) => Number(b) - Number(a));
	return newest === undefined ? null : join(DEBIAN, newest, "bin");
}

/** As the user `postgres` where this is root, whom PostgreSQL refuses to run as. */
function run(program, args) {
	const asRoot = process.getuid?.() === 0;
	const [command, all] = asRoot
		? ["su", ["postgres", "-s", "/bin/sh", "-c", [program, ...args].map(quoted).join(" ")]]
		: [program, args];
	execFileSync(command, all, { stdio: ["ignore", "ignore", "pipe"], cwd: tmpdir() });
}

const quoted = (text) => `'${text.replaceAll("'", "'\\''")}'`;

function freePort() {
	return new Promise((resolve, reject) => {
		const server = createServer();
		server.once("error", reject);
		server.listen(0, "127.0.0.1", () => {
			const { port } = server.address();
			server.close(() => resolve(port));
		});
	});
}

/**
 * Starts one; null where it is not installed. What is in it goes with `stop`, so it is told not to wait for the disk.
 * @returns {Promise<{ url: string, stop: () => void } | null>} the address of an empty database
 */
export async function startPostgres() {
	const bin = programs();
	if (bin === null) return null;
	const folder = mkdtempSync(join(tmpdir(), "alvek-postgres-"));
	if (process.getuid?.() === 0) {
		const id = (flag) => Number(execFileSync("id", [flag, "postgres"], { encoding: "utf8" }));
		chownSync(folder, id("-u"), id("-g"));
	}
	chmodSync(folder, 0o700);
	const data = join(folder, "data");
	const port = await freePort();
	try {
		run(join(bin, "initdb"), ["-D", data, "-U", "alvek", "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8", "--no-sync"]);
		const settings = `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c fsync=off -c synchronous_commit=off`;
		run(join(bin, "pg_ctl"), ["-D", data, "-w", "-l", join(folder, "log"), "-o", settings, "start"]);
	} catch (cause) {
		rmSync(folder, { recursive: true, force: true });
		throw new Error(`PostgreSQL did not start: ${cause.stderr ?? cause}`, { cause });
	}
	return {
		url: `postgres://alvek@127.0.0.1:${port}/postgres`,
		stop() {
			run(join(bin, "pg_ctl"), ["-D", data, "-m", "immediate", "stop"]);
			rmSync(folder, { recursive: true, force: true });
		},
	};
}

if (process.argv[1]?.endsWith("postgres.mjs")) {
	if (programs() === null) {
		if (process.getuid?.() !== 0) {
			console.error("PostgreSQL is not installed. As root: apt-get install postgresql");
			process.exit(1);
		}
		execFileSync("apt-get", ["install", "-y", "--no-install-recommends", "postgresql"], { stdio: "inherit" });
	}
	const vitest = join(process.cwd(), "node_modules/vitest/vitest.mjs");
	// what every repository answers on both engines, then the whole server on this one
	for (const args of [
		["--project", "api", "packages/server/test/repo"],
		["--project", "postgres"],
	])
		execFileSync(process.execPath, [vitest, "run", ...args], { stdio: "inherit" });
}
