import { readdirSync, readFileSync } from "node:fs";
import { readPage } from "@alvek/core/page";
import { type ExpectedPage, type Score, scorePage } from "../packages/core/src/page/testing";

/**
 * How much of pasted pages is understood: right, asked, left, wrong, lost, invented, against answers worked out apart.
 * The comparison in the same run is a plain reader: name, number, unit, one a line, no words known. Then what it costs.
 * @example PAGES=some/folder npm run bench -- page
 */
const folders = (
	process.env.PAGES ??
	"fixtures/sheets,fixtures/sheets-new,fixtures/sheets-later,fixtures/sheets-last,fixtures/sheets-unseen,fixtures/sheets-final"
).split(",");
const ZERO: Score = { right: 0, asked: 0, left: 0, wrong: 0, lost: 0, invented: 0, values: 0 };
const texts: string[] = [];
let failed = false;

for (const folder of folders) {
	const total = { ...ZERO };
	let plain = 0;
	const names = readdirSync(folder)
		.filter((n) => n.endsWith(".txt"))
		.sort();
	for (const name of names) {
		const text = readFileSync(`${folder}/${name}`, "utf8");
		texts.push(text);
		const expected = JSON.parse(readFileSync(`${folder}/${name.replace(".txt", ".expected.json")}`, "utf8")) as ExpectedPage;
		const read = readPage(text);
		if (!read.ok) throw new Error(name);
		const { score, notes } = scorePage(read.value, expected);
		for (const key of Object.keys(total) as (keyof Score)[]) total[key] += score[key];
		plain += plainly(text);
		if (process.env.NOTES !== undefined && notes.length > 0) console.log(`${name}\n  ${notes.join("\n  ")}`);
	}
	const share = (n: number): number => Number(((100 * n) / total.values).toFixed(1));
	failed ||= total.wrong > 0 || total.lost > 0 || total.invented > 0 || total.right + total.asked < 0.85 * total.values;
	console.log(
		JSON.stringify({
			bench: "page",
			folder,
			pages: names.length,
			...total,
			right_percent: share(total.right),
			asked_percent: share(total.asked),
			left_percent: share(total.left),
			a_plain_pattern_percent: share(plain),
		}),
	);
}

/** Lines that a "name, number, unit" pattern would read. */
function plainly(text: string): number {
	return text.split("\n").filter((l) => /^[\p{L}' ]+[:\t ]+[\d.,]+\s*[\p{L}/%°³²]+\s*$/u.test(l)).length;
}

const all = texts.join("\n").split("\n");
const page = (characters: number): string => {
	const lines: string[] = [];
	for (let i = 0, n = 0; n < characters && lines.length < 2000; i++) {
		const line = all[i % all.length] as string;
		lines.push(line);
		n += line.length + 1;
	}
	return lines.join("\n").slice(0, characters);
};
const median = (run: () => void): number => {
	const times = Array.from({ length: 9 }, () => {
		const start = performance.now();
		run();
		return performance.now() - start;
	});
	return [...times].sort((a, b) => a - b)[4] as number;
};
const sizes = [20_000, 40_000, 80_000].map((n) => ({ characters: n, ms: Number(median(() => readPage(page(n))).toFixed(1)) }));
const longest = page(1_000_000);
const words = "the density of the supplier's own measurement says nothing at all of it and has no number in it ";
const prose = Array.from({ length: 2000 }, () => words.repeat(1).slice(0, 98))
	.join("\n")
	.slice(0, 200_000);
console.log(
	JSON.stringify({
		bench: "page cost",
		growth: sizes,
		densest_page_characters: longest.length,
		densest_page_ms: Math.round(median(() => readPage(longest))),
		prose_of_200000_characters_ms: Math.round(median(() => readPage(prose))),
		splitting_it_into_words_ms: Number(median(() => longest.split(/\s+/)).toFixed(2)),
	}),
);
if (failed) process.exitCode = 1;
