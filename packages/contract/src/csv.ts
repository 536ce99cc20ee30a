/**
 * Rows as text for a spreadsheet.
 * @param separator `,` for a file (cells quoted where needed), a tab for the clipboard
 */
export function csvText(rows: readonly (readonly string[])[], separator: "," | "\t"): string {
	return rows.map((row) => row.map((cell) => quoted(cell, separator)).join(separator)).join("\r\n");
}

/** What some spreadsheet in some country begins a formula or another cell with, also in its full width. */
const STARTS_FORMULA = /^\s*[=+\-@;＝＋－＠]|^[\t\r\n]/;
const PLAIN_NEGATIVE = /^-(?:\d[\d \u2009\u00a0]*)?(?:[.,]\d+)?(?:[eE][+-]?\d{1,3})?$/;

/** A cell that a spreadsheet neither splits nor takes for a formula. */
function quoted(cell: string, separator: string): string {
	const harmless = STARTS_FORMULA.test(cell) && !PLAIN_NEGATIVE.test(cell) ? `'${cell}` : cell;
	if (separator === "\t") return harmless.replace(/[\t\r\n]+/g, " ");
	return /[",\r\n]/.test(harmless) ? `"${harmless.replaceAll('"', '""')}"` : harmless;
}
