// Where the time of a test run went: its steps, its slowest files, and what should be split.
import { readFileSync } from "node:fs";

/** A browser file is one worker's from beginning to end: a long one keeps the other waiting at the end of a run. */
const LONGEST_BROWSER_FILE = 90;
const SLOWEST = 10;

/** Processor seconds of all processes that this one started and that ended, NaN where the system does not tell. */
export function cpuSeconds(stat = read("/proc/self/stat")) {
	// "pid (name) state ppid …": cutime and cstime are the 16th and 17th, in hundredths of a second on Linux
	const fields = stat.slice(stat.lastIndexOf(")") + 2).split(" ");
	return (Number(fields[13]) + Number(fields[14])) / 100;
}

function read(path) {
	try {
		return readFileSync(path, "utf8");
	} catch {
		return "";
	}
}

/** Files of a Vitest report with their seconds. */
export function unitFiles({ testResults }) {
	return testResults.map((f) => ({ name: f.name, seconds: (f.endTime - f.startTime) / 1000, browser: false }));
}

/** Files of a Playwright report with the seconds of all tries of their tests. */
export function browserFiles(suites) {
	return suites.map((s) => ({ name: s.file, seconds: seconds(s), browser: true }));
}

function seconds(suite) {
	const own = suite.specs.flatMap((spec) => spec.tests.flatMap((t) => t.results.map((r) => r.duration / 1000)));
	return own.reduce((a, b) => a + b, 0) + (suite.suites ?? []).reduce((sum, s) => sum + seconds(s), 0);
}

/** The lines at the end of a run: steps, slowest files, browser files over their limit (a slow machine is no failure). */
export function report({ steps, files, wall }) {
	const slowest = files.toSorted((a, b) => b.seconds - a.seconds).slice(0, SLOWEST);
	const long = files.filter((f) => f.browser && f.seconds > LONGEST_BROWSER_FILE);
	return [
		...steps.map((s) => `${s.name}: ${time(s.wall)}${Number.isNaN(s.cpu) ? "" : `, processor ${time(s.cpu)}`}`),
		`all: ${time(wall)}`,
		"",
		"slowest files",
		...slowest.map((f) => `${time(f.seconds).padStart(8)}  ${f.name}`),
		...long.map((f) => `${f.name} takes over ${LONGEST_BROWSER_FILE} s; split it, one worker runs it alone`),
	].join("\n");
}

function time(s) {
	const whole = Math.round(s);
	return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, "0")} s`;
}
