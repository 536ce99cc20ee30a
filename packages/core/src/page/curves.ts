import { axisById } from "../property";
import type { Cell } from "./cells";
import type { Column, Head } from "./heads";
import { numberIn, under } from "./row";
import type { Line, PageState } from "./state";

const LOSS_UNIT = /(?:W\/kg|W\/lb|kW\/m³|W\/m³|W\/m\^?3)/;

/** Core loss over flux density, one column a frequency; its unit stands in the heading above. */
export function readLoss(state: PageState, head: Head, rows: readonly Line[]): boolean {
	const unit = LOSS_UNIT.exec(`${state.heading} ${head.line.text}`)?.[0];
	if (unit === undefined || !/loss|verlust|pertes/i.test(state.heading)) return false;
	const measured = unit.startsWith("W/kg") || unit.startsWith("W/lb") ? "loss_per_mass" : "loss_per_volume";
	const [x, f, y] = [axisById("flux_density"), axisById("frequency"), axisById(measured)];
	const first = head.columns[0] as Column;
	if (x === undefined || f === undefined || y === undefined || first.unit === undefined) return false;
	const points: { cells: string[]; si: number[]; line: number }[] = [];
	const read: { line: number; cell: Cell; fate: "value" | "axis" }[] = [];
	for (const line of rows) {
		const cells = under(head, line);
		const at = numberIn(cells[0]?.text, first.unit, x, state);
		if (at === null) continue;
		for (const [i, column] of head.columns.entries()) {
			const value = column.at === undefined ? null : numberIn(cells[i]?.text, unit, y, state);
			if (column.at === undefined || value === null) continue;
			points.push({ cells: [at.text, column.at.text, value.text], si: [at.si, column.at.si, value.si], line: line.no });
			read.push({ line: line.no, cell: cells[i] as Cell, fate: "value" });
		}
		read.push({ line: line.no, cell: cells[0] as Cell, fate: "axis" });
	}
	if (points.length < 2) return false;
	for (const { line, cell, fate } of read) state.claim(line, cell.from, cell.to, fate);
	state.curves.push({
		property: "core_loss",
		columns: ["flux_density", "frequency", measured],
		units: [first.unit, "Hz", unit],
		header: {},
		rows: points,
		line: head.line.no,
		confidence: 0.92,
		...(/^J/.test(first.cell.text) ? { note: "over peak polarisation" } : {}),
	});
	return true;
}

/** Two axes side by side: polarisation or flux density over field. */
export function readXy(state: PageState, head: Head, rows: readonly Line[]): boolean {
	const [cx, cy] = head.columns as [Column, Column];
	const [x, y] = [axisById(cx.axis as string), axisById(cy.axis as string)];
	if (
		x === undefined ||
		y === undefined ||
		cx.unit === undefined ||
		cy.unit === undefined ||
		cx.axis !== "field" ||
		cy.axis !== "flux_density"
	)
		return false;
	const points = rows.flatMap((line) => {
		const [a, b] = under(head, line);
		const [qa, qb] = [numberIn(a?.text, cx.unit as string, x, state), numberIn(b?.text, cy.unit as string, y, state)];
		if (qa === null || qb === null || a == null || b == null) return [];
		return [{ cells: [qa.text, qb.text], si: [qa.si, qb.si], line: line.no, a, b }];
	});
	if (points.length < 2) return false;
	for (const { line, a, b } of points) {
		state.claim(line, a.from, a.to, "axis");
		state.claim(line, b.from, b.to, "value");
	}
	const frequency = /(\d[\d.,]*)\s*Hz/.exec(state.heading)?.[0];
	const quantity = /^(?:J|polari)/i.test(cy.cell.text) ? "J" : /^(?:B|flux|induc)/i.test(cy.cell.text) ? "B" : null;
	const header: Record<string, string> = {
		...(quantity === null ? {} : { quantity }),
		...(frequency === undefined ? {} : { excitation: "ac", frequency }),
	};
	state.curves.push({
		property: "bh_curve",
		columns: ["field", "flux_density"],
		units: [cx.unit, cy.unit],
		header,
		rows: points.map(({ cells, si, line }) => ({ cells, si, line })),
		line: head.line.no,
		confidence: 0.92,
	});
	return true;
}
