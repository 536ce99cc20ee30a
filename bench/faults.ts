import { spawnSync } from "node:child_process";
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { FAULTS } from "./lib/faults.data";

/** Plants each fault of `lib/faults.data.ts` in a copy of the sources and runs the tests that have to notice it. */
const root = resolve(".");
const copy = mkdtempSync(join(tmpdir(), "alvek-faults-"));

/** The sources as they are, with the installed packages of the original and the workspaces of the copy. */
function makeCopy(): void {
	const wanted = [
		"packages",
		"demo",
		"bench",
		"e2e",
		"fixtures",
		"scripts",
		"docs",
		"package.json",
		"vitest.config.ts",
		"tsconfig.base.json",
	];
	const unwanted = /[\\/](node_modules|dist|test-results)$/;
	for (const name of wanted)
		cpSync(join(root, name), join(copy, name), {
			recursive: true,
			filter: (from) => !unwanted.test(from) || /packages.web.dist|demo.dist/.test(from),
		});
	mkdirSync(join(copy, "node_modules/@alvek"), { recursive: true });
	for (const name of readdirSync(join(root, "node_modules"), { withFileTypes: true }))
		if (name.name !== "@alvek" && !name.name.startsWith(".vite"))
			symlinkSync(join(root, "node_modules", name.name), join(copy, "node_modules", name.name));
	for (const name of readdirSync(join(root, "node_modules/@alvek")))
		symlinkSync(join(copy, name === "demo" ? "demo" : `packages/${name}`), join(copy, "node_modules/@alvek", name));
}

/** Whether the tests stay green. */
function green(tests: readonly string[]): boolean {
	const vitest = join(root, "node_modules/vitest/vitest.mjs");
	const args = [vitest, "run", "--project", "core", "--project", "api", "--bail", "1", ...tests];
	return spawnSync(process.execPath, args, { cwd: copy, encoding: "utf8" }).status === 0;
}

makeCopy();
const lived: string[] = [];
try {
	const began = performance.now();
	for (const { what, file, from, to, tests } of FAULTS) {
		const path = join(copy, file);
		const text = readFileSync(path, "utf8");
		if (text.split(from).length !== 2) throw new Error(`${file}: what "${what}" changes does not stand there once`);
		writeFileSync(
			path,
			text.replace(from, () => to),
		);
		if (green(tests)) lived.push(what);
		writeFileSync(path, text);
	}
	const tests = [...new Set(FAULTS.flatMap((f) => f.tests))];
	// a fault only counts as noticed when the same tests are green without it
	const clean = green(tests);
	const minutes = Number(((performance.now() - began) / 60_000).toFixed(1));
	console.log(JSON.stringify({ bench: "faults", planted: FAULTS.length, lived: lived.length, clean, minutes }));
	for (const what of lived) console.error(`lived: ${what}`);
	process.exitCode = lived.length === 0 && clean ? 0 : 1;
} finally {
	rmSync(copy, { recursive: true, force: true });
}
