// Builds only when a source is newer than the last build: a second start takes seconds.
import { existsSync, readdirSync, statSync, utimesSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { root, run } from "./ensure.mjs";

const mark = join(root, "node_modules/.alvek-built");

function newest(path) {
	if (!existsSync(path)) return 0;
	const stat = statSync(path);
	if (!stat.isDirectory()) return stat.mtimeMs;
	const names = readdirSync(path).filter((n) => n !== "node_modules" && n !== "dist" && n !== ".types" && n !== "fonts");
	return Math.max(0, ...names.map((n) => newest(join(path, n))));
}

export function buildIfNeeded() {
	const sources = ["packages", "demo/src", "scripts/build.mjs", "package-lock.json"].map((p) => newest(join(root, p)));
	const built =
		existsSync(mark) &&
		["demo/dist/main.js", "packages/server/dist/keep.js", "packages/web/dist/index.html"].every((f) => existsSync(join(root, f)));
	if (built && statSync(mark).mtimeMs >= Math.max(...sources)) return;
	console.log("Building ...");
	const started = new Date();
	run(process.execPath, [join(root, "scripts/build.mjs")]);
	writeFileSync(mark, "");
	utimesSync(mark, started, started);
}
