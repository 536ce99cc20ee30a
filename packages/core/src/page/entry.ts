import { type LineContext, readLine } from "./line";
import { cleanPaste } from "./text";
import type { Ask, Taken } from "./types";

export type Entry = {
	readonly taken: readonly Taken[];
	readonly asks: readonly Ask[];
	/** Pieces that name no property or whose number does not read. */
	readonly left: readonly string[];
};

/**
 * Reads several entries in one line: `rho 2.71 g/cm3; E 68.9 GPa; nu 0.33`. A bare number takes the unit that the
 * field of that property shows.
 * @param fieldUnit the unit shown for a property
 */
export function readEntry(text: string, fieldUnit: (propertyId: string) => string | undefined): Entry {
	const taken: Taken[] = [];
	const asks: Ask[] = [];
	const left: string[] = [];
	const pieces = cleanPaste(text)
		.slice(0, 4000)
		.split(/[;\n]/)
		.map((p) => p.trim());
	for (const [index, piece] of pieces.entries()) {
		if (piece === "") continue;
		const context: LineContext = { line: index + 1, fieldUnit };
		const reading = readLine(piece, context);
		if (reading.kind === "taken") taken.push(...reading.taken);
		else if (reading.kind === "ask") asks.push(reading.ask);
		else left.push(piece);
	}
	return { taken, asks, left };
}
