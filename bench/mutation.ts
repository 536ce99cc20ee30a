import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { random } from "./lib/crowd";

/**
 * How much of what a change of the code breaks is noticed by the tests: lines are drawn by a seed, everything that can be
 * changed within them is changed, one thing at a time, and the nearest tests run. Views are left out.
 */
type Area = {
	readonly name: string;
	/** Share of noticed changes, in per cent, that we want. */
	readonly goal: number;
	readonly sources: readonly string[];
	readonly tests: readonly string[];
	/** Lines that are drawn. */
	readonly lines: number;
};

const SERVER = ["access", "publish", "undo", "libraries", "people", "parts", "materials", "notices", "history"] as const;
/** Tests of the server that are nearest to a folder of it. */
const NEAREST: Readonly<Record<(typeof SERVER)[number], readonly string[]>> = {
	access: ["foundations", "publishing", "libraries", "doors", "rights-taken"],
	publish: ["publishing", "publish-many", "editions", "doors"],
	undo: ["steps", "doors", "publishing", "libraries"],
	libraries: ["libraries", "editions", "doors"],
	people: ["people", "foundations"],
	parts: ["thread", "local", "geometry", "refusals"],
	materials: ["materials", "values", "many", "duplicates", "namelinks"],
	notices: ["history", "live"],
	history: ["history", "image", "steps"],
};

/** Tests that try thousands of pages or queues, or read all sources: they take longer than a whole run may. */
const LONG = ["**/random.test.ts", "**/hostile.test.ts", "**/simulation.test.ts", "**/boundaries.test.ts", "**/house.test.ts"];

const AREAS: readonly Area[] = [
	{ name: "core", goal: 80, sources: ["packages/core/src"], tests: ["packages/core/src/**/*.test.ts"], lines: 200 },
	{
		name: "web",
		goal: 70,
		sources: ["packages/web/src"],
		tests: ["packages/web/src/**/*.test.{ts,tsx}"],
		lines: 200,
	},
	...SERVER.map((folder) => ({
		name: `server/${folder}`,
		goal: 65,
		sources: [`packages/server/src/${folder}`],
		tests: NEAREST[folder].map((t) => `packages/server/test/${t}.test.ts`),
		lines: 20,
	})),
];

/** Tables of data, faces of folders, and what only draws or tests is no logic to be broken. */
const isLogic = (file: string): boolean =>
	file.endsWith(".ts") && !/(\.test|\.data|\.d)\.ts$|\/(index|testing|types|scene|picture|plot|axes)\.ts$|\/look\//.test(file);

const seed = Number(process.env.SEED ?? 7);
const only = process.env.AREA;
const share = Number(process.env.SHARE ?? 1);

/** Lines of code, as `file:line-line`, drawn without putting back. */
function drawn({ sources, lines }: Area): readonly string[] {
	const all = sources.flatMap((folder) =>
		(readdirSync(folder, { recursive: true }) as string[])
			.map((file) => join(folder, file))
			.filter(isLogic)
			.sort()
			.flatMap((file) =>
				readFileSync(file, "utf8")
					.split("\n")
					.flatMap((text, i) =>
						/^\s*(\/\/|\/?\*|import |export (type|\{)|type |[})\]];?,?$|$)/.test(text) ? [] : [`${file}:${i + 1}-${i + 1}`],
					),
			),
	);
	const next = random(seed);
	const wanted: string[] = [];
	while (wanted.length < Math.round(lines * share) && all.length > 0)
		wanted.push(...all.splice(Math.floor(next() * all.length), 1));
	return wanted;
}

type Mutant = {
	readonly status: string;
	readonly mutatorName: string;
	readonly replacement?: string;
	readonly location: { start: { line: number } };
};
type Report = { readonly files: Readonly<Record<string, { readonly mutants: readonly Mutant[] }>> };

/** Changes that make no difference to anybody: words in a report or a class name. */
const COUNTED: ReadonlySet<string> = new Set(["Killed", "Survived", "NoCoverage", "Timeout"]);

/** Installed by itself: a hundred packages that no test and no build needs. Vitest is the one of the project. */
const TOOL = "bench/mutation";
if (!existsSync(join(TOOL, "node_modules/.bin/stryker")))
	spawnSync("npm", ["ci", "--legacy-peer-deps", "--no-audit", "--no-fund"], { cwd: TOOL, stdio: "inherit" });

const failed: string[] = [];
for (const area of AREAS.filter((a) => only === undefined || a.name.startsWith(only))) {
	const began = performance.now();
	const folder = mkdtempSync(join(tmpdir(), "alvek-mutation-"));
	const report = join(folder, "report.json");
	const vitest = join(folder, "vitest.config.mjs");
	writeFileSync(
		vitest,
		`export default ${JSON.stringify({
			test: {
				include: area.tests,
				exclude: LONG,
				testTimeout: 60_000,
				hookTimeout: 60_000,
				env: { ALVEK_TEST_SCRYPT_LOG2N: "10" },
				...(area.name.startsWith("server") ? { globalSetup: ["packages/server/test/postgres-setup.ts"] } : {}),
			},
		})};\n`,
	);
	const config = join(folder, "stryker.config.json");
	writeFileSync(
		config,
		JSON.stringify({
			testRunner: "vitest",
			plugins: [resolve(TOOL, "node_modules/@stryker-mutator/vitest-runner/dist/src/index.js")],
			vitest: { configFile: vitest, related: false },
			mutate: drawn(area),
			// what is said to people, and classes of a view, are not asserted word by word
			mutator: { excludedMutations: ["StringLiteral"] },
			coverageAnalysis: "perTest",
			// what runs once while a file is loaded would need all tests for each change
			ignoreStatic: true,
			concurrency: 2,
			timeoutMS: 20_000,
			tempDirName: join(folder, "sandbox"),
			reporters: ["json"],
			jsonReporter: { fileName: report },
			// the built workers are needed: tests of the server read geometry by them
			ignorePatterns: [
				"packages/web/dist",
				"packages/cli/dist",
				"demo/dist",
				"bench/dist",
				"**/test-results",
				"docs/screenshots",
			],
			allowEmpty: true,
			// rewriting tsconfig files needs an interface of the compiler that this one no longer has
			tsconfigFile: "none",
			disableTypeChecks: false,
			logLevel: "warn",
		}),
	);
	const { status, stdout, stderr } = spawnSync(join(TOOL, "node_modules/.bin/stryker"), ["run", config], {
		encoding: "utf8",
		env: { ...process.env, NODE_ENV: "test" },
	});
	if (status !== 0) throw new Error(`${area.name}:\n${(stdout + stderr).slice(-4000)}`);
	const { files } = JSON.parse(readFileSync(report, "utf8")) as Report;
	const mutants = Object.entries(files).flatMap(([file, f]) => f.mutants.map((m) => ({ ...m, file })));
	const counted = mutants.filter((m) => COUNTED.has(m.status));
	const lived = counted.filter((m) => m.status === "Survived" || m.status === "NoCoverage");
	const noticed = counted.length === 0 ? 100 : (100 * (counted.length - lived.length)) / counted.length;
	console.log(
		JSON.stringify({
			bench: "mutation",
			area: area.name,
			mutants: counted.length,
			lived: lived.length,
			noticed_percent: Math.round(noticed),
			goal_percent: area.goal,
			minutes: Number(((performance.now() - began) / 60_000).toFixed(1)),
		}),
	);
	for (const m of lived)
		console.error(`lived: ${m.file}:${m.location.start.line} ${m.mutatorName} -> ${m.replacement ?? ""} (${m.status})`);
	if (noticed < area.goal) failed.push(area.name);
	rmSync(folder, { recursive: true, force: true });
}
if (failed.length > 0) console.error(`below the goal: ${failed.join(", ")}`);
process.exitCode = failed.length === 0 ? 0 : 1;
