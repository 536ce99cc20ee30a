import type { SolverSet } from "./sets";
import type { SolverMaterial, SolverUse } from "./table";

/** The shape that scripts rely on: numbers by property, units beside them, tables apart, doubts in words. */
export function solverJson(set: SolverSet, use: SolverUse, materials: readonly SolverMaterial[]): object {
	return {
		set: set.id,
		use,
		temperature_unit: set.temperatureUnit,
		materials: materials.map((m) => ({
			name: m.name,
			values: Object.fromEntries(m.numbers.map((n) => [n.property, n.value])),
			units: Object.fromEntries(m.numbers.map((n) => [n.property, n.unit])),
			rules: Object.fromEntries(m.numbers.map((n) => [n.property, n.rule])),
			tables: m.tables,
			doubts: m.doubts,
		})),
	};
}

/** Rows of cells for a spreadsheet: the set on top, then each material with its numbers, tables and doubts. */
function rows(set: SolverSet, use: SolverUse, materials: readonly SolverMaterial[]): readonly (readonly string[])[] {
	const lines: string[][] = [
		["consistent units", set.name],
		["temperature", set.temperatureUnit],
		["use", use],
	];
	for (const m of materials) {
		lines.push([], ["material", m.name], ["property", "value", "unit", "working value"]);
		for (const n of m.numbers) lines.push([n.property, String(n.value), n.unit, n.rule]);
		for (const table of m.tables) {
			lines.push(
				[],
				[table.name, table.at, table.note],
				table.columns.map((c) => `${c.name} [${c.unit}]`),
			);
			const length = table.columns[0]?.values.length ?? 0;
			for (let i = 0; i < length; i++) lines.push(table.columns.map((c) => String(c.values[i])));
		}
		for (const doubt of m.doubts) lines.push(["doubt", doubt]);
	}
	return lines;
}

/** Tab-separated text, to be pasted into a spreadsheet. */
export function solverText(set: SolverSet, use: SolverUse, materials: readonly SolverMaterial[]): string {
	return rows(set, use, materials)
		.map((line) =>
			line
				.map((cell) => cell.replace(/[\t\r\n]+/g, " "))
				.map(inert)
				.join("\t"),
		)
		.join("\n");
}

/** Comma-separated values after RFC 4180. */
export function solverCsv(set: SolverSet, use: SolverUse, materials: readonly SolverMaterial[]): string {
	const quoted = (cell: string): string => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
	return `${rows(set, use, materials)
		.map((line) => line.map(inert).map(quoted).join(","))
		.join("\r\n")}\r\n`;
}

/** A text that a spreadsheet would take for a formula begins with an apostrophe; numbers stay numbers. */
function inert(cell: string): string {
	return /^[=+@\t\r-]/.test(cell) && !Number.isFinite(Number(cell)) ? `'${cell}` : cell;
}
