// npm run check: types, lint with formatting and boundaries, dead code. Stops at the first that fails.
import { join } from "node:path";
import { ensure, root, run } from "./ensure.mjs";

ensure();
const bin = (name) => join(root, "node_modules/.bin", name);
const steps = [
	["types", "tsc", ["-b"]],
	["lint, formatting, boundaries", "biome", ["check", "--error-on-warnings", "."]],
	["dead code", "knip", []],
];

for (const [name, command, args] of steps) {
	console.log(`· ${name}`);
	run(bin(command), args);
}
console.log("· the house: folders, faces, SQL, sizes");
run(process.execPath, [join(root, "scripts/house.mjs")]);
