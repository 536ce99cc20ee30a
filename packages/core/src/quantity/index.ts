export { type Dimension, dimension, dimensionText, NONE } from "./dimension";
export { rangeText, type Shown, shiftPoint, showQuantity, significant, significantDigits, typeset, unitParts } from "./format";
export type { DecimalMark } from "./number";
export { parseQuantity } from "./parse";
export type { ParseOptions, Quantity, QuantityShape, QuantitySpec } from "./types";
export { fromSi, readUnit, type Unit, unitOf } from "./unit";
export { HARDNESS_SCALES } from "./units.data";
