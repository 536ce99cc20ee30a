import { compose, IDENTITY, inverse, type Placement } from "../mass";
import { fail, type Issue, ok, type Result } from "../result";
import { colours } from "./colour";
import { parametersOf, partNames, refOf, refsOf, textOf } from "./parameters";
import { axisPlacement, operatorPlacement } from "./placement";
import type { Part21 } from "./scan";
import { lengthUnit } from "./unit";

/** A solid of a product, by its entity number, placed inside the product. Translations in metres. */
export type StepSolid = {
	readonly entity: number;
	readonly name: string;
	readonly placement: Placement;
	readonly colour: string | null;
};

export type StepChild = { readonly name: string; readonly product: number; readonly placement: Placement };

export type StepProduct = {
	/** Index in `products`. */
	readonly index: number;
	/** PRODUCT.id, a part number where the author gave one. */
	readonly id: string;
	readonly name: string;
	readonly solids: readonly StepSolid[];
	readonly children: readonly StepChild[];
};

export type StepModel = {
	readonly products: readonly StepProduct[];
	readonly roots: readonly number[];
	/** Metres in the length unit of the (first) context, for the record. */
	readonly lengthUnit: number;
};

const SOLID_TYPES = new Set(["MANIFOLD_SOLID_BREP", "BREP_WITH_VOIDS", "FACETED_BREP"]);

/** Products, their solids and how they are put together. Every loop of products is refused with its names. */
export function readModel(file: Part21): Result<StepModel> {
	return new ModelReader(file).read();
}

class ModelReader {
	private readonly byType = new Map<string, number[]>();
	/** Representation entity -> representations that stand for the same thing (plain relationships). */
	private readonly relatives = new Map<number, number[]>();
	private readonly colours: ReadonlyMap<number, string>;
	private issue: Issue | null = null;

	constructor(private readonly file: Part21) {
		for (let i = 0; i < file.types.length; i++) {
			const type = file.types[i] as string;
			if (type === "CARTESIAN_POINT" || type === "DIRECTION") continue;
			const list = this.byType.get(type);
			if (list === undefined) this.byType.set(type, [i]);
			else list.push(i);
		}
		this.colours = colours(file, this.all("STYLED_ITEM", "OVER_RIDING_STYLED_ITEM"));
		for (const i of this.all("SHAPE_REPRESENTATION_RELATIONSHIP")) {
			const [, , a, b] = parametersOf(file, i);
			this.relate(refOf(a), refOf(b));
		}
	}

	read(): Result<StepModel> {
		const { file } = this;
		// PRODUCT <- FORMATION <- PRODUCT_DEFINITION; several definitions of one product are several views of it
		const productOf = new Map<number, number>();
		for (const i of this.all("PRODUCT_DEFINITION_FORMATION", "PRODUCT_DEFINITION_FORMATION_WITH_SPECIFIED_SOURCE")) {
			productOf.set(this.number(i), refOf(parametersOf(file, i)[2]));
		}
		const definitions = this.all("PRODUCT_DEFINITION", "PRODUCT_DEFINITION_WITH_ASSOCIATED_DOCUMENTS");
		const shapes = this.shapesByDefinition();
		const placed = this.placementsByOccurrence(shapes);

		const drafts: { index: number; id: string; name: string; solids: StepSolid[]; children: StepChild[] }[] = [];
		const indexOf = new Map<number, number>();
		for (const i of definitions) {
			const formation = refOf(parametersOf(file, i)[2]);
			const product = file.byNumber.get(productOf.get(formation) ?? -1);
			const [id, name] = product === undefined ? [] : parametersOf(file, product);
			indexOf.set(this.number(i), drafts.length);
			drafts.push({
				index: drafts.length,
				id: textOf(id),
				name: textOf(name) || textOf(id) || `#${this.number(i)}`,
				solids: (shapes.get(this.number(i)) ?? []).flatMap((rep) => this.solidsOf(rep, IDENTITY, new Set())),
				children: [],
			});
		}
		const used = new Set<number>();
		for (const i of this.all("NEXT_ASSEMBLY_USAGE_OCCURRENCE")) {
			const [id, name, , parent, child] = parametersOf(file, i);
			const from = indexOf.get(refOf(parent));
			const to = indexOf.get(refOf(child));
			if (from === undefined || to === undefined) continue;
			const target = drafts[to] as (typeof drafts)[number];
			const placement = placed.get(this.number(i)) ?? IDENTITY;
			drafts[from]?.children.push({ name: textOf(name) || textOf(id) || target.name, product: to, placement });
			used.add(to);
		}
		const wrong = checkTree(drafts);
		if (wrong !== null) return fail(wrong);
		this.adoptOrphans(drafts);
		if (this.issue !== null) return fail(this.issue);
		const roots = drafts.filter((d) => !used.has(d.index) && (d.solids.length > 0 || d.children.length > 0)).map((d) => d.index);
		if (!drafts.some((d) => d.solids.length > 0)) return fail({ code: "no-solids" });
		return ok({ products: drafts, roots, lengthUnit: this.firstUnit() });
	}

	/** Solids that no product claims become products of their own, so that none is lost silently. */
	private adoptOrphans(drafts: { index: number; id: string; name: string; solids: StepSolid[]; children: StepChild[] }[]): void {
		const claimed = new Set(drafts.flatMap((d) => d.solids.map((s) => s.entity)));
		for (const i of this.all(...SOLID_TYPES)) {
			const entity = this.number(i);
			if (claimed.has(entity)) continue;
			const name = textOf(parametersOf(this.file, i)[0]) || `Solid #${entity}`;
			drafts.push({ index: drafts.length, id: "", name, solids: [this.solid(i, IDENTITY)], children: [] });
		}
	}

	/** PRODUCT_DEFINITION -> its representations. */
	private shapesByDefinition(): Map<number, number[]> {
		const { file } = this;
		const definitionOf = new Map<number, number>();
		for (const i of this.all("PRODUCT_DEFINITION_SHAPE")) definitionOf.set(this.number(i), refOf(parametersOf(file, i)[2]));
		const shapes = new Map<number, number[]>();
		for (const i of this.all("SHAPE_DEFINITION_REPRESENTATION")) {
			const [definition, representation] = parametersOf(file, i);
			const key = definitionOf.get(refOf(definition));
			if (key === undefined) continue;
			const list = shapes.get(key) ?? [];
			for (const rep of this.family(refOf(representation))) if (!list.includes(rep)) list.push(rep);
			shapes.set(key, list);
		}
		return shapes;
	}

	/** NEXT_ASSEMBLY_USAGE_OCCURRENCE -> placement of the child in its parent, from the text: item2 x inverse(item1). */
	private placementsByOccurrence(shapes: Map<number, number[]>): Map<number, Placement> {
		const { file } = this;
		const occurrenceOf = new Map<number, number>();
		for (const i of this.all("PRODUCT_DEFINITION_SHAPE")) occurrenceOf.set(this.number(i), refOf(parametersOf(file, i)[2]));
		const placements = new Map<number, Placement>();
		for (const i of this.all("CONTEXT_DEPENDENT_SHAPE_REPRESENTATION")) {
			const [relation, shape] = parametersOf(file, i);
			const occurrence = occurrenceOf.get(refOf(shape));
			const relationIndex = file.byNumber.get(refOf(relation));
			if (occurrence === undefined || relationIndex === undefined) continue;
			const [, , rep1, rep2] = parametersOf(file, relationIndex, "REPRESENTATION_RELATIONSHIP");
			const operator = refOf(parametersOf(file, relationIndex, "REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION")[0]);
			const operatorIndex = file.byNumber.get(operator);
			if (operatorIndex === undefined) continue;
			const [, , item1, item2] = parametersOf(file, operatorIndex);
			const first = axisPlacement(file, refOf(item1), this.unitOf(refOf(rep1)));
			const second = axisPlacement(file, refOf(item2), this.unitOf(refOf(rep2)));
			// rep_1 is the child's; some writers turn the pair round, which shows in whose representation it is
			const nauo = file.byNumber.get(occurrence);
			const parent = nauo === undefined ? -1 : refOf(parametersOf(file, nauo)[3]);
			const turned = shapes.get(parent)?.includes(refOf(rep1)) === true && !shapes.get(parent)?.includes(refOf(rep2));
			placements.set(occurrence, turned ? compose(first, inverse(second)) : compose(second, inverse(first)));
		}
		return placements;
	}

	/** Solids of one representation, through mapped items. */
	private solidsOf(representation: number, placement: Placement, above: ReadonlySet<number>): StepSolid[] {
		const { file } = this;
		const index = file.byNumber.get(representation);
		if (index === undefined) return [];
		if (above.has(representation)) {
			this.issue ??= { code: "assembly-loop", actual: `representation #${representation} maps itself` };
			return [];
		}
		if (above.size > MAX_LEVELS) {
			this.issue ??= tooDeep();
			return [];
		}
		const inside = new Set(above).add(representation);
		return refsOf(parametersOf(file, index)[1]).flatMap((item) => {
			const at = file.byNumber.get(item);
			if (at === undefined) return [];
			if (SOLID_TYPES.has(file.types[at] as string)) return [this.solid(at, placement)];
			if (file.types[at] !== "MAPPED_ITEM") return [];
			return this.mapped(at, representation, placement, inside);
		});
	}

	private mapped(at: number, representation: number, placement: Placement, inside: ReadonlySet<number>): StepSolid[] {
		const { file } = this;
		const [, map, target] = parametersOf(file, at);
		const mapIndex = file.byNumber.get(refOf(map));
		if (mapIndex === undefined) return [];
		const [origin, source] = parametersOf(file, mapIndex);
		const from = axisPlacement(file, refOf(origin), this.unitOf(refOf(source)));
		const targetIndex = file.byNumber.get(refOf(target)) as number;
		const isOperator = partNames(file, targetIndex).includes("CARTESIAN_TRANSFORMATION_OPERATOR_3D");
		const to = isOperator
			? operatorPlacement(file, refOf(target), this.unitOf(representation))
			: axisPlacement(file, refOf(target), this.unitOf(representation));
		if (to === null) {
			this.issue ??= { code: "scaled-placement", line: file.lines[targetIndex] as number, expected: "a placement without scale" };
			return [];
		}
		return this.solidsOf(refOf(source), compose(placement, compose(to, inverse(from))), inside);
	}

	private solid(index: number, placement: Placement): StepSolid {
		const entity = this.number(index);
		return { entity, name: textOf(parametersOf(this.file, index)[0]), placement, colour: this.colourOf(index) };
	}

	/** The solid's own colour, else one that all its coloured faces share. */
	private colourOf(index: number): string | null {
		const own = this.colours.get(this.number(index));
		if (own !== undefined) return own;
		const shell = this.file.byNumber.get(refOf(parametersOf(this.file, index)[1]));
		if (shell === undefined) return null;
		const faces = refsOf(parametersOf(this.file, shell)[1]);
		const found = new Set(faces.flatMap((face) => this.colours.get(face) ?? []));
		return found.size === 1 ? ([...found][0] as string) : null;
	}

	private unitOf(representation: number): number {
		const index = this.file.byNumber.get(representation);
		return (index === undefined ? null : lengthUnit(this.file, refOf(parametersOf(this.file, index)[2]))) ?? 1e-3;
	}

	private firstUnit(): number {
		for (const i of this.all("ADVANCED_BREP_SHAPE_REPRESENTATION", "SHAPE_REPRESENTATION", "FACETED_BREP_SHAPE_REPRESENTATION")) {
			const unit = lengthUnit(this.file, refOf(parametersOf(this.file, i)[2]));
			if (unit !== null) return unit;
		}
		return 1e-3;
	}

	private relate(a: number, b: number): void {
		this.relatives.set(a, [...(this.relatives.get(a) ?? []), b]);
		this.relatives.set(b, [...(this.relatives.get(b) ?? []), a]);
	}

	/** A representation and all that plain relationships tie to it. */
	private family(representation: number): readonly number[] {
		const seen = new Set([representation]);
		for (const rep of seen) for (const other of this.relatives.get(rep) ?? []) seen.add(other);
		return [...seen];
	}

	private all(...types: string[]): readonly number[] {
		return types.length === 1 ? (this.byType.get(types[0] as string) ?? []) : types.flatMap((t) => this.byType.get(t) ?? []);
	}

	private number(index: number): number {
		return this.file.numbers[index] as number;
	}
}

/** Deeper than any real assembly; what follows may then walk the tree by plain recursion. */
const MAX_LEVELS = 500;

function tooDeep(): Issue {
	return { code: "too-many-occurrences", expected: `at most ${MAX_LEVELS} levels` };
}

/** The first loop of products by its names, or a nesting without end in sight. Without recursion. */
function checkTree(products: readonly { readonly name: string; readonly children: readonly StepChild[] }[]): Issue | null {
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
