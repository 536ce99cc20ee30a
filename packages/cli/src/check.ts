import { readFileSync } from "node:fs";
import { ALONE, judge } from "@alvek/core/judge";
import { checkText } from "@alvek/core/material";
import { describeIssue } from "@alvek/core/result";
import type { Arguments } from "./arguments";
import { readEach } from "./materials";

/**
 * `alvek check FILE.json --json`: what looks wrong with each material of a file, and what was refused on reading it.
 * @returns the exit code: 1 when anything was refused or says wrong
 */
export function checkCommand({ words, flags }: Arguments): number {
	const file = words[0];
	if (file === undefined) {
		process.stderr.write("alvek check needs a JSON file; see alvek --help\n");
		return 2;
	}
	const read = readEach(readFileSync(file, "utf8"));
	if (!read.ok) {
		process.stderr.write(`${read.issues.map(describeIssue).join("\n")}\n`);
		return 1;
	}
	const found = read.value.map(({ name, material }) => ({
		name,
		refused: material.ok ? [] : material.issues.map((i) => ({ code: i.code, path: i.path ?? "", message: describeIssue(i) })),
		checks: !material.ok
			? []
			: judge(material.value, ALONE).checks.map((c) => ({
					code: c.code,
					severity: c.severity,
					title: c.title,
					detail: checkText(c),
					values: c.values,
					...(c.slip === undefined ? {} : { slip: c.slip }),
				})),
	}));
	if (flags.has("--json")) process.stdout.write(`${JSON.stringify(found, null, 1)}\n`);
	else
		for (const m of found) {
			for (const r of m.refused) process.stdout.write(`${m.name}\trefused\t${r.message}\n`);
			for (const c of m.checks) process.stdout.write(`${m.name}\t${c.severity}\t${c.title}: ${c.detail}\n`);
		}
	return found.some((m) => m.refused.length > 0 || m.checks.some((c) => c.severity === "wrong")) ? 1 : 0;
}
