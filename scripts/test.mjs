// npm test: everything, and one plain line at the end: "N passed, N failed".
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ensure, ensureChromium, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";

ensure();
ensureChromium();
buildIfNeeded();
const out = mkdtempSync(join(tmpdir(), "alvek-test-"));
let passed = 0;
let failed = 0;

function step(name, command, args, env = {}) {
	console.log(`\n── ${name}`);
	return spawnSync(command, args, { cwd: root, stdio: "inherit", env: { ...process.env, ...env } }).status === 0;
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
add(unit, unitOk, (report) => [report.numPassedTests, report.numFailedTests]);

const browser = join(out, "browser.json");
const browserOk = step("browser tests", join(root, "node_modules/.bin/playwright"), ["test"], {
	PLAYWRIGHT_JSON_OUTPUT_NAME: browser,
});
add(browser, browserOk, (report) => [report.stats.expected + report.stats.flaky, report.stats.unexpected]);

/** Adds a report's counts; a run that failed without naming a test is one failure. */
function add(file, ok, read) {
	try {
		const [good, bad] = read(JSON.parse(readFileSync(file, "utf8")));
		passed += good;
		failed += bad;
		if (!ok && bad === 0) failed++;
	} catch {
		failed++;
	}
}

rmSync(out, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
