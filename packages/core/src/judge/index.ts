import { type Check, type CheckedBase, checkMaterial, type Material, type OwnUse, type Readiness, readiness } from "../material";
import type { OwnProperty } from "../property";

/** What a material is judged beside. Required: a caller that knows nothing of one says so. */
export type JudgeContext = {
	/** Own properties of its library, as they are today; a use may need some of them, and their bounds count. */
	readonly own: readonly OwnProperty[];
	/** Uses that its library adds to the built-in ones; absent: none. */
	readonly uses?: readonly OwnUse[];
	/** What it began from, where that may be read; null otherwise. */
	readonly base: CheckedBase | null;
};

export type Judgement = {
	/** What looks wrong, the gravest first. */
	readonly checks: readonly Check[];
	/** What each use lacks or leaves in doubt. */
	readonly readiness: readonly Readiness[];
};

/** Nothing beside the document itself: no library, no base. */
export const ALONE: JudgeContext = { own: [], base: null };

/** Checks and readiness of a material: one judgement wherever it is shown, published or handed to a solver. */
export function judge(material: Material, context: JudgeContext): Judgement {
	const checks = checkMaterial(material, context);
	let uses: readonly Readiness[] | null = null;
	return {
		checks,
		// worked out when it is asked for: a plan of a thousand drafts shows the checks alone
		get readiness() {
			uses ??= readiness(material, checks, context.own, context.uses);
			return uses;
		},
	};
}
