import { readFileSync } from "node:fs";
import { type Page, readPage, type Taken, type TakenCurve, type TakenTable } from "@alvek/core/page";
import { describeIssue } from "@alvek/core/result";
import type { Arguments } from "./arguments";

/** `alvek page FILE --json`: what the text of a page proposes; the exit code. */
export function pageCommand({ words, flags }: Arguments): number {
	const file = words[0];
	if (file === undefined) {
		process.stderr.write("alvek page needs a text file; see alvek --help\n");
		return 2;
	}
	const page = readPage(readFileSync(file, "utf8"));
	if (!page.ok) {
		process.stderr.write(`${page.issues.map(describeIssue).join(" ")}\n`);
		return 1;
	}
	const { taken, tables, curves, compositions, grades, parts, asks, price, headings, left, lines } = page.value;
	const text = (line: number): string => (lines[line - 1] ?? "").trim();
	const reply = {
		recognised: [...taken.map(recognised), ...tables.map(overAxis), ...curves.map(asCurve)],
		...(grades.length === 0 ? {} : { choose: { what: "grade", choices: grades } }),
		...(compositions.length === 0 ? {} : { composition: compositions }),
		...(price === null ? {} : { price }),
		headings,
		...(parts.length === 0 ? {} : { parts }),
		must_ask: asks.map((a) => ({
			line: a.line,
			text: a.text.trim(),
			property: a.property,
			question: a.question,
			choices: a.choices,
		})),
		left_numbers: leftNumbers(page.value),
		left_for_the_user: left.map(text),
	};
	if (flags.has("--json")) process.stdout.write(`${JSON.stringify(reply, null, 1)}\n`);
	else {
		for (const t of taken)
			process.stdout.write(
				`${t.line}\t${t.property}\t${t.low ?? "open"} to ${t.high ?? "open"} ${t.siUnit}\t${t.condition ?? ""}\n`,
			);
		for (const t of tables) process.stdout.write(`${t.line}\t${t.property}\tover ${t.axis}: ${t.points.length} points\n`);
		for (const c of curves) process.stdout.write(`${c.line}\t${c.property}\t${c.rows.length} points\n`);
		for (const a of asks) process.stdout.write(`${a.line}\t${a.property}?\t${a.question}\n`);
		for (const line of left) process.stdout.write(`${line}\tleft\t${text(line)}\n`);
	}
	return 0;
}

/** Numbers that stay unread on lines of which something was taken. */
function leftNumbers({ numbers, left, lines }: Page): readonly { line: number; text: string }[] {
	const whole = new Set(left);
	return numbers
		.filter((n) => n.fate === "left" && !whole.has(n.line))
		.map((n) => ({ line: n.line, text: (lines[n.line - 1] ?? "").slice(n.from, n.to) }));
}

function overAxis(t: TakenTable): object {
	return {
		property: t.property,
		form: "table",
		axis: t.axis,
		unit: t.siUnit,
		...(t.condition === undefined ? {} : { conditions: t.condition }),
		...(t.scale === undefined ? {} : { scale: t.scale }),
		points: t.points.map((p) => ({ at: p.atSi, si_low: p.low, si_high: p.high, line: p.line })),
	};
}

function asCurve(c: TakenCurve): object {
	return {
		property: c.property,
		form: "curve",
		columns: c.columns.map((of, i) => `${of} ${c.units[i]}`),
		...c.header,
		points: c.rows.map((r) => ({ row: r.si, line: r.line })),
	};
}

/** The shape that scripts rely on: SI ends, open ones null, beside what was said about them. */
function recognised(t: Taken): object {
	const open = t.low !== null && t.high === null && t.question?.includes("least of typical") === true;
	const conditions = [
		t.qualifier === "secant" ? "secant" : "",
		(t.condition ?? "").replace(/(\d)–(?=[-−+]?\d)/g, "$1 to ").replace(/°([CF])/g, "deg$1"),
	]
		.filter((c) => c !== "")
		.join(", ");
	return {
		property: t.property,
		si_low: t.low,
		si_high: t.high,
		unit: t.siUnit,
		line: t.line,
		basis: open ? "ask: a minimum alone on a page of typical values" : (t.basis ?? "unknown"),
		...(conditions === "" ? {} : { conditions }),
		...(t.property === "yield_strength" ? { kind: t.qualifier ?? "unknown" } : {}),
		...(t.property === "elongation" ? { gauge: t.qualifier ?? "unknown" } : {}),
		...(t.scale === undefined ? {} : { scale: t.scale }),
		...(t.grade === undefined ? {} : { grade: t.grade }),
		...(t.working === undefined ? {} : { working: t.working }),
		...(t.readings === undefined ? {} : { form: "readings", points: t.readings }),
		...(t.question === undefined ? {} : { question: t.question }),
		...(t.note === "kept as conductivity"
			? { entered_as: `electrical conductivity, ${t.text.replace(/^[\d.,\s–-]+/, "").replace("% ", "%")}` }
			: {}),
		as_written: t.text,
	};
}
