// npm test: everything, where the time went, and one plain line at the end: "N passed, N failed".
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, relative } from "node:path";
import { ensure, ensureChromium, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";
import { browserFailures, describeFailures, unitFailures } from "./test-failures.mjs";
import { browserFiles, cpuSeconds, report, unitFiles } from "./test-times.mjs";

const began = Date.now();
ensure();
ensureChromium();
buildIfNeeded();
const out = mkdtempSync(join(tmpdir(), "alvek-test-"));
let passed = 0;
let failed = 0;
/** Each step with its wall and processor time, each test file with its time, and what went wrong. */
const steps = [];
const files = [];
const failures = [];

function step(name, command, args, env = {}) {
	console.log(`\n── ${name}`);
	const [start, cpu] = [Date.now(), cpuSeconds()];
	const { status } = spawnSync(command, args, { cwd: root, stdio: "inherit", env: { ...process.env, ...env } });
	steps.push({ name, wall: (Date.now() - start) / 1000, cpu: cpuSeconds() - cpu });
	return status === 0;
}
function count(ok) {
	if (ok) passed++;
	else failed++;
}

count(step("types, lint, boundaries, dead code", process.execPath, ["scripts/check.mjs"]));

const vitest = join(root, "node_modules/.bin/vitest");
const unitReport = (name) => ["--reporter=default", "--reporter=json", `--outputFile.json=${join(out, name)}`];
const unitOk = step("unit and API tests", vitest, ["run", ...unitReport("unit.json")]);
const unit = reportOf("unit.json");
if (unit === null) count(false);
else {
	passed += unit.numPassedTests;
	files.push(...unitFiles(unit));
	const bad = unitFailures(unit);
	if (!unitOk && bad.length === 0) count(false);
	if (bad.length > 0) tryAgain(bad);
}

/** Files with a failure once more, alone: a machine that stalls is no fault of ours, and is told at the end. */
function tryAgain(bad) {
	const again = [...new Set(bad.map((f) => f.file))];
	const ok = step("unit and API tests, a second try", vitest, ["run", "--maxWorkers=1", ...unitReport("again.json"), ...again]);
	const second = reportOf("again.json");
	const still = second === null ? bad : unitFailures(second);
	if (!ok && still.length === 0) count(false);
	const stays = (f) => still.some((s) => s.file === f.file && s.name === f.name);
	for (const f of bad) count(!stays(f));
	// what fails only in the second try is a failure all the same
	const fresh = still.filter((s) => !bad.some((f) => f.file === s.file && f.name === s.name));
	for (const _ of fresh) count(false);
	failures.push(...bad.map((f) => ({ ...f, again: !stays(f) })), ...fresh);
}

const browserOk = step("browser tests", join(root, "node_modules/.bin/playwright"), ["test"], {
	PLAYWRIGHT_JSON_OUTPUT_NAME: join(out, "browser.json"),
});
const browser = reportOf("browser.json");
if (browser === null) count(false);
else {
	const { stats, suites } = browser;
	passed += stats.expected + stats.flaky;
	failed += stats.unexpected;
	if (!browserOk && stats.unexpected === 0) count(false);
	files.push(...browserFiles(suites).map((f) => ({ ...f, name: join(root, "e2e", f.name) })));
	failures.push(...browserFailures(suites).map((f) => ({ ...f, file: join(root, "e2e", f.file) })));
}

/** What a step wrote about its tests; null when it came to nothing. */
function reportOf(name) {
	try {
		return JSON.parse(readFileSync(join(out, name), "utf8"));
	} catch {
		return null;
	}
}

const inRoot = (name) => relative(root, name);
rmSync(out, { recursive: true, force: true });
const named = files.map((f) => ({ ...f, name: inRoot(f.name) }));
console.log(`\n${report({ steps, files: named, wall: (Date.now() - began) / 1000 })}`);
console.log(describeFailures(failures.map((f) => ({ ...f, file: inRoot(f.file) }))));
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
