// The rules of the house that no linter knows: folders without rings, faces, SQL in its place, files of one subject.
// `node scripts/house.mjs [ROOT]` prints what breaks them and ends with 1.
import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { dirname, join, relative, sep } from "node:path";
import { fileURLToPath } from "node:url";

const LONGEST = 400;
/** Where SQL may be written. */
const SQL_FOLDERS = ["packages/server/src/db/", "packages/server/src/repo/"];
const SQL =
	/[`"']\s*(?:SELECT\s[\s\S]*?\sFROM\s|INSERT INTO\s|UPDATE\s+\w+\s+SET\s|DELETE FROM\s|WITH RECURSIVE\s|CREATE (?:TABLE|INDEX|TRIGGER))/;
/** Packages whose folders may not stand on one another in a ring; the folder is the first one under this path. */
const LAYERED = ["packages/core/src", "packages/server/src", "packages/web/src"];

/** All source files under a folder, with slashes, tests among them. */
function filesUnder(root, folder) {
	const path = join(root, folder);
	if (!existsSync(path)) return [];
	return readdirSync(path).flatMap((name) => {
		const file = join(path, name);
		const at = relative(root, file).split(sep).join("/");
		if (statSync(file).isDirectory()) return name === "node_modules" || name === "dist" ? [] : filesUnder(root, at);
		return /\.(ts|tsx)$/.test(name) ? [at] : [];
	});
}

/** A length of one place alone; the theme has the steps that distances, sizes and letters go by. */
const PIXELS = /-\[-?[\d.]+px\]/;

/** A type that is forced on a value, whatever it was. */
const FORCED = /\bas (?:never\b|unknown as\b)/;

/** Lines that force a type and do not say why, on the line itself or right above it. */
function forcedTypes(text) {
	const lines = text.split("\n");
	return lines.flatMap((line, i) => {
		const said = /\/\/|\*\//.test(line) || /^\s*\/\/|\*\/\s*$/.test(lines[i - 1] ?? "");
		return FORCED.test(line) && !said ? [i + 1] : [];
	});
}

const isTest = (file) => /\.test\.tsx?$|\/testing\.ts$/.test(file);

/** What a file imports from its own package, as paths from the root. */
function importsOf(root, file) {
	const text = readFileSync(join(root, file), "utf8");
	const found = [...text.matchAll(/(?:from|import)\s*\(?\s*"(\.{1,2}\/[^"]+)"/g)].map((m) => m[1]);
	return found.flatMap((at) => {
		const base = join(root, dirname(file), at);
		const target = [`${base}.ts`, `${base}.tsx`, join(base, "index.ts"), base].find((p) => existsSync(p) && statSync(p).isFile());
		return target === undefined ? [] : [{ target: relative(root, target).split(sep).join("/"), written: at }];
	});
}

/** The room of a file: its folder under the package's source; in `places/` each place is one. */
function roomOf(file, source) {
	const parts = file.slice(source.length + 1).split("/");
	if (parts.length === 1) return "";
	return parts[0] === "places" && parts.length > 2 ? `places/${parts[1]}` : parts[0];
}

/** Rings of rooms: lists of rooms each of which leads to the next, and the last to the first. */
function rings(edges) {
	const found = [];
	const state = new Map();
	const path = [];
	const visit = (room) => {
		state.set(room, "open");
		path.push(room);
		for (const next of edges.get(room) ?? []) {
			if (state.get(next) === "open") found.push([...path.slice(path.indexOf(next)), next]);
			else if (!state.has(next)) visit(next);
		}
		path.pop();
		state.set(room, "done");
	};
	for (const room of edges.keys()) if (!state.has(room)) visit(room);
	return found;
}

/** What breaks the rules, one line each. */
export function broken(root) {
	const lines = [];
	for (const source of LAYERED) {
		const edges = new Map();
		const why = new Map();
		for (const file of filesUnder(root, source).filter((f) => !isTest(f))) {
			const from = roomOf(file, source);
			for (const { target, written } of importsOf(root, file)) {
				const to = roomOf(target, source);
				if (from === to || from === "" || to === "") continue;
				edges.set(from, (edges.get(from) ?? new Set()).add(to));
				why.set(`${from} ${to}`, file);
				if (to.startsWith("places/") && from.startsWith("places/")) lines.push(`${file}: a place imports another place (${to})`);
				// a folder with a face is entered by it
				const face = join(root, source, to, "index.ts");
				if (existsSync(face) && !target.endsWith(`${to}/index.ts`))
					lines.push(`${file}: reaches past the face of ${to} (${written})`);
			}
		}
		for (const ring of rings(edges)) {
			const steps = ring.slice(1).map((room, i) => `${ring[i]} -> ${room} (${why.get(`${ring[i]} ${room}`)})`);
			lines.push(`${source}: folders stand on one another in a ring: ${steps.join(", ")}`);
		}
	}
	for (const file of ["core", "contract", "formats", "standins", "kernel", "server", "web", "cli"].flatMap((p) =>
		["src", "test"].flatMap((d) => filesUnder(root, `packages/${p}/${d}`)),
	)) {
		const text = readFileSync(join(root, file), "utf8");
		const length = text.split("\n").length - 1;
		if (length > LONGEST && !file.endsWith(".data.ts")) lines.push(`${file}: ${length} lines, of ${LONGEST} at most`);
		const inServer = file.startsWith("packages/server/src/") && !isTest(file);
		if (file.includes("/src/") && !isTest(file))
			for (const line of forcedTypes(text)) lines.push(`${file}:${line}: a type is forced and no comment says why`);
		if (file.startsWith("packages/web/src/") && PIXELS.test(text)) lines.push(`${file}: pixels instead of a step of the theme`);
		if (inServer && !SQL_FOLDERS.some((f) => file.startsWith(f)) && SQL.test(text))
			lines.push(`${file}: SQL outside db/ and repo/`);
	}
	return lines;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
	const lines = broken(process.argv[2] ?? join(dirname(fileURLToPath(import.meta.url)), ".."));
	for (const line of lines) console.error(line);
	process.exit(lines.length === 0 ? 0 : 1);
}
