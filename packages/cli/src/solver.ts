import { readFileSync } from "node:fs";
import { ALONE } from "@alvek/core/judge";
import { BLANK, decodeMaterial, type Material, type MaterialValue, makeValue, upgradeMaterial } from "@alvek/core/material";
import { propertyById } from "@alvek/core/property";
import { describeIssue, fail, type Issue, ok, type Result } from "@alvek/core/result";
import { SOLVER_SETS, SOLVER_USES, type SolverUse, solverCsv, solverJson, solverMaterial, solverSet } from "@alvek/core/solver";
import type { Arguments } from "./arguments";

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
	const materials = read.value.map((m) => solverMaterial(m.name, m.material, use, set, ALONE));
	process.stdout.write(
		flags.has("--json") ? `${JSON.stringify(solverJson(set, use, materials), null, 1)}\n` : solverCsv(set, use, materials),
	);
	return 0;
}

type Named = { readonly name: string; readonly material: Material };

function readMaterials(text: string): Result<readonly Named[]> {
	let input: unknown;
	try {
		input = JSON.parse(text);
	} catch (cause) {
		return fail({ code: "not-json", actual: String(cause) });
	}
	const list = (input as { materials?: unknown } | null)?.materials ?? input;
	const all = (Array.isArray(list) ? list : [list]).map((entry, i) => readMaterial(entry, i));
	const issues = all.flatMap((r) => (r.ok ? [] : r.issues));
	return issues.length > 0 ? fail(...issues) : ok(all.flatMap((r) => (r.ok ? [r.value] : [])));
}

/** A material as the API gives it (a sheet, a row, an exported file, a revision), or a name with values as text. */
function readMaterial(entry: unknown, index: number): Result<Named> {
	const path = `materials[${index}]`;
	if (typeof entry !== "object" || entry === null) return fail({ code: "wrong-type", path, expected: "a material" });
	const object = entry as { name?: unknown; row?: unknown; document?: unknown; values?: unknown; value?: unknown };
	// a whole reply of the API holds its answer in `value`
	if (object.value !== undefined && object.document === undefined) return readMaterial(object.value, index);
	if (object.row !== undefined) return readMaterial(object.row, index);
	const name = typeof object.name === "string" ? object.name : `material ${index + 1}`;
	if (typeof object.document === "object" && object.document !== null) {
		const decoded = decodeMaterial(upgradeMaterial(object.document as Material));
		return decoded.ok ? ok({ name, material: decoded.value }) : decoded;
	}
	if (typeof object.values !== "object" || object.values === null)
		return fail({ code: "wrong-type", path, expected: "a document, or a name and values" });
	const values: Record<string, MaterialValue> = {};
	const issues: Issue[] = [];
	for (const [id, given] of Object.entries(object.values)) {
		const spec = propertyById(id);
		if (spec === undefined) {
			issues.push({ code: "unknown-property", path: `${path}.${id}`, actual: id });
			continue;
		}
		// a bare number is SI
		const typed = typeof given === "number" ? `${given}${spec.siUnit === "1" ? "" : ` ${spec.siUnit}`}` : String(given);
		const made = makeValue(id, id, typed, typeof given === "number" ? { decimalMark: "." } : {});
		if (made.ok) values[id] = made.value;
		else issues.push(...made.issues.map((i) => ({ ...i, path: `${path}.${id}` })));
	}
	return issues.length > 0 ? fail(...issues) : ok({ name, material: { ...BLANK, values } });
}
