// npm run bench [name ...]: each bench prints JSON lines, its comparison in the same run.
import { readdirSync } from "node:fs";
import { join } from "node:path";
import { ensure, root, run } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";

ensure();
buildIfNeeded();
const { build } = await import("vite");
const all = readdirSync(join(root, "bench"))
	.filter((f) => f.endsWith(".ts"))
	.map((f) => f.slice(0, -3));
const wanted = process.argv.slice(2).filter((a) => !a.startsWith("-"));
const names = wanted.length > 0 ? all.filter((n) => wanted.includes(n)) : all;
await build({
	root,
	configFile: false,
	logLevel: "warn",
	ssr: { noExternal: [/^@alvek\//, "lru-cache"] },
	build: {
		ssr: true,
		outDir: "bench/dist",
		emptyOutDir: true,
		target: "node20",
		rollupOptions: { input: Object.fromEntries(names.map((n) => [n, join(root, "bench", `${n}.ts`)])) },
	},
});
for (const name of names) run(process.execPath, [join(root, "bench/dist", `${name}.js`)]);
