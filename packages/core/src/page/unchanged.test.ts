import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { expect, it } from "vitest";
import { sheetsIn } from "../../../../fixtures/sheets";
import { PROPERTIES, type PropertyRow } from "../property";
import { parseQuantity, parseReadings, readUnit, siUnitOf } from "../quantity";
import { hostileText, seeded } from "../quantity/testing";
import { readEntry, readNewMaterial, readPage } from "./index";
import { mutatedPage } from "./testing";

/**
 * What the readers make of texts that nobody wrote answers for, by a sum for each: nothing of it changes unnoticed. A
 * change that is meant is looked at here and written anew by `UPDATE_READ=1 npx vitest run --project core unchanged`.
 */
function unchanged(name: string, texts: readonly string[], read: (text: string, i: number) => unknown): void {
	const file = new URL(`../../../../fixtures/read/${name}.txt`, import.meta.url);
	const sums = texts.map((text, i) =>
		createHash("sha1")
			.update(JSON.stringify(read(text, i)) ?? "")
			.digest("hex")
			.slice(0, 8),
	);
	if (process.env.UPDATE_READ !== undefined) writeFileSync(file, `${sums.join("\n")}\n`);
	const before = existsSync(file) ? readFileSync(file, "utf8").trim().split("\n") : [];
	const other = texts.flatMap((text, i) => (sums[i] === before[i] ? [] : [{ i, text: text.slice(0, 300), now: read(text, i) }]));
	expect(other.slice(0, 3), `${other.length} of ${texts.length} read otherwise`).toEqual([]);
	expect(before).toHaveLength(texts.length);
}

const LINES = sheetsIn("sheets", "sheets-new", "sheets-later", "sheets-last", "sheets-unseen", "pages")
	.flatMap(({ text }) => text.split(/\r?\n/))
	.filter((l) => l.trim() !== "");

it("pages changed at random read as they did", () => {
	const next = seeded(29);
	unchanged(
		"random-pages",
		Array.from({ length: 100 }, () => mutatedPage(next, LINES)),
		readPage,
	);
});

it("each line of every page reads as it did, as a page and as an entry", () => {
	unchanged("lines", [...new Set(LINES)], (line) => [
		readPage(line),
		readEntry(line, (id) => PROPERTIES.find((p) => p.id === id)?.units.engineering),
		readNewMaterial(line),
	]);
});

it("quantities, readings and units read as they did, whatever is typed", () => {
	const next = seeded(31);
	const specs = PROPERTIES;
	unchanged(
		"quantities",
		Array.from({ length: 2000 }, () => hostileText(next)),
		(text, i) => {
			const spec = specs[(i * 7) % specs.length] as PropertyRow;
			return [
				parseQuantity(text, spec, { fieldUnit: spec.units.engineering }),
				parseQuantity(text, spec, { decimalMark: "," }),
				parseReadings(text, spec),
				readUnit(text, [spec.dimension])?.unit.approximate,
				siUnitOf(text),
			];
		},
	);
});
