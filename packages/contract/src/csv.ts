/**
 * Rows as text for a spreadsheet.
 * @param separator `,` for a file (cells quoted where needed), a tab for the clipboard
 */
export function csvText(rows: readonly (readonly string[])[], separator: "," | "\t"): string {
	return rows.map((row) => row.map((cell) => quoted(cell, separator)).join(separator)).join("\r\n");
}

/** A cell that a spreadsheet neither splits nor takes for a formula. */
function quoted(cell: string, separator: string): string {
	const harmless = /^[=+@\t\r]|^-(?!\d)/.test(cell) ? `'${cell}` : cell;
	if (separator === "\t") return harmless.replace(/[\t\r\n]+/g, " ");
	return /[",\r\n]/.test(harmless) ? `"${harmless.replaceAll('"', '""')}"` : harmless;
}
