// Builds what runs: server, kernel worker and command line for Node, the interface for browsers.
// `--node` leaves the interface out (the command line works right after an install).
import { existsSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const nodeOnly = process.argv.includes("--node") || process.env.npm_lifecycle_event === "prepare";

if (!existsSync(join(root, "node_modules/vite"))) {
	// `npm ci --omit=dev` also runs prepare; there is nothing to build with
	process.exit(0);
}
const { build } = await import("vite");

const entries = {
	kernel: { worker: "src/worker.ts" },
	cli: { alvek: "src/alvek.ts" },
	server: { main: "src/main.ts", keep: "src/keep.ts", exchange: "src/exchange/worker.ts" },
	standins: { main: "src/main.ts" },
	demo: { winch: "src/winch.ts", main: "src/main.ts" },
};

for (const [name, input] of Object.entries(entries)) {
	const dir = name === "demo" ? join(root, "demo") : join(root, "packages", name);
	const missing = Object.values(input).find((file) => !existsSync(join(dir, file)));
	if (missing !== undefined) throw new Error(`${name}/${missing} is missing`);
	await build({
		root: dir,
		configFile: false,
		logLevel: "warn",
		// our own packages are bundled from source, everything from the registry stays outside; another version of lru-cache
		// lies where the demo would find it
		ssr: { noExternal: [/^@alvek\//, "lru-cache"] },
		build: {
			ssr: true,
			outDir: "dist",
			emptyOutDir: true,
			target: "node20",
			rollupOptions: { input: Object.fromEntries(Object.entries(input).map(([k, v]) => [k, join(dir, v)])) },
		},
	});
}
if (!nodeOnly) {
	const { cutSigns } = await import("./cut-signs.mjs");
	await cutSigns();
	await build({ root: join(root, "packages/web"), logLevel: "warn" });
}
