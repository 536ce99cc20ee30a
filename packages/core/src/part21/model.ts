import { compose, IDENTITY, inverse, type Placement } from "../mass";
import { fail, type Issue, ok, type Result } from "../result";
import { colours } from "./colour";
import { LEFT_OUT_TYPES } from "./leftout.data";
import { type Parameter, parametersOf, refOf, refsOf, textOf } from "./parameters";
import { axisPlacement, isOperator, operatorPlacement } from "./placement";
import type { Part21 } from "./scan";
import { checkTree, countOccurrences, hasSolids, inWords, MAX_LEVELS, MAX_OCCURRENCES, tooDeep } from "./tree";
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

/** A body of the file that is no solid and so weighs nothing: surfaces, wires, points, triangles. */
export type LeftOut = { readonly entity: number; readonly name: string; readonly what: string };

export type StepModel = {
	readonly products: readonly StepProduct[];
	/** Named, never dropped in silence. */
	readonly leftOut: readonly LeftOut[];
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
	private readonly units = new Map<number, number>();
	private usagesOf: ReadonlyMap<string, readonly number[]> | null = null;
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
		const usages = this.usages(shapes);

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
				solids: (shapes.get(this.number(i)) ?? []).flatMap((rep) =>
					this.solidsOf(rep, IDENTITY, new Set(), usages.childShapes.get(this.number(i)) ?? NOTHING),
				),
				children: [],
			});
		}
		const used = new Set<number>();
		// usages that no relationship places: harmless where nothing of them has a shape
		const unplaced: { readonly usage: number; readonly child: number }[] = [];
		for (const i of this.all("NEXT_ASSEMBLY_USAGE_OCCURRENCE")) {
			const [id, name, , parent, child] = parametersOf(file, i);
			const from = indexOf.get(refOf(parent));
			const to = indexOf.get(refOf(child));
			if (from === undefined || to === undefined) {
				this.refuse(i, "a product that the file does not define", "the definitions of parent and child");
				continue;
			}
			const target = drafts[to] as (typeof drafts)[number];
			const placement = placed.get(this.number(i)) ?? this.mappedUsage(i, shapes) ?? null;
			if (placement === null) unplaced.push({ usage: i, child: to });
			drafts[from]?.children.push({
				name: textOf(name) || textOf(id) || target.name,
				product: to,
				placement: placement ?? IDENTITY,
			});
			used.add(to);
		}
		const wrong = checkTree(drafts);
		if (wrong !== null) return fail(wrong);
		for (const { usage, child } of unplaced)
			if (hasSolids(drafts, child)) this.refuse(usage, "a part that no relationship places", "where it stands in its assembly");
		this.adoptOrphans(drafts);
		const roots = drafts.filter((d) => !used.has(d.index) && (d.solids.length > 0 || d.children.length > 0)).map((d) => d.index);
		if (countOccurrences(drafts, roots) > MAX_OCCURRENCES)
			return fail({ code: "too-many-occurrences", expected: `at most ${MAX_OCCURRENCES}` });
		const unit = this.issue === null ? this.fileUnit() : null;
		if (this.issue !== null) return fail(this.issue);
		const leftOut = this.leftOut();
		if (!drafts.some((d) => d.solids.length > 0))
			return fail({ code: "no-solids", ...(leftOut.length === 0 ? {} : { actual: inWords(leftOut) }) });
		return ok({ products: drafts, roots, leftOut, lengthUnit: unit as number });
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
			const [by] = parametersOf(file, relationIndex, "REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION");
			const operatorIndex = file.byNumber.get(refOf(by));
			if (operatorIndex === undefined) {
				this.refuse(
					relationIndex,
					"a relationship without a transformation",
					"a REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION",
				);
				continue;
			}
			const placement = this.transformation(operatorIndex, rep1, rep2);
			if (placement === null) continue;
			// rep_1 is the child's; some writers turn the pair round, which shows in whose representation it is
			const nauo = file.byNumber.get(occurrence);
			const parent = nauo === undefined ? -1 : refOf(parametersOf(file, nauo)[3]);
			const turned = shapes.get(parent)?.includes(refOf(rep1)) === true && !shapes.get(parent)?.includes(refOf(rep2));
			placements.set(occurrence, turned ? inverse(placement) : placement);
		}
		return placements;
	}

	/** The motion from one representation to the other: item 2 x inverse(item 1), or what an operator says. */
	private transformation(index: number, rep1: Parameter | undefined, rep2: Parameter | undefined): Placement | null {
		const { file } = this;
		if (isOperator(file, index)) return this.value(operatorPlacement(file, index, this.unitOf(refOf(rep2))));
		if (file.types[index] !== "ITEM_DEFINED_TRANSFORMATION") {
			this.refuse(index, "another kind of transformation", "an ITEM_DEFINED_TRANSFORMATION");
			return null;
		}
		const [, , item1, item2] = parametersOf(file, index);
		const first = this.value(axisPlacement(file, item1, this.unitOf(refOf(rep1))));
		const second = this.value(axisPlacement(file, item2, this.unitOf(refOf(rep2))));
		return first === null || second === null ? null : compose(second, inverse(first));
	}

	/** PRODUCT_DEFINITION -> representations of the products that stand in it by assembly usages. */
	private usages(shapes: ReadonlyMap<number, readonly number[]>): {
		readonly childShapes: ReadonlyMap<number, ReadonlySet<number>>;
	} {
		const childShapes = new Map<number, Set<number>>();
		for (const i of this.all("NEXT_ASSEMBLY_USAGE_OCCURRENCE")) {
			const [, , , parent, child] = parametersOf(this.file, i);
			const known = childShapes.get(refOf(parent)) ?? new Set();
			for (const rep of shapes.get(refOf(child)) ?? []) known.add(rep);
			childShapes.set(refOf(parent), known);
		}
		return { childShapes };
	}

	/** Usages of one child in one parent, in the order of the file. */
	private siblings(): ReadonlyMap<string, readonly number[]> {
		if (this.usagesOf !== null) return this.usagesOf;
		const found = new Map<string, number[]>();
		for (const i of this.all("NEXT_ASSEMBLY_USAGE_OCCURRENCE")) {
			const [, , , parent, child] = parametersOf(this.file, i);
			const key = `${refOf(parent)} ${refOf(child)}`;
			const list = found.get(key);
			if (list === undefined) found.set(key, [i]);
			else list.push(i);
		}
		this.usagesOf = found;
		return found;
	}

	/** Some writers place a usage by a mapped item in the parent instead of a relationship. One that is unique says where. */
	private mappedUsage(usage: number, shapes: ReadonlyMap<number, readonly number[]>): Placement | null {
		const { file } = this;
		const [, , , parent, child] = parametersOf(file, usage);
		const ofChild = new Set(shapes.get(refOf(child)) ?? []);
		const found: Placement[] = [];
		for (const rep of shapes.get(refOf(parent)) ?? []) {
			const index = file.byNumber.get(rep);
			for (const item of index === undefined ? [] : refsOf(parametersOf(file, index)[1])) {
				const at = file.byNumber.get(item);
				if (at === undefined || file.types[at] !== "MAPPED_ITEM") continue;
				const map = this.mapOf(at, rep);
				if (map !== null && ofChild.has(map.source)) found.push(map.placement);
			}
		}
		const siblings = this.siblings().get(`${refOf(parent)} ${refOf(child)}`) ?? [];
		return found.length === siblings.length ? (found[siblings.indexOf(usage)] ?? null) : null;
	}

	/** Solids of one representation, through mapped items; those that assembly usages stand for are theirs. */
	private solidsOf(
		representation: number,
		placement: Placement,
		above: ReadonlySet<number>,
		usedBelow: ReadonlySet<number>,
	): StepSolid[] {
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
			const map = this.mapOf(at, representation);
			if (map === null || usedBelow.has(map.source)) return [];
			return this.solidsOf(map.source, compose(placement, map.placement), inside, usedBelow);
		});
	}

	/** What a mapped item shows, and where; null with an issue where that cannot be read. */
	private mapOf(at: number, representation: number): { readonly source: number; readonly placement: Placement } | null {
		const { file } = this;
		const [, map, to] = parametersOf(file, at);
		const mapIndex = file.byNumber.get(refOf(map));
		const toIndex = file.byNumber.get(refOf(to));
		if (mapIndex === undefined || toIndex === undefined || file.types[mapIndex] !== "REPRESENTATION_MAP") {
			this.refuse(at, "a mapped item without its map", "a REPRESENTATION_MAP and a target");
			return null;
		}
		const [origin, source] = parametersOf(file, mapIndex);
		const from = this.value(axisPlacement(file, origin, this.unitOf(refOf(source))));
		const unit = this.unitOf(representation);
		const target = this.value(isOperator(file, toIndex) ? operatorPlacement(file, toIndex, unit) : axisPlacement(file, to, unit));
		if (from === null || target === null) return null;
		return { source: refOf(source), placement: compose(target, inverse(from)) };
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

	/** Metres in the unit of a representation; an issue where it has none. */
	private unitOf(representation: number): number {
		const known = this.units.get(representation);
		if (known !== undefined) return known;
		const index = this.file.byNumber.get(representation);
		const unit =
			this.value(lengthUnit(this.file, index === undefined ? undefined : parametersOf(this.file, index)[2])) ?? Number.NaN;
		this.units.set(representation, unit);
		return unit;
	}

	/** The unit of the representations that hold solids; the kernel would take millimetres where none is said. */
	private fileUnit(): number {
		let first: number | null = null;
		for (const i of this.all("ADVANCED_BREP_SHAPE_REPRESENTATION", "FACETED_BREP_SHAPE_REPRESENTATION", "SHAPE_REPRESENTATION")) {
			const items = refsOf(parametersOf(this.file, i)[1]);
			const solid = items.some((item) => SOLID_TYPES.has(this.file.types[this.file.byNumber.get(item) ?? -1] ?? ""));
			if (solid) first ??= this.unitOf(this.number(i));
			if (solid) this.unitOf(this.number(i));
		}
		if (first === null && this.all(...SOLID_TYPES).length > 0) this.issue ??= { code: "no-length-unit" };
		return first ?? Number.NaN;
	}

	/** Bodies that are no solids, once each; what makes up another one counts with it. */
	private leftOut(): readonly LeftOut[] {
		const found = this.all(...Object.keys(LEFT_OUT_TYPES)).map((i) => ({
			entity: this.number(i),
			name: textOf(parametersOf(this.file, i)[0]),
			what: LEFT_OUT_TYPES[this.file.types[i] as string] as string,
		}));
		const inside = new Set(
			found.flatMap((f) => {
				const index = this.file.byNumber.get(f.entity) as number;
				return [...this.file.refs.slice(this.file.refStarts[index], this.file.refStarts[index + 1])];
			}),
		);
		return found.filter((f) => !inside.has(f.entity));
	}

	/** The value, or null with its issue kept: the first one refuses the file. */
	private value<T>(result: Result<T>): T | null {
		if (result.ok) return result.value;
		this.issue ??= result.issues[0] ?? null;
		return null;
	}

	private refuse(index: number, actual: string, expected: string): void {
		const at = { line: this.file.lines[index] as number, path: `#${this.number(index)} ${this.file.types[index]}`.trim() };
		this.issue ??= { code: "bad-placement", ...at, actual, expected };
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

const NOTHING: ReadonlySet<number> = new Set();
