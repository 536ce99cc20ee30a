export { canonicalJson, sameContent } from "./canonical";
export { type Check, checkMaterial, checkText, type Figure, type Severity } from "./checks";
export { cleanName, decodeMaterial, LIMITS, nameKey } from "./decode";
export { applyEdits, type ChangeClass, classify, contentAt, difference, type Edit, mergeEdits } from "./edit";
export { type Readiness, readiness, USES, type UseId } from "./readiness";
export {
	BASES,
	type Basis,
	BLANK,
	type Carried,
	EVIDENCE,
	type Evidence,
	FIELDS,
	type Field,
	type Material,
	type MaterialValue,
} from "./types";
export {
	confirmed,
	densityOf,
	firstValue,
	freshValueId,
	fromSimilar,
	makeValue,
	quantityOf,
	valueLabel,
	workingValue,
} from "./value";
