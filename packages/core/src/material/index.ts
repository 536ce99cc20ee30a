export { addressIssue, sourceAddressIssue } from "./address";
export { readBare } from "./bare";
export { canonicalJson, sameContent } from "./canonical";
export {
	type BlockEdits,
	blockEdits,
	type Cell,
	type CellBlock,
	cellEdit,
	cellText,
	fillEdit,
	MOST_CELLS,
	type RefusedCell,
	readCells,
	retype,
} from "./cells";
export {
	acknowledge,
	type Check,
	type CheckContext,
	type CheckedBase,
	checkKey,
	checkMaterial,
	checkText,
	type Figure,
	figureUnits,
} from "./checks";
export { elasticGap } from "./checks-elastic";
export { cleanName, decodeField, decodeMaterial, decodeSource, nameKey } from "./decode";
export { CONDITIONS } from "./decode-series";
export { decodeOwn } from "./decode-value";
export {
	applyEdits,
	applyStored,
	type ChangeClass,
	classify,
	contentAt,
	difference,
	type Edit,
	isValuePlace,
	mergeEdits,
	type Side,
	sameNumbers,
} from "./edit";
export {
	ELASTIC_IDS,
	type Elastic,
	type ElasticId,
	type ElasticSource,
	elasticOf,
	elasticSet,
	elasticSource,
	isDirectional,
	isElasticId,
	missingComponents,
	orthotropic,
	orthotropicStability,
	positiveDefinite,
	setConstants,
	setStability,
	solveIsotropic,
	stiffnessMatrix,
} from "./elastic";
export { strengthsOf, timesFactor } from "./factor";
export { filesOf } from "./files";
export { type Derived, derivedForms, engineeringForm, flowMembers, memberTemperature } from "./flow";
export {
	DISCRIMINATING,
	isNear,
	type Likened,
	type Likeness,
	likeness,
	type NameLikeness,
	NEAR,
	nameLikeness,
	wordsLikeness,
	wordsOfName,
} from "./likeness";
export { LIMITS } from "./limits";
export { coefficient, type Details, makeCoefficient, makeValue } from "./make";
export { decodeOwnUse, type OwnUse, type OwnUseId, ownUseId } from "./ownuse";
export { COMB_USES, modelNumbers, type Readiness, readiness, USES, type UseId } from "./readiness";
export { readSeries } from "./reading";
export { type Member, makeSeries, memberPoints, members, rowPoints, type TypedColumn } from "./series";
export { isWebAddress } from "./shape";
export { type TypedMaterial, typedMaterial } from "./typed";
export {
	type Acknowledgement,
	type Attachment,
	BASES,
	BASIS_WORD,
	type Bases,
	type Basis,
	BLANK,
	type Carried,
	type Coefficient,
	type Constituent,
	EVIDENCE,
	EVIDENCE_WORD,
	type Evidence,
	FIELDS,
	type Field,
	HATCHES,
	type Hatch,
	type HatchPattern,
	type Interpolation,
	isNameLike,
	type Look,
	type Material,
	type MaterialValue,
	type ModelValue,
	NAME_LIKE,
	type NumberValue,
	PLAIN_LOOK,
	type Price,
	PURPOSES,
	type SeriesColumn,
	type SeriesValue,
	type SetValue,
	SOURCE_KINDS,
	type Source,
	SPREADS,
	type Spread,
	TEXTURES,
	type Texture,
	type ValueHead,
} from "./types";
export { upgradedContent, upgradedPlace, upgradeMaterial } from "./upgrade";
export {
	asVariant,
	confirmed,
	densityOf,
	firstForm,
	firstValue,
	freshValueId,
	fromSimilar,
	holdsOutside,
	isNumber,
	isSeries,
	quantityOf,
	REFERENCE_TEMPERATURE,
	readTable,
	specOf,
	temperatureTable,
	valueLabel,
	valuesOf,
	workingOf,
	workingRule,
	workingValue,
} from "./value";
export {
	checkWhere,
	EVIDENCE_WORDS,
	type EvidenceWord,
	evidenceOnly,
	MOST_SPANS,
	PRICE,
	readWhere,
	type Where,
	writeWhere,
} from "./where";
