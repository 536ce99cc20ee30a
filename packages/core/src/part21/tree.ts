import type { Issue } from "../result";
import type { LeftOut, StepChild, StepSolid } from "./model";

/** `4 surface bodies, 1 wire body`. */
export function inWords(leftOut: readonly LeftOut[]): string {
	const counts = new Map<string, number>();
	for (const { what } of leftOut) counts.set(what, (counts.get(what) ?? 0) + 1);
	const plural = (what: string): string =>
		what.replace(/^(\w+ )?(body|solid|set|surface|space|copy)/, (all) => `${all.replace(/y$/, "ie")}s`);
	return [...counts].map(([what, n]) => `${n} ${n === 1 ? what : plural(what)}`).join(", ");
}

/** Does anything of this product or below it have a volume? Loops were refused before. */
export function hasSolids(
	products: readonly { readonly solids: readonly StepSolid[]; readonly children: readonly StepChild[] }[],
	at: number,
): boolean {
	const seen = new Set([at]);
	for (const index of seen) {
		const product = products[index];
		if ((product?.solids.length ?? 0) > 0) return true;
		for (const child of product?.children ?? []) seen.add(child.product);
	}
	return false;
}

export const MAX_OCCURRENCES = 50_000;

/** Number of occurrences without building them: a few levels of doubling make millions. */
export function countOccurrences(
	products: readonly { readonly children: readonly StepChild[] }[],
	roots: readonly number[],
): number {
	const memo = new Map<number, number>();
	const count = (index: number): number => {
		const known = memo.get(index);
		if (known !== undefined) return known;
		const total = 1 + (products[index]?.children.reduce((n, c) => n + count(c.product), 0) ?? 0);
		memo.set(index, total);
		return total;
	};
	return roots.reduce((n, root) => n + count(root), 0);
}

/** Deeper than any real assembly; what follows may then walk the tree by plain recursion. */
export const MAX_LEVELS = 500;

export function tooDeep(): Issue {
	return { code: "too-many-occurrences", expected: `at most ${MAX_LEVELS} levels` };
}

/** The first loop of products by its names, or a nesting without end in sight. Without recursion. */
export function checkTree(products: readonly { readonly name: string; readonly children: readonly StepChild[] }[]): Issue | null {
	const state = new Uint8Array(products.length);
	/** Levels below and including each product, known once it is left. */
	const levels = new Int32Array(products.length);
	for (let root = 0; root < products.length; root++) {
		const stack = state[root] === 0 ? [{ at: root, next: 0 }] : [];
		if (stack.length > 0) state[root] = 1;
		while (stack.length > 0) {
			const top = stack[stack.length - 1] as { at: number; next: number };
			const child = products[top.at]?.children[top.next++];
			if (child === undefined) {
				state[top.at] = 2;
				levels[top.at] = 1 + (products[top.at]?.children ?? []).reduce((n, c) => Math.max(n, levels[c.product] as number), 0);
				if ((levels[top.at] as number) > MAX_LEVELS) return tooDeep();
				stack.pop();
			} else if (state[child.product] === 1) {
				const from = stack.findIndex((s) => s.at === child.product);
				const names = [...stack.slice(from).map((s) => s.at), child.product].map((p) => products[p]?.name ?? "");
				return { code: "assembly-loop", actual: names.join(" → ") };
			} else if (state[child.product] === 0) {
				state[child.product] = 1;
				stack.push({ at: child.product, next: 0 });
			}
		}
	}
	return null;
}
