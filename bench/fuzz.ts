import { readdirSync, readFileSync } from "node:fs";
import { readNewMaterial, readPage } from "@alvek/core/page";
import { PROPERTIES, type PropertyRow, property } from "@alvek/core/property";
import { parseQuantity, readUnit, siUnitOf } from "@alvek/core/quantity";
import { brokenPromise, mutatedPage } from "../packages/core/src/page/testing";
import { hostileText, seeded } from "../packages/core/src/quantity/testing";

/**
 * Hostile inputs for every reader of what is typed or pasted, and pages of suppliers changed at random: what they cost,
 * and beside them an ordinary value. What is read has to read back, and no number of a page may disappear.
 */
const N = Number(process.env.INPUTS ?? 500_000);
const SEED = Number(process.env.SEED ?? 7);
const MOST_MS = 50;

const POOL = ["fixtures/pages", "fixtures/sheets", "fixtures/sheets-new", "fixtures/sheets-later"].flatMap((folder) =>
	readdirSync(folder)
		.filter((f) => f.endsWith(".txt"))
		.flatMap((f) => readFileSync(`${folder}/${f}`, "utf8").split(/\r?\n/)),
);

/** The text that is stored has to read as what is stored beside it. */
function quantity(text: string, spec: PropertyRow): unknown {
	const read = parseQuantity(text, spec, { fieldUnit: spec.units.engineering });
	if (!read.ok) return read;
	const { entered, mark, low, high } = read.value;
	const again = parseQuantity(entered, spec, mark === null ? {} : { decimalMark: mark });
	if (!again.ok || again.value.low !== low || again.value.high !== high) throw new Error(`does not read back: ${entered}`);
	return read;
}

function promised(text: string): unknown {
	const read = readPage(text);
	const broken = read.ok ? brokenPromise(read.value) : null;
	if (broken !== null) throw new Error(broken);
	return read;
}

type Reader = { every: number; read: (text: string, spec: PropertyRow) => unknown; make?: (next: () => number) => string };
const readers: Record<string, Reader> = {
	quantity: { every: 1, read: quantity },
	unit: { every: 1, read: (text) => [readUnit(text, []), siUnitOf(text)] },
	"new material": { every: 10, read: (text, spec) => readNewMaterial(`Bronze, ${spec.name} ${text}`) },
	"page of a supplier, changed": { every: 10, read: promised, make: (next) => mutatedPage(next, POOL) },
	page: { every: 10, read: (text, spec) => readPage(`Bronze\n${spec.name}\t${text}\n${text}`) },
};

const ordinary = property("tensile_strength");
for (let i = 0; i < 5_000; i++) parseQuantity("310 MPa", ordinary);
const began = performance.now();
for (let i = 0; i < 5_000; i++) parseQuantity("310 MPa", ordinary);
const ordinaryMs = (performance.now() - began) / 5_000;

let failed = false;
for (const [name, { every, read, make = hostileText }] of Object.entries(readers)) {
	const next = seeded(SEED);
	let inputs = 0;
	let thrown = 0;
	let above = 0;
	let slowest = { ms: 0, text: "" };
	let total = 0;
	for (let i = 0; i < N; i += every) {
		const text = make(next);
		const spec = PROPERTIES[Math.floor(next() * PROPERTIES.length)] as PropertyRow;
		let ms = Number.POSITIVE_INFINITY;
		inputs++;
		try {
			// a pause of the machine is not the reader's: what seems slow is read again
			for (let again = 0; again < 4 && ms > MOST_MS; again++) {
				const start = performance.now();
				read(text, spec);
				const took = performance.now() - start;
				if (again === 0) total += took;
				ms = Math.min(ms, took);
			}
		} catch (error) {
			thrown++;
			console.error(name, JSON.stringify(text.slice(0, 120)), error);
			continue;
		}
		if (ms > MOST_MS) above++;
		if (ms > slowest.ms) slowest = { ms, text: text.slice(0, 60) };
	}
	failed ||= thrown > 0 || above > 0;
	console.log(
		JSON.stringify({
			bench: "fuzz",
			reader: name,
			seed: SEED,
			inputs,
			thrown,
			above_50_ms: above,
			slowest_ms: Number(slowest.ms.toFixed(2)),
			slowest: slowest.text,
			mean_us: Number(((1000 * total) / inputs).toFixed(1)),
			ordinary_value_us: Number((1000 * ordinaryMs).toFixed(1)),
		}),
	);
}
if (failed) process.exitCode = 1;
