import { spawnSync } from "node:child_process";
import {
	cpSync,
	existsSync,
	mkdirSync,
	mkdtempSync,
	readdirSync,
	readFileSync,
	rmSync,
	symlinkSync,
	writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { FAULTS } from "./lib/faults.data";

/** Plants each fault of `lib/faults.data.ts` in a copy of the sources and runs the tests that have to notice it. */
const root = resolve(".");
const copy = mkdtempSync(join(tmpdir(), "alvek-faults-"));

/** The sources as they are, with the installed packages of the original and the workspaces of the copy. */
function makeCopy(): void {
	for (const name of [
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
	])
		cpSync(join(root, name), join(copy, name), {
			recursive: true,
			filter: (from) => !/[\\/](node_modules|\.types|test-results)$/.test(from),
		});
	for (const folder of ["", ...readdirSync(join(root, "packages")).map((p) => `packages/${p}`)]) linkPackages(folder);
	for (const name of readdirSync(join(root, "node_modules/@alvek")))
		symlinkSync(join(copy, name === "demo" ? "demo" : `packages/${name}`), join(copy, "node_modules/@alvek", name));
}

/** Installed packages of the original; our own are those of the copy. */
function linkPackages(folder: string): void {
	const [from, to] = [join(root, folder, "node_modules"), join(copy, folder, "node_modules")];
	if (!existsSync(from)) return;
	mkdirSync(join(to, "@alvek"), { recursive: true });
	for (const name of readdirSync(from))
		if (name !== "@alvek" && !name.startsWith(".vite")) symlinkSync(join(from, name), join(to, name));
}

/** Whether the tests stay green, and what they said. */
function run(tests: readonly string[]): { readonly green: boolean; readonly said: string } {
	const vitest = join(root, "node_modules/vitest/vitest.mjs");
	const args = [vitest, "run", "--project", "core", "--project", "api", "--bail", "1", ...tests];
	const { status, stdout, stderr } = spawnSync(process.execPath, args, {
		cwd: copy,
		encoding: "utf8",
		env: { ...process.env, NODE_ENV: "test" },
	});
	return { green: status === 0, said: stdout + stderr };
}

makeCopy();
const lived: string[] = [];
try {
	const began = performance.now();
	// a fault only counts as noticed when the same tests are green without it
	const clean = run([...new Set(FAULTS.flatMap((f) => f.tests))]);
	if (!clean.green) throw new Error(`the tests are not green without a fault:\n${clean.said.slice(-4000)}`);
	for (const { what, file, from, to, tests } of FAULTS) {
		const path = join(copy, file);
		const text = readFileSync(path, "utf8");
		if (text.split(from).length !== 2) throw new Error(`${file}: what "${what}" changes does not stand there once`);
		writeFileSync(
			path,
			text.replace(from, () => to),
		);
		if (run(tests).green) lived.push(what);
		writeFileSync(path, text);
	}
	const minutes = Number(((performance.now() - began) / 60_000).toFixed(1));
	console.log(JSON.stringify({ bench: "faults", planted: FAULTS.length, lived: lived.length, minutes }));
	for (const what of lived) console.error(`lived: ${what}`);
	process.exitCode = lived.length === 0 ? 0 : 1;
} finally {
	rmSync(copy, { recursive: true, force: true });
}
