// npm test: everything, where the time went, and one plain line at the end: "N passed, N failed".
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, relative } from "node:path";
import { ensure, ensureChromium, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";
import { browserFiles, cpuSeconds, report, unitFiles } from "./test-times.mjs";

const began = Date.now();
ensure();
ensureChromium();
buildIfNeeded();
const out = mkdtempSync(join(tmpdir(), "alvek-test-"));
let passed = 0;
let failed = 0;
/** Each step with its wall and processor time, and each test file with its time. */
const steps = [];
const files = [];

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

const unit = join(out, "unit.json");
const unitOk = step("unit and API tests", join(root, "node_modules/.bin/vitest"), [
	"run",
	"--reporter=default",
	"--reporter=json",
	`--outputFile.json=${unit}`,
]);
add(unit, unitOk, (result) => [result.numPassedTests, result.numFailedTests, unitFiles(result)]);

const browser = join(out, "browser.json");
const browserOk = step("browser tests", join(root, "node_modules/.bin/playwright"), ["test"], {
	PLAYWRIGHT_JSON_OUTPUT_NAME: browser,
});
add(browser, browserOk, ({ stats, suites }) => [
	stats.expected + stats.flaky,
	stats.unexpected,
	browserFiles(suites).map((f) => ({ ...f, name: join(root, "e2e", f.name) })),
]);

/** Adds a report's counts; a run that failed without naming a test is one failure. */
function add(file, ok, read) {
	try {
		const [good, bad, timed] = read(JSON.parse(readFileSync(file, "utf8")));
		passed += good;
		failed += bad;
		files.push(...timed.map((f) => ({ ...f, name: relative(root, f.name) })));
		if (!ok && bad === 0) failed++;
	} catch {
		failed++;
	}
}

rmSync(out, { recursive: true, force: true });
console.log(`\n${report({ steps, files, wall: (Date.now() - began) / 1000 })}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
