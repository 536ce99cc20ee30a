import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { defineConfig } from "@playwright/test";

/** Each worker has a server and demo data of its own, so that no test counts what another adds. */
const WORKERS = 2;
const PORTS = Array.from({ length: WORKERS }, (_, i) => 4398 + i);
/** Which of them this process drives; the runner itself, which drives none, reads the first. */
const mine = Number(process.env.TEST_PARALLEL_INDEX ?? 0);
/** Where each worker's signed-in cookie is kept; workers inherit the folder's name. */
process.env.ALVEK_E2E_STATES ??= mkdtempSync(join(tmpdir(), "alvek-e2e-state-"));
process.env.ALVEK_E2E_PORTS = PORTS.join(",");
process.env.ALVEK_E2E_PORT = String(PORTS[mine]);

/** Chromium from Debian, software graphics, nothing that reaches out. */
const BROWSER_ARGS = [
	"--no-sandbox",
	"--disable-quic",
	"--no-first-run",
	"--disable-background-networking",
	"--disable-component-update",
	"--disable-sync",
	"--use-angle=swiftshader",
	"--enable-unsafe-swiftshader",
	"--disable-gpu-compositing",
];

export default defineConfig({
	testDir: "e2e",
	// whole jobs of people: three of them run with the tests, all of them by `npm run bench -- jobs`
	testMatch: process.env.ALVEK_JOBS === undefined ? /\.spec\.ts$/ : /jobs\/.*\.(spec|job)\.ts$/,
	timeout: 120_000,
	expect: { timeout: 20_000 },
	workers: WORKERS,
	// a machine that stalls is no fault of ours; what needed a second try is listed as flaky
	retries: 1,
	fullyParallel: false,
	reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ? [["list"], ["json"]] : [["list"]],
	globalSetup: "./e2e/setup.ts",
	use: {
		// a button that never comes is told after a minute, not after the test's two
		actionTimeout: 60_000,
		storageState: join(process.env.ALVEK_E2E_STATES, `${PORTS[mine]}.json`),
		baseURL: `http://localhost:${PORTS[mine]}`,
		viewport: { width: 1280, height: 800 },
		launchOptions: { executablePath: "/usr/bin/chromium", args: BROWSER_ARGS },
		// recording each step costs a third of the time; the second try tells what went wrong
		trace: "on-first-retry",
	},
	webServer: PORTS.map((port) => ({
		command: "node demo/dist/main.js",
		url: `http://localhost:${port}/api/health`,
		// fresh demo data for each run
		env: { PORT: String(port), ALVEK_DATA: mkdtempSync(join(tmpdir(), "alvek-e2e-")) },
		timeout: 180_000,
	})),
});
