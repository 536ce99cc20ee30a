import type { Copied, CopyPlan, RouteInput } from "@alvek/contract";
import { counted, listed } from "../ui/words";

export type Taken = NonNullable<RouteInput<"copyMany">["taken"]>;

/** What is copied: materials, or a group with all below it. */
export type CopyWhat = ({ readonly ids: readonly string[] } | { readonly ofGroup: string }) & {
	/** As it is called in sentences. */
	readonly name: string;
	readonly several: boolean;
	/** The library that all of it stands in; null: in several. */
	readonly from: string | null;
	/** Can the originals be retired by whoever asks? */
	readonly mayMove: boolean;
};

/** A pair of libraries as one word: where it is copied from and to. */
export const pairKey = (from: string | null, to: string): string => `${from ?? ""} ${to}`;

/** Pairs of libraries whose group is remembered. */
const MOST_PAIRS = 40;

/** The remembered groups with this one of a pair; the oldest give way. A blank one is nothing to remember. */
export function withPair(
	groups: Readonly<Record<string, string>>,
	pair: string,
	group: string,
): Readonly<Record<string, string>> {
	const others = Object.entries(groups).filter(([key]) => key !== pair);
	return Object.fromEntries([...others, ...(group === "" ? [] : [[pair, group] as const])].slice(-MOST_PAIRS));
}

/** What becomes of taken names before anybody has said so: nothing is to be done where it says the same there already. */
export const answerAtFirst = (plan: CopyPlan): Taken | null => (plan.taken.every((t) => t.same) ? "leave" : null);

/** Would anything happen with this answer? */
export const doesSomething = (plan: CopyPlan, taken: Taken | null, move: boolean): boolean =>
	taken !== null && (plan.fresh > 0 || (plan.taken.length > 0 && (taken !== "leave" || move)));

/** What became of it, as one sentence. */
export function afterCopy(done: Copied, what: string, library: string): string {
	const made = done.copied + done.revised;
	const onlyRevised = done.copied === 0 && done.revised === 1;
	const parts = [
		made === 0 ? "" : `${what} ${done.moved > 0 ? "moved" : "copied"} to ${library}${onlyRevised ? " as its next revision" : ""}`,
		done.revised === 0 || onlyRevised ? "" : `${done.revised} as next revisions`,
		done.proposed === 0
			? ""
			: `${what}: ${done.proposed === 1 ? "the copy waits" : `${done.proposed} copies wait`} for approval in ${library}`,
		made === 0 && done.moved > 0 ? `${what} retired: it stands in ${library} already` : "",
		made + done.proposed + done.moved === 0 ? `Nothing was copied to ${library}` : "",
		done.left.length === 0
			? ""
			: `left out: ${done.left.length > 4 ? `${counted(done.left.length, "material")}, ${listed(done.left.slice(0, 3))} …` : listed(done.left)}`,
	];
	return parts.filter((p) => p !== "").join("; ");
}
