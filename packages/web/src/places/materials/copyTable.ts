import { csvText, type MaterialRow } from "@alvek/contract";
import { firstValue, temperatureTable, workingOf } from "@alvek/core/material";
import { showToast } from "../../stores/toasts";
import { copyText } from "../../ui/copy";
import { numberIn } from "../../ui/Quantity";
import { counted } from "../../ui/words";
import { cellTextIn } from "./cells/plan";
import type { GridColumn } from "./numbers";
import { type WordColumn, wordIn } from "./wordColumns";

/** Rows as the grid shows them, as text for a spreadsheet: names first, units in the head, digits as they were typed. */
export function tableText(rows: readonly MaterialRow[], words: readonly WordColumn[], columns: readonly GridColumn[]): string {
	const head = ["Material", "Library", ...words.map((w) => w.name), ...columns.map((c) => `${c.spec.name} [${c.unit}]`)];
	const body = rows.map((row) => [
		row.name,
		row.library,
		...words.map((w) => wordIn(row, w.id)),
		...columns.map((c) => numberText(row, c)),
	]);
	return csvText([head, ...body], "\t");
}

/** A table over temperature says its number at 20 °C, as its cell does. */
function numberText({ document }: MaterialRow, column: GridColumn): string {
	if (firstValue(document, column.id) !== null || temperatureTable(document, column.id) === null)
		return cellTextIn(document, column);
	const working = workingOf(document, column.id);
	return working === null ? "a table" : `${numberIn(working, column.unit)} at 20 °C`;
}

/** Puts them on the clipboard and says so. */
export function copyTable(rows: readonly MaterialRow[], words: readonly WordColumn[], columns: readonly GridColumn[]): void {
	if (rows.length === 0 || !copyText(tableText(rows, words, columns))) return;
	sayCopied(rows.length);
}

export function sayCopied(rows: number): void {
	showToast({ tone: "plain", text: `${counted(rows, "row")} in the clipboard, with names and units.` });
}
