import { readdirSync, readFileSync } from "node:fs";
import { type Page, readPage } from "@alvek/core/page";

/**
 * How much of pasted pages is understood, and how fast they are read. The comparison in the same run is a plain reader:
 * split at tabs or at the first number, no synonyms, no headings, no units of the property.
 */
const folder = "fixtures/pages/";
const names = readdirSync(folder).sort();
const texts = [
	...names.map((n) => [n, readFileSync(folder + n, "utf8")] as const),
	["page-paste.txt", readFileSync("fixtures/page-paste.txt", "utf8")] as const,
];

function shares(page: Page): { lines: number; understood: number; asked: number; headings: number; left: number } {
	const lines = page.lines.filter((l) => l.trim() !== "").length;
	const understood = new Set([...page.taken.map((t) => t.line), ...(page.price === null ? [] : [page.price.line])]).size;
	const asked = new Set(page.asks.map((a) => a.line)).size;
	return { lines, understood, asked, headings: page.headings.length, left: page.left.length };
}

/** Lines that a plain "name, number, unit" pattern would read. */
function plain(text: string): number {
	return text.split("\n").filter((l) => /^[A-Za-z' ]+[:\t ]+[\d.]+\s*[A-Za-z/%°³]+\s*$/.test(l)).length;
}

const totals = { lines: 0, understood: 0, asked: 0, headings: 0, left: 0, plain: 0 };
const pages = texts.map(([name, text]) => {
	const read = readPage(text);
	if (!read.ok) throw new Error(name);
	const own = { ...shares(read.value), plain: plain(text) };
	for (const key of Object.keys(totals) as (keyof typeof totals)[]) totals[key] += own[key];
	return { name, ...own };
});
const all = texts.map(([, t]) => t).join("\n");
const rounds: number[] = [];
for (let i = 0; i < 9; i++) {
	const start = performance.now();
	for (const [, text] of texts) readPage(text);
	rounds.push(performance.now() - start);
}
const ms = [...rounds].sort((a, b) => a - b)[4] ?? 0;
const big = Array.from({ length: 2000 }, (_, i) => all.split("\n")[i % 150] ?? "")
	.join("\n")
	.slice(0, 199_000);
const start = performance.now();
readPage(big);
const full = performance.now() - start;
console.log(
	JSON.stringify({
		bench: "page",
		pages,
		totals,
		share_understood_or_asked: Number(((totals.understood + totals.asked) / (totals.lines - totals.headings)).toFixed(3)),
		share_of_a_plain_pattern: Number((totals.plain / (totals.lines - totals.headings)).toFixed(3)),
		ms_per_page: Number((ms / texts.length).toFixed(2)),
		ms_for_the_largest_page_allowed: Math.round(full),
	}),
);
