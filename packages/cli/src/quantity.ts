import { readFileSync } from "node:fs";
import { PROPERTIES, propertyById } from "@alvek/core/property";
import { type DecimalMark, parseQuantity, type Quantity } from "@alvek/core/quantity";
import { describeIssue, fail, type Result } from "@alvek/core/result";
import Papa from "papaparse";
import type { Arguments } from "./arguments";

/** `alvek quantity`; the exit code. */
export function quantityCommand({ words, flags }: Arguments): number {
	if (flags.has("--list")) {
		for (const p of PROPERTIES) process.stdout.write(`${p.id}\t${p.siUnit}\t${p.name}\n`);
		return 0;
	}
	const batch = flags.get("--batch");
	if (batch !== undefined) return runBatch(batch, flags.has("--json"));
	const text = words[0];
	const id = flags.get("--property");
	if (text === undefined || id === undefined) {
		process.stderr.write("alvek quantity needs a text and --property; see alvek --help\n");
		return 2;
	}
	const mark = flags.get("--decimal-mark");
	const options = {
		...(flags.has("--unit") ? { fieldUnit: flags.get("--unit") as string } : {}),
		...(mark === "." || mark === "," ? { decimalMark: mark as DecimalMark } : {}),
	};
	const result = read(text, id, options);
	process.stdout.write(`${flags.has("--json") ? JSON.stringify(reply(result)) : plain(result)}\n`);
	return result.ok ? 0 : 1;
}

function runBatch(file: string, json: boolean): number {
	const parsed = Papa.parse<{ text?: string; property?: string }>(readFileSync(file, "utf8"), {
		header: true,
		skipEmptyLines: true,
	});
	if (!parsed.meta.fields?.includes("text") || !parsed.meta.fields.includes("property")) {
		process.stderr.write("alvek quantity --batch needs the columns text and property\n");
		return 2;
	}
	let refused = 0;
	for (const row of parsed.data) {
		const result = read(row.text ?? "", row.property ?? "", {});
		if (!result.ok) refused++;
		process.stdout.write(`${json ? JSON.stringify(reply(result)) : plain(result)}\n`);
	}
	return refused === 0 ? 0 : 1;
}

function read(text: string, id: string, options: { fieldUnit?: string; decimalMark?: DecimalMark }): Result<Quantity> {
	const spec = propertyById(id);
	if (spec === undefined) return fail({ code: "unknown-property", actual: id, expected: "an id from alvek quantity --list" });
	return parseQuantity(text, spec, options);
}

/** The shape that scripts rely on. */
function reply(result: Result<Quantity>): object {
	if (!result.ok) return { ok: false, issues: result.issues.map((i) => ({ ...i, message: describeIssue(i) })) };
	const { low, high, siUnit, entered, shape, unit } = result.value;
	return { ok: true, low, high, si_unit: siUnit, entered, shape, unit };
}

function plain(result: Result<Quantity>): string {
	if (!result.ok) return result.issues.map(describeIssue).join(" ");
	const { low, high, siUnit } = result.value;
	if (low === high) return `${low} ${siUnit}`;
	return `${low ?? "open"} to ${high ?? "open"} ${siUnit}`;
}
