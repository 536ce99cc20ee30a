// npm run dev: the server on 4310 with the demo data, the interface with live reload on 4311.
import { spawn } from "node:child_process";
import { join } from "node:path";
import { ensure, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";

ensure();
buildIfNeeded();
const children = [
	spawn(process.execPath, [join(root, "demo/dist/main.js")], { cwd: root, stdio: "inherit" }),
	spawn(join(root, "node_modules/.bin/vite"), ["packages/web"], { cwd: root, stdio: "inherit" }),
];
for (const child of children) {
	child.on("exit", () => {
		for (const other of children) other.kill();
	});
}
