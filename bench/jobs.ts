import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Whole jobs of people in a real browser, each on demo data of its own: how many actions each takes, and how long. */
type Spec = {
	readonly title: string;
	readonly ok: boolean;
	readonly tests: readonly { readonly annotations: readonly { readonly type: string; readonly description?: string }[] }[];
};
type Suite = { readonly file: string; readonly specs: readonly Spec[]; readonly suites?: readonly Suite[] };

const folder = mkdtempSync(join(tmpdir(), "alvek-jobs-"));
const report = join(folder, "report.json");
const { status, stdout } = spawnSync("node_modules/.bin/playwright", ["test", "--workers", "1", "--retries", "0"], {
	encoding: "utf8",
	env: { ...process.env, NODE_ENV: "test", ALVEK_JOBS: "all", PLAYWRIGHT_JSON_OUTPUT_NAME: report },
});
const { suites } = JSON.parse(readFileSync(report, "utf8")) as { suites: readonly Suite[] };
rmSync(folder, { recursive: true, force: true });
const told = (spec: Spec, type: string): number =>
	Number(spec.tests[0]?.annotations.find((a) => a.type === type)?.description ?? Number.NaN);
for (const { file, specs } of suites)
	for (const spec of specs)
		console.log(
			JSON.stringify({
				bench: "jobs",
				job: file.replace(/^.*\/|\.(spec|job)\.ts$/g, ""),
				done: spec.ok,
				actions: told(spec, "actions"),
				seconds: told(spec, "seconds"),
			}),
		);
if (status !== 0) console.error(stdout.slice(-3000));
process.exitCode = status ?? 1;
