export { rebaseExpansion, secantFromInstantaneous } from "./expansion";
export { type Coefficients, initialShearModulus, instability, nominalStress } from "./hyperelastic";
export { increasing, interpolate, type Points, type Reading, resample, slopeAt } from "./interpolate";
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
