export { BLOCK_LIMITS, type Block, type BlockColumn, readBlock, wantedAxes } from "./block";
export { type Entry, readEntry } from "./entry";
export { readLabel } from "./label";
export { marksOf } from "./marks";
export { type NewMaterialLine, readNewMaterial } from "./newmaterial";
export { basisWords, PASTE_LIMITS, readPage } from "./page";
export { cleanPaste, plainText } from "./text";
export type {
	Ask,
	Fate,
	NumberRun,
	Page,
	PageComposition,
	PageConstituent,
	PagePrice,
	Taken,
	TakenCurve,
	TakenTable,
} from "./types";
