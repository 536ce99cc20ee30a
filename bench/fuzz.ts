import { readNewMaterial, readPage } from "@alvek/core/page";
import { PROPERTIES, type PropertyRow, property } from "@alvek/core/property";
import { parseQuantity, readUnit, siUnitOf } from "@alvek/core/quantity";
import { hostileText, seeded } from "../packages/core/src/quantity/testing";

/** Hostile inputs for every reader of what is typed or pasted: what they cost, and beside them an ordinary value. */
const N = Number(process.env.INPUTS ?? 500_000);
const SEED = Number(process.env.SEED ?? 7);
const MOST_MS = 50;

const readers: Record<string, { every: number; read: (text: string, spec: PropertyRow) => unknown }> = {
	quantity: { every: 1, read: (text, spec) => parseQuantity(text, spec, { fieldUnit: spec.units.engineering }) },
	unit: { every: 1, read: (text) => [readUnit(text, []), siUnitOf(text)] },
	"new material": { every: 10, read: (text, spec) => readNewMaterial(`Bronze, ${spec.name} ${text}`) },
	page: { every: 10, read: (text, spec) => readPage(`Bronze\n${spec.name}\t${text}\n${text}`) },
};

const ordinary = property("tensile_strength");
for (let i = 0; i < 5_000; i++) parseQuantity("310 MPa", ordinary);
const began = performance.now();
for (let i = 0; i < 5_000; i++) parseQuantity("310 MPa", ordinary);
const ordinaryMs = (performance.now() - began) / 5_000;

let failed = false;
for (const [name, { every, read }] of Object.entries(readers)) {
	const next = seeded(SEED);
	let inputs = 0;
	let thrown = 0;
	let above = 0;
	let slowest = { ms: 0, text: "" };
	let total = 0;
	for (let i = 0; i < N; i += every) {
		const text = hostileText(next);
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
