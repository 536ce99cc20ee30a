import { readFileSync } from "node:fs";
import { ALONE } from "@alvek/core/judge";
import { describeIssue } from "@alvek/core/result";
import { SOLVER_SETS, SOLVER_USES, type SolverUse, solverCsv, solverJson, solverMaterial, solverSet } from "@alvek/core/solver";
import type { Arguments } from "./arguments";
import { readMaterials } from "./materials";

/** `alvek solver FILE.json --use linear-static --set mm-t-s --json`; the exit code. */
export function solverCommand({ words, flags }: Arguments): number {
	const file = words[0];
	const use = (flags.get("--use") ?? "all") as SolverUse;
	const set = solverSet(flags.get("--set") ?? "m-kg-s");
	if (file === undefined || set === undefined || !SOLVER_USES.includes(use)) {
		process.stderr.write(
			`alvek solver needs FILE.json, --use (${SOLVER_USES.join(", ")}) and --set (${SOLVER_SETS.map((s) => s.id).join(", ")})\n`,
		);
		return 2;
	}
	const read = readMaterials(readFileSync(file, "utf8"));
	if (!read.ok) {
		const issues = read.issues.map((i) => ({ ...i, message: describeIssue(i) }));
		if (flags.has("--json")) process.stdout.write(`${JSON.stringify({ ok: false, issues })}\n`);
		else process.stderr.write(`${issues.map((i) => i.message).join("\n")}\n`);
		return 1;
	}
	const materials = read.value.map((m) => solverMaterial({ name: m.name, material: m.material }, use, set, ALONE));
	process.stdout.write(
		flags.has("--json") ? `${JSON.stringify(solverJson(set, use, materials), null, 1)}\n` : solverCsv(set, use, materials),
	);
	return 0;
}
