export { BLOCK_LIMITS, type Block, type BlockColumn, readBlock, wantedAxes } from "./block";
export { type Entry, readEntry } from "./entry";
export { nameIn } from "./line";
export { type NewMaterialLine, readNewMaterial } from "./newmaterial";
export { basisWords, PASTE_LIMITS, readPage } from "./page";
export { cleanPaste, plainText } from "./text";
export type { Ask, Page, PagePrice, Taken } from "./types";
