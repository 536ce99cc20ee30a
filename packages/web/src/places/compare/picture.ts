import type { CompareRow } from "@alvek/core/compare";
import type { UnitSetId } from "@alvek/core/property";
import { coloursOf } from "../../shared/chart/style";
import type { Column } from "./useCompared";
import { axisOf, differenceText, entryText, unitText } from "./words";

const LEFT = 210;
const COLUMN = 200;
const LINE = 44;
const HEAD = 64;
const MARGIN = 20;

/** The comparison drawn on a canvas as it stands on screen, for a report. Twice as many pixels as on screen. */
export function comparePicture(
	columns: readonly Column[],
	rows: readonly CompareRow[],
	base: number,
	unitSet: UnitSetId,
): HTMLCanvasElement {
	const canvas = document.createElement("canvas");
	const [width, height] = [MARGIN * 2 + LEFT + COLUMN * columns.length, MARGIN * 2 + HEAD + LINE * rows.length];
	canvas.width = width * 2;
	canvas.height = height * 2;
	const c = canvas.getContext("2d");
	if (c === null) return canvas;
	const colours = coloursOf("");
	const text = (
		words: string,
		x: number,
		y: number,
		style: { bold?: boolean; small?: boolean; right?: boolean; most?: number } = {},
	): void => {
		c.font = `${style.bold ? 700 : 400} ${style.small ? 11 : 13}px Commissioner, sans-serif`;
		c.fillStyle = style.small ? colours.ink2 : colours.ink;
		c.textAlign = style.right ? "right" : "left";
		c.fillText(words, x, y, style.most);
	};
	c.scale(2, 2);
	c.fillStyle = colours.card;
	c.fillRect(0, 0, width, height);
	c.translate(MARGIN, MARGIN);
	const left = (i: number): number => LEFT + COLUMN * i;
	for (const [i, column] of columns.entries()) {
		c.fillStyle = column.material.colour;
		c.fillRect(left(i), 4, 9, 18);
		text(column.name, left(i) + 16, 18, { bold: true, most: COLUMN - 34 });
		text(column.draft ? "draft" : `rev ${column.revision}`, left(i) + 16, 36, { small: true });
		if (i === base) text(column.present ? "present" : "compared with", left(i) + COLUMN - 18, 36, { small: true, right: true });
	}
	c.fillStyle = colours.ink;
	c.fillRect(0, HEAD - 12, width - MARGIN * 2, 1);
	for (const [n, row] of rows.entries()) {
		const top = HEAD + n * LINE;
		const axis = axisOf(row, unitSet);
		text(row.name, 0, top + 14, { most: LEFT - 14 });
		text(unitText(row, unitSet), 0, top + 30, { small: true });
		for (const [i, entry] of row.entries.entries()) {
			const x = left(i);
			const bar = COLUMN - 18;
			text(entryText(entry, row, unitSet), x, top + 14, { bold: entry.kind === "number", most: 110 });
			const of = columns[base]?.present ? "present" : "as much";
			if (i !== base)
				text(differenceText([entry, row.entries[base]], row, of, unitSet), x + bar, top + 14, {
					small: true,
					right: true,
					most: 84,
				});
			c.fillStyle = colours.line;
			c.fillRect(x, top + 20, bar, 8);
			if (entry.kind !== "number") continue;
			for (const figure of [entry.figure, entry.across]) {
				if (figure === null) continue;
				const [from, to] = [figure.low === null ? 0 : axis.at(figure.low), figure.high === null ? 1 : axis.at(figure.high)];
				c.fillStyle = columns[i]?.material.colour ?? colours.ink;
				c.fillRect(x + from * bar, top + 20, Math.max(4, (to - from) * bar), 8);
			}
			const against = row.entries[base];
			if (against?.kind !== "number" || against.figure.working === null) continue;
			c.strokeStyle = colours.ink;
			c.setLineDash([2, 2]);
			c.beginPath();
			c.moveTo(x + axis.at(against.figure.working) * bar, top + 17);
			c.lineTo(x + axis.at(against.figure.working) * bar, top + 31);
			c.stroke();
			c.setLineDash([]);
		}
		c.fillStyle = colours.line;
		c.fillRect(0, top + LINE - 8, width - MARGIN * 2, 1);
	}
	return canvas;
}
