export { inSet, SOLVER_SETS, type SolverSet, solverSet, unitInSet } from "./sets";
export {
	RESAMPLE_TOLERANCE,
	SOLVER_USES,
	type SolverMaterial,
	type SolverNumber,
	type SolverTable,
	type SolverUse,
	solverMaterial,
} from "./table";
export { solverCsv, solverJson, solverText } from "./write";
