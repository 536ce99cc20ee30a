import { readFileSync } from "node:fs";
import { property } from "@alvek/core/property";
import { parseQuantity } from "@alvek/core/quantity";
import * as math from "mathjs";
import Papa from "papaparse";

/** Quantity parses per second beside mathjs, on the inputs that both accept and convert to the same SI number. */
type Row = { text: string; property: string; si_low: string; si_high: string; error: string };
const rows = Papa.parse<Row>(readFileSync("fixtures/quantities.csv", "utf8"), { header: true, skipEmptyLines: true }).data;

const ours = (row: Row): number | null => {
	const result = parseQuantity(row.text, property(row.property));
	return result.ok ? result.value.low : null;
};
/** mathjs has no notion of a property: it is given the SI unit to convert to. */
const theirs = (row: Row): number | null => {
	try {
		const si = property(row.property).siUnit.replace("Ω", "ohm").replace("·", "*").replace(/^\//, "1/");
		return si === "1" ? null : math.unit(row.text).toNumber(si);
	} catch {
		return null;
	}
};
const good = rows.filter((r) => r.error === "");
const both = good.filter((r) => {
	const value = theirs(r);
	return value !== null && Math.abs(value / Number(r.si_low) - 1) < 1e-9;
});

/** Passes per second over a list; the median of rounds that alternate between the two. */
function rate(list: readonly Row[], read: (row: Row) => number | null, milliseconds: number): number {
	const end = performance.now() + milliseconds;
	const start = performance.now();
	let count = 0;
	while (performance.now() < end) {
		for (const row of list) read(row);
		count += list.length;
	}
	return (count / (performance.now() - start)) * 1000;
}
const median = (x: number[]): number => [...x].sort((a, b) => a - b)[Math.floor(x.length / 2)] ?? 0;
const rounds = { ours: [] as number[], theirs: [] as number[], all: [] as number[] };
for (let i = 0; i < 7; i++) {
	rounds.ours.push(rate(both, ours, 200));
	rounds.theirs.push(rate(both, theirs, 200));
	rounds.all.push(rate(rows, ours, 200));
}
const [a, b] = [median(rounds.ours), median(rounds.theirs)];
console.log(
	JSON.stringify({
		bench: "quantity",
		inputs_both_accept: both.map((r) => r.text),
		parses_per_s: Math.round(a),
		mathjs_parses_per_s: Math.round(b),
		ratio: Number((a / b).toFixed(1)),
		goal: ">= 10",
		all_inputs: rows.length,
		all_inputs_parses_per_s: Math.round(median(rounds.all)),
		accepted_of_good: {
			ours: good.filter((r) => ours(r) !== null || r.si_low === "").length,
			mathjs: both.length,
			of: good.length,
		},
	}),
);
