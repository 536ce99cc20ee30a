import { describe, expect, it } from "vitest";
import { readNewMaterial, readPage } from "../page";
import { PROPERTIES, type PropertyRow, property } from "../property";
import { parseQuantity, readUnit, siUnitOf } from "./index";
import { hostileText, seeded } from "./testing";

/** What runs away takes seconds; that no field takes more than 50 ms is shown by `bench -- fuzz`, where the machine is quiet. */
const MOST_MS = 1000;

/** How long it takes at its fastest: a pause of the machine is not the reader's. */
function fastest(work: () => unknown): number {
	let best = Number.POSITIVE_INFINITY;
	for (let i = 0; i < 4 && best > MOST_MS; i++) {
		const began = performance.now();
		work();
		best = Math.min(best, performance.now() - began);
	}
	return best;
}

describe("whatever is typed", () => {
	it("20,000 hostile inputs: none throws, none runs away", () => {
		const seed = 20261129;
		const next = seeded(seed);
		for (let i = 0; i < 20_000; i++) {
			const text = hostileText(next);
			const spec = PROPERTIES[Math.floor(next() * PROPERTIES.length)] as PropertyRow;
			const took = fastest(() => {
				parseQuantity(text, spec, { fieldUnit: spec.units.engineering });
				siUnitOf(text);
			});
			expect(took, `input ${i} of seed ${seed}: ${JSON.stringify(text.slice(0, 80))}`).toBeLessThan(MOST_MS);
		}
	});

	it("powers of ten in a unit are read up to what a double holds, and refused beyond", () => {
		const [density, strength] = [property("density"), property("tensile_strength")];
		expect(parseQuantity("2.7 10^3 kg/m^3", density)).toMatchObject({ ok: true, value: { low: 2700 } });
		for (const text of ["1 10-4711 MPa", "1 10^-4000000 MPa", "1 10^999999999999 MPa", `1 10^-${"9".repeat(300)} MPa`]) {
			const read = parseQuantity(text, strength);
			expect([text.slice(0, 20), read.ok ? "ok" : read.issues[0]?.code]).toEqual([text.slice(0, 20), "unknown-unit"]);
		}
		// so many powers of a base unit would run into the next one of a packed dimension
		expect(readUnit("m^12 m^12 m^12", [])).toBeNull();
		expect(readUnit(`MPa${"·m/m".repeat(40)}`, [])).toBeNull();
		expect(readUnit("lbf s2/in4", [])?.unit.approximate).toBeCloseTo(10686895.45, 0);
	});

	it("pages and lines of a new material without an end do not run away", () => {
		for (const piece of ["1", "1.", "1,", "a ", "10^", "12 MPa at 20 °C ", "typ ", " - "]) {
			const line = `density ${piece.repeat(4_000)}`;
			expect(
				fastest(() => readNewMaterial(line)),
				piece,
			).toBeLessThan(MOST_MS);
			const page = Array.from({ length: 99 }, () => line.slice(0, 1_999)).join("\n");
			expect(
				fastest(() => readPage(page)),
				piece,
			).toBeLessThan(MOST_MS);
		}
	});
});
