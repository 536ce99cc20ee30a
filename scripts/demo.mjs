// npm run demo [-- --reset]: installs, builds, fills the demo data the first time, serves.
import { existsSync, rmSync } from "node:fs";
import { join } from "node:path";
import { ensure, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";

ensure();
buildIfNeeded();
const data = process.env.ALVEK_DATA ?? join(root, "data");
if (process.argv.includes("--reset")) {
	if (existsSync(data) && !existsSync(join(data, "alvek.sqlite"))) {
		console.error(`${data} does not look like Alvek's data folder, so it is left alone.`);
		process.exit(1);
	}
	rmSync(data, { recursive: true, force: true });
}
process.env.ALVEK_DATA = data;
// in this process, so that Ctrl+C reaches the server itself
await import("../demo/dist/main.js");
