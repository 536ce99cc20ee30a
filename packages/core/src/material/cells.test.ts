import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
	applyEdits,
	BLANK,
	blockEdits,
	type CellBlock,
	cellEdit,
	cellText,
	fillEdit,
	firstValue,
	type Material,
	makeValue,
	readCells,
} from "./index";

function block(text: string): CellBlock {
	const read = readCells(text);
	if (!read.ok) throw new Error(JSON.stringify(read.issues));
	return read.value;
}

function holding(property: string, text: string, extra = {}): Material {
	const made = makeValue(property, text, {}, extra);
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return { ...BLANK, values: { [property]: { ...made.value, ...extra } } };
}

const DENSITY = { property: "density", unit: "g/cm^3" };
const E = { property: "youngs_modulus", unit: "GPa" };
const after = (material: Material, edits: readonly Parameters<typeof applyEdits>[1][number][]): Material => {
	const applied = applyEdits(material, edits);
	if (!applied.ok) throw new Error(JSON.stringify(applied.issues));
	return applied.value.material;
};

describe("one cell", () => {
	it("reads a bare number in the unit of its column, and any other unit as written", () => {
		for (const [text, si] of [
			["2.7", 2700],
			["2700 kg/m3", 2700],
			// 0.1 lb/in3 = 0.1 x 0.45359237 kg / (0.0254 m)^3
			["0.1 lb/in^3", (0.1 * 0.45359237) / 0.0254 ** 3],
		] as const) {
			const edit = cellEdit(BLANK, DENSITY, text);
			if (!edit.ok || edit.value === null) throw new Error(text);
			expect(firstValue(after(BLANK, [edit.value]), "density")?.low).toBeCloseTo(si, 9);
		}
	});

	it("keeps what a person said of it, but not the source of the old number or the claims of a carried-over one", () => {
		const measured = holding("density", "2.6 g/cm3", { evidence: "measured" });
		const edit = cellEdit(measured, DENSITY, "2.65");
		expect(edit.ok && edit.value?.to).toMatchObject({ entered: "2.65 g/cm^3", evidence: "measured" });
		const sourced = holding("density", "2.6 g/cm3", { evidence: "measured", source: "Lab 4" });
		const changed = cellEdit(sourced, DENSITY, "2.65");
		expect(changed.ok && changed.value?.to).not.toHaveProperty("source");
		expect(changed.ok && changed.value?.to).not.toHaveProperty("evidence");
		const carried = holding("density", "2.6 g/cm3", { evidence: "measured", carried: { name: "A", uid: "u", revision: 1 } });
		const fresh = cellEdit(carried, DENSITY, "2.65");
		expect(fresh.ok && fresh.value?.to).not.toHaveProperty("carried");
		expect(fresh.ok && fresh.value?.to).not.toHaveProperty("evidence");
	});

	it("clears on an empty text, changes nothing on the same one, refuses what the property holds otherwise", () => {
		const material = holding("density", "2.6 g/cm3");
		expect(cellEdit(material, DENSITY, "")).toMatchObject({ ok: true, value: { at: "density", to: null } });
		expect(cellEdit(BLANK, DENSITY, " ")).toEqual({ ok: true, value: null });
		expect(cellEdit(material, DENSITY, "2.6 g/cm3")).toEqual({ ok: true, value: null });
		const unknown: Material = { ...BLANK, values: { density: { id: "density", property: "density", kind: "unknown" } } };
		expect(cellEdit(unknown, DENSITY, "2.6")).toMatchObject({ ok: false, issues: [{ code: "held-otherwise" }] });
		expect(cellEdit(BLANK, DENSITY, "plenty")).toMatchObject({ ok: false, issues: [{ code: "not-a-number" }] });
		expect(cellEdit(BLANK, { property: "nonsense", unit: "1" }, "1")).toMatchObject({ ok: false });
	});
});

describe("a block of cells", () => {
	it("takes units from a row of headings, per column", () => {
		const pasted = block("Density [kg/m³]\tYoung's modulus [Mpsi]\r\n2700\t10\r\n7850\t30\r\n");
		expect(pasted.cells).toEqual([
			["2700", "10"],
			["7850", "30"],
		]);
		const { edits, changed, refused } = blockEdits([BLANK, BLANK], [DENSITY, E], pasted);
		expect([changed, refused]).toEqual([4, []]);
		const second = after(BLANK, edits[1] ?? []);
		expect(firstValue(second, "density")?.low).toBe(7850);
		// 30 x 10^6 psi, psi = 4.4482216152605 N / (0.0254 m)^2
		expect(firstValue(second, "youngs_modulus")?.low).toBeCloseTo((30e6 * 4.4482216152605) / 0.0254 ** 2, 0);
	});

	it("settles decimal commas by what the cells share", () => {
		const { edits } = blockEdits([BLANK, BLANK], [E], block("69,5\n1,234"));
		expect(firstValue(after(BLANK, edits[1] ?? []), "youngs_modulus")?.low).toBe(1.234e9);
	});

	it("refuses a column whose heading names a unit of something else", () => {
		for (const unit of ["MPa", "plonk"]) {
			const { changed, refused } = blockEdits([BLANK], [DENSITY], block(`Density [${unit}]\n2700`));
			expect([changed, refused[0]?.issues[0]?.code]).toEqual([0, "wrong-dimension"]);
		}
	});

	it("refuses each bad cell by its reason and takes the others", () => {
		const { edits, changed, refused } = blockEdits([BLANK, BLANK], [DENSITY, E], block("2.7\tsoft\t1\n99999 kg/m3\t70\n1\t2"));
		expect(changed).toBe(2);
		expect(edits.map((e) => e.length)).toEqual([1, 1, 0]);
		expect(refused.map((r) => [r.row, r.column, r.issues[0]?.code])).toEqual([
			[0, 1, "not-a-number"],
			[0, 2, "beyond-grid"],
			[1, 0, "out-of-bounds"],
			[2, 0, "beyond-grid"],
			[2, 1, "beyond-grid"],
		]);
	});

	it("is undone by the inverse, whatever was pasted over whatever", () => {
		const text = fc.constantFrom("", "2.7", "2,6", "x", "1-2", ">= 3", "7850 kg/m3", "0.28 lb/in^3");
		fc.assert(
			fc.property(text, text, (before, pasted) => {
				const first = cellEdit(BLANK, DENSITY, before);
				const start = first.ok && first.value !== null ? after(BLANK, [first.value]) : BLANK;
				const read = readCells(pasted);
				if (!read.ok) return;
				const { edits } = blockEdits([start], [DENSITY], read.value);
				const applied = applyEdits(start, edits[0] ?? []);
				if (!applied.ok) throw new Error("does not apply");
				const back = applyEdits(applied.value.material, applied.value.inverse);
				expect(back.ok && back.value.material).toEqual(start);
			}),
		);
	});

	it("copies out what reads back to the same numbers in any unit", () => {
		const numbers = fc.double({ min: 1e-3, max: 5e4, noNaN: true }).map((x) => String(Number(x.toPrecision(5))));
		const texts = fc.tuple(numbers, numbers, fc.constantFrom("", "-", ">= ", "<= ", "~", "±")).map(([a, b, shape]) => {
			const [low, high] = [a, b].sort((x, y) => Number(x) - Number(y));
			if (shape === "-") return low === high ? a : `${low} - ${high}`;
			return shape === "±" ? `${a} ± ${Number(a) / 100}` : shape + a;
		});
		const units = fc.constantFrom("GPa", "MPa", "ksi", "Mpsi", "kgf/mm^2");
		fc.assert(
			fc.property(texts, units, units, (text, typed, column) => {
				const made = makeValue("youngs_modulus", `${text} ${typed}`, { decimalMark: "." });
				if (!made.ok) return;
				const copied = cellText(made.value, column);
				const read = cellEdit(BLANK, { property: "youngs_modulus", unit: column }, copied, ".");
				if (!read.ok) throw new Error(`${copied}: ${JSON.stringify(read.issues)}`);
				const back = firstValue(after(BLANK, read.value === null ? [] : [read.value]), "youngs_modulus");
				expect([back?.low, back?.high]).toEqual([made.value.low, made.value.high]);
			}),
		);
	});

	it("leaves what was typed when a cell's own copy comes back, in any unit", () => {
		const held = holding("density", "548-556 lb/ft3");
		const value = firstValue(held, "density");
		if (value === null) throw new Error("no number");
		for (const unit of ["g/cm^3", "kg/m^3", "lb/in^3"]) {
			expect(cellEdit(held, { property: "density", unit }, cellText(value, unit))).toEqual({ ok: true, value: null });
		}
		// a copy is told from the same digits in another unit
		expect(cellEdit(held, { property: "density", unit: "kg/m^3" }, cellText(value, "g/cm^3"))).not.toEqual({
			ok: true,
			value: null,
		});
	});

	it("fills a cell with another material's number as it was typed there", () => {
		const from = firstValue(holding("density", "0.284 lb/in^3"), "density");
		if (from === null) throw new Error("no number");
		const edit = fillEdit(holding("density", "2.7 g/cm3"), DENSITY, from);
		expect(edit.ok && edit.value?.to).toMatchObject({ entered: "0.284 lb/in^3", low: from.low, high: from.high });
	});

	it("refuses a block that is too large, and one that is empty", () => {
		expect(readCells("")).toMatchObject({ ok: false });
		expect(readCells("1\t".repeat(20_001))).toMatchObject({ ok: false, issues: [{ code: "paste-too-large" }] });
	});
});
