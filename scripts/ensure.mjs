// Makes a fresh machine ready: Node built-ins only, because nothing is installed yet.
// Checks Node and npm, installs what the lockfile says, compiles SQLite once and keeps it for later checkouts.
import { execFileSync, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { copyFileSync, existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { homedir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const stamp = join(root, "node_modules/.alvek-stamp");

/** @param {string} text */
function stop(text) {
	console.error(text);
	process.exit(1);
}

/** Runs a command with its output shown; stops when it fails. */
export function run(command, args, options = {}) {
	const result = spawnSync(command, args, { cwd: root, stdio: "inherit", ...options });
	if (result.status !== 0) process.exit(result.status ?? 1);
}

function checkNode() {
	const [major = 0, minor = 0] = process.versions.node.split(".").map(Number);
	if (major < 20 || (major === 20 && minor < 19)) stop(`Alvek needs Node 20.19 or newer; this is ${process.versions.node}.`);
	try {
		execFileSync("npm", ["--version"], { stdio: "ignore" });
	} catch {
		stop("npm is missing; it comes with Node.");
	}
}

/** Where node-gyp finds the headers that came with Node, so that compiling needs no download. */
function environment() {
	const prefix = dirname(dirname(process.execPath));
	const hasHeaders = existsSync(join(prefix, "include/node/node.h"));
	return hasHeaders ? { ...process.env, npm_config_nodedir: prefix } : process.env;
}

function lockHash() {
	return createHash("sha256")
		.update(readFileSync(join(root, "package-lock.json")))
		.digest("hex");
}

/** The compiled module by version, machine and C library; another libc could not load it. */
function cachedSqlite() {
	const { version } = JSON.parse(readFileSync(join(root, "node_modules/sqlite3/package.json"), "utf8"));
	const libc = process.report?.getReport?.().header?.glibcVersionRuntime ?? "other";
	const key = `${version}-node${process.versions.modules}-${process.platform}-${process.arch}-${libc}`;
	return join(homedir(), ".cache/alvek", key, "node_sqlite3.node");
}

function provideSqlite() {
	const built = join(root, "node_modules/sqlite3/build/Release/node_sqlite3.node");
	const cached = cachedSqlite();
	if (!existsSync(built) && existsSync(cached)) {
		mkdirSync(dirname(built), { recursive: true });
		copyFileSync(cached, built);
	}
	if (!existsSync(built)) {
		console.log("Compiling SQLite. This happens once and takes about 3 minutes.");
		run("npm", ["rebuild", "sqlite3", "--foreground-scripts=false"], { env: environment() });
	}
	if (!existsSync(built)) stop("SQLite could not be compiled. A C++ toolchain (g++, make, python3) is needed.");
	if (!existsSync(cached)) {
		mkdirSync(dirname(cached), { recursive: true });
		copyFileSync(built, cached);
	}
}

export function ensure() {
	checkNode();
	const wanted = lockHash();
	if (existsSync(stamp) && readFileSync(stamp, "utf8") === wanted) return;
	console.log("Installing what is missing ...");
	// scripts are left out so that SQLite is compiled once at most, below, and not again when it is in the cache
	run("npm", ["ci", "--include=dev", "--ignore-scripts", "--no-audit", "--no-fund"], { env: environment() });
	provideSqlite();
	writeFileSync(stamp, wanted);
}

/** Debian's Chromium for the browser tests; installed when it is absent and we may. */
export function ensureChromium() {
	if (existsSync("/usr/bin/chromium")) return;
	if (process.getuid?.() !== 0) stop("The browser tests need /usr/bin/chromium: apt-get install chromium");
	console.log("Installing Chromium for the browser tests ...");
	run("apt-get", ["update", "-qq"]);
	run("apt-get", ["install", "-y", "-qq", "--no-install-recommends", "chromium"], {
		env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
	});
}

if (process.argv[1] === fileURLToPath(import.meta.url)) ensure();
