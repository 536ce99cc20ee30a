import { compose, IDENTITY, type Placement } from "../mass";
import { fail, ok, type Result } from "../result";
import { checkReferences, reachable } from "./check";
import { readModel, type StepModel } from "./model";
import { type Part21, scanPart21 } from "./scan";

export type { LeftOut, StepModel, StepProduct, StepSolid } from "./model";
export { inWords as leftOutInWords } from "./tree";

/**
 * Reads names, tree, placements, colours and units of a STEP file, and refuses what would crash or mislead a kernel:
 * broken grammar, dangling references, missing parameters, loops, numbers that are none, files without solids.
 */
export function readStep(text: string): Result<StepModel> {
	const scanned = scanPart21(text);
	if (!scanned.ok) return scanned;
	const file = scanned.value;
	const references = checkReferences(file);
	if (!references.ok) return references;
	const model = readModel(file);
	if (!model.ok) return model;
	const geometry = reachable(file, solidIndices(file, model.value));
	if (!geometry.ok) return geometry;
	const numbers = checkNumbers(file, model.value);
	if (!numbers.ok) return numbers;
	return model;
}

function solidIndices(file: Part21, model: StepModel): number[] {
	return model.products.flatMap((p) => p.solids.map((s) => file.byNumber.get(s.entity) as number));
}

/** Names the solid whose geometry holds a number that is none. */
function checkNumbers(file: Part21, model: StepModel): Result<null> {
	const bad = file.badNumbers[0];
	if (bad === undefined) return ok(null);
	const entity = `#${file.numbers[bad.index]} ${file.types[bad.index]}`;
	for (const product of model.products) {
		for (const solid of product.solids) {
			const reach = reachable(file, [file.byNumber.get(solid.entity) as number]);
			if (!reach.ok || !reach.value.has(bad.index)) continue;
			const name = product.solids.length > 1 && solid.name !== "" ? `${product.name} / ${solid.name}` : product.name;
			return fail({ code: "not-finite-coordinate", line: bad.line, path: `the solid “${name}”`, actual: bad.token });
		}
	}
	return fail({ code: "not-finite-coordinate", line: bad.line, path: entity, actual: bad.token });
}

/** One product where the tree puts it, in assembly coordinates (metres). */
export type StepOccurrence = {
	readonly product: number;
	readonly name: string;
	/** Names of occurrences from the root, joined by `/`. */
	readonly path: string;
	readonly placement: Placement;
	readonly parent: number | null;
};

/** All occurrences, depth first, parents before children; `parent` is an index into the result. */
export function occurrences(model: StepModel): readonly StepOccurrence[] {
	const found: StepOccurrence[] = [];
	const visit = (here: StepOccurrence): void => {
		const parent = found.length;
		found.push(here);
		for (const { product, name, placement } of model.products[here.product]?.children ?? [])
			visit({ product, name, path: `${here.path}/${name}`, placement: compose(here.placement, placement), parent });
	};
	for (const root of model.roots) {
		const name = model.products[root]?.name ?? "";
		visit({ product: root, name, path: name, placement: IDENTITY, parent: null });
	}
	return found;
}
