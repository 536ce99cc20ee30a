export { rebaseExpansion, secantFromInstantaneous } from "./expansion";
export { flowStress } from "./flow-models";
export {
	type Coefficients,
	type Failure,
	initialShearModulus,
	instabilities,
	instability,
	MODES,
	nominalStress,
	statedStretches,
	tangent,
	USUAL_RANGE,
} from "./hyperelastic";
export { increasing, interpolate, type Points, type Reading, resample, slopeAt } from "./interpolate";
export { type Field, isoline, type Piece, roundLevels } from "./isolines";
export {
	firstFall,
	flowCurve,
	fromEngineering,
	plastic,
	proofStress,
	type StressStrain,
	steepest,
	toEngineering,
} from "./stress-strain";
export { type Thinned, thin } from "./thin";
