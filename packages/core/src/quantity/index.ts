export { type Dimension, dimension, dimensionText, NONE } from "./dimension";
export { rangeText, type Shown, shiftPoint, showQuantity, significant, significantDigits, typeset, unitParts } from "./format";
export type { DecimalMark } from "./number";
export { type ParseOptions, parseQuantity, type Quantity, type QuantityShape, type QuantitySpec } from "./parse";
export { fromSi, readUnit, type Unit, unitOf } from "./unit";
export { HARDNESS_SCALES } from "./units.data";
