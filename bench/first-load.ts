import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";

/** JavaScript that /materials loads first: the entry, the place, and everything they import statically. */
type Chunk = { file: string; imports?: string[]; dynamicImports?: string[]; css?: string[] };
const dist = "packages/web/dist";
const manifest = JSON.parse(readFileSync(`${dist}/.vite/manifest.json`, "utf8")) as Record<string, Chunk>;

const needed = new Set<string>();
const visit = (key: string): void => {
	if (needed.has(key)) return;
	needed.add(key);
	for (const next of manifest[key]?.imports ?? []) visit(next);
};
visit("index.html");
visit("src/places/materials/MaterialsPlace.tsx");

const files = [...needed].map((key) => (manifest[key] as Chunk).file);
const sizes = files.map((file) => ({ file, gzip: gzipSync(readFileSync(`${dist}/${file}`), { level: 9 }).length }));
const all = Object.values(manifest)
	.map((c) => c.file)
	.filter((f) => f.endsWith(".js"));
console.log(
	JSON.stringify({
		bench: "first-load",
		place: "/materials",
		javascript_gzip_kb: Number((sizes.reduce((s, f) => s + f.gzip, 0) / 1000).toFixed(1)),
		goal: "< 250",
		files: sizes,
		loaded_only_where_used: all.filter((f) => !files.includes(f)),
	}),
);
