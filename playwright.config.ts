import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { defineConfig } from "@playwright/test";

const PORT = 4399;
/** Where the signed-in browser's cookie is kept for all tests; workers inherit the name. */
process.env.ALVEK_E2E_STATE ??= join(mkdtempSync(join(tmpdir(), "alvek-e2e-state-")), "state.json");

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
	timeout: 90_000,
	expect: { timeout: 10_000 },
	workers: 2,
	// a machine that stalls is no fault of ours; what needed a second try is listed as flaky
	retries: 1,
	fullyParallel: false,
	reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ? [["list"], ["json"]] : [["list"]],
	globalSetup: "./e2e/setup.ts",
	use: {
		storageState: process.env.ALVEK_E2E_STATE,
		baseURL: `http://localhost:${PORT}`,
		viewport: { width: 1280, height: 800 },
		launchOptions: { executablePath: "/usr/bin/chromium", args: BROWSER_ARGS },
		trace: "retain-on-failure",
	},
	webServer: {
		command: "node demo/dist/main.js",
		url: `http://localhost:${PORT}/api/health`,
		// fresh demo data for each run
		env: { PORT: String(PORT), ALVEK_DATA: mkdtempSync(join(tmpdir(), "alvek-e2e-")) },
		timeout: 60_000,
	},
});
