import { judge } from "../judge";
import {
	type Check,
	EVIDENCE_WORDS,
	firstValue,
	isNumber,
	isSeries,
	type Material,
	type MaterialValue,
	type OwnUse,
	type Readiness,
	workingOf,
	workingValue,
} from "../material";
import { familyName, type OwnProperty } from "../property";

/** Raised whenever the same document would give other facts; stored ones of another version are made anew. */
export const FACTS_VERSION = 5;

/** What finding needs to know of one document, so that no document is read to answer a question about thousands. */
export type Facts = {
	/**
	 * `[property, low, high, working, evidence]`, SI, null where open or none; the first of a property leads. Evidence is
	 * its place among `EVIDENCE_WORDS`; without one it counts as none. A price per kilogram stands as `price:EUR`.
	 */
	readonly spans: readonly (readonly [string, number | null, number | null, number | null, number?])[];
	/** The family and everything above it. */
	readonly family: readonly string[];
	readonly supplier: readonly string[];
	/** Uses that it is ready for, with or without doubts. */
	readonly ready: readonly string[];
	readonly carries: readonly string[];
	readonly evidence: readonly string[];
	readonly basis: readonly string[];
	/** What is still open: carried over, without a source, a check that says wrong. */
	readonly open: readonly string[];
	/** Words that a text filter looks in. */
	readonly words: string;
	readonly condition: string;
	/** Names and notes of the files attached, one a line. */
	readonly files: string;
	readonly readiness: readonly Readiness[];
};

/** What the table itself keeps of them. */
export type TableFacts = Omit<Facts, "readiness">;

const FORM_CARRIES: Readonly<Record<string, string>> = {
	stress_strain: "flow_curve",
	plasticity_model: "flow_curve",
	hyperelastic_model: "rubber_model",
	sn_curve: "sn_curve",
	creep_model: "creep_model",
	bh_curve: "bh_curve",
	core_loss: "loss",
	core_loss_model: "loss",
	demagnetisation: "demagnetisation",
};

/**
 * @param own properties that the library adds to the catalogue; a use may need some of them
 * @param ownUses uses that the library adds to the built-in ones
 */
export function factsOf(material: Material, own: readonly OwnProperty[], ownUses: readonly OwnUse[] = []): Facts {
	// the base lives in another row, and none of its checks is counted in finding
	const { checks, readiness: uses } = judge(material, { own, uses: ownUses, base: null });
	const values = Object.values(material.values);
	return {
		spans: [...spansOf(material), ...priceSpan(material)],
		family: withAbove(material.family, "."),
		supplier: material.supplier === "" ? [] : [material.supplier],
		ready: uses.filter((r) => r.state !== "not-ready").map((r) => r.use),
		carries: carriesOf(material),
		evidence: distinct(values.map((v) => v.evidence ?? "none")),
		basis: distinct(values.map((v) => v.basis ?? "none")),
		open: openOf(material, checks),
		words: wordsOf(material),
		condition: material.condition,
		files: filesOf(material).join("\n"),
		readiness: uses,
	};
}

/** `a.b.c` and all that stands above it: `a`, `a.b`, `a.b.c`. */
export function withAbove(path: string | null, separator: string): readonly string[] {
	if (path === null || path === "") return [];
	const steps = path.split(separator);
	return steps.map((_, i) => steps.slice(0, i + 1).join(separator));
}

function distinct(words: readonly string[]): readonly string[] {
	return [...new Set(words)].sort();
}

/** The number that each property works with, SI. */
export function numbersOf(material: Material): ReadonlyMap<string, number> {
	const numbers = new Map<string, number>();
	for (const [property, , , working] of spansOf(material))
		if (working !== null && !numbers.has(property)) numbers.set(property, working);
	return numbers;
}

/** Spans of every property; the first number of each leads, as it does in the grid. */
function spansOf(material: Material): Facts["spans"] {
	const byProperty = new Map<string, MaterialValue[]>();
	for (const value of Object.values(material.values)) {
		if (ends(value) !== null) byProperty.set(value.property, [...(byProperty.get(value.property) ?? []), value]);
	}
	return [...byProperty].flatMap(([property, list]) => {
		const first = firstValue(material, property);
		const leading = first ?? (list[0] as MaterialValue);
		const working = first === null ? workingOf(material, property) : (workingValue(first) ?? first.low ?? first.high);
		return [leading, ...list.filter((v) => v !== leading)].map((value, i) => {
			const [low, high] = ends(value) as readonly [number | null, number | null];
			const evidence = EVIDENCE_WORDS.indexOf(value.evidence ?? "none");
			return [property, low, high, i === 0 ? working : null, evidence] as const;
		});
	});
}

/** Prices of two currencies are never compared, so each has a column of its own. */
function priceSpan({ price }: Material): Facts["spans"] {
	const amount = price === null ? Number.NaN : Number(price.amount);
	if (price === null || !Number.isFinite(amount)) return [];
	return [[`price:${price.currency}`, amount, amount, amount]];
}

/** What a value reaches over, SI; null when it is not made of numbers of its property. A curve has no single property. */
function ends(value: MaterialValue): readonly [number | null, number | null] | null {
	if (isNumber(value)) return [value.low, value.high];
	if (!isSeries(value) || value.kind !== "table") return null;
	const column = value.columns.at(-1);
	if (column === undefined || column.si.length === 0) return null;
	return [Math.min(...column.si), Math.max(...(column.high ?? column.si))];
}

function carriesOf(material: Material): readonly string[] {
	const kinds = new Set<string>();
	for (const value of Object.values(material.values)) {
		const form = FORM_CARRIES[value.property];
		if (form !== undefined && (isSeries(value) || value.kind === "model")) kinds.add(form);
		if (value.kind === "set") kinds.add("directional");
		if (value.kind === "readings") kinds.add("readings");
		if (isSeries(value) && value.columns.some((c) => c.of === "temperature")) {
			kinds.add("over_temperature");
			if (value.property === "youngs_modulus") kinds.add("modulus_over_temperature");
		}
	}
	if (material.composition.length > 0) kinds.add("composition");
	if (material.price !== null) kinds.add("price");
	for (const { purpose } of Object.values(material.attachments)) if (purpose !== "other") kinds.add(purpose);
	return [...kinds].sort();
}

function openOf(material: Material, checks: readonly Check[]): readonly string[] {
	const values = Object.values(material.values).filter((v) => v.kind !== "unknown" && v.kind !== "not-applicable");
	const open: string[] = [];
	if (values.some((v) => v.carried !== undefined) || Object.keys(material.carriedFields).length > 0) open.push("carried");
	if (values.some((v) => v.source === undefined && v.sourceId === undefined)) open.push("no_source");
	if (values.some((v) => v.evidence === undefined)) open.push("no_evidence");
	if (checks.some((c) => c.severity === "wrong" && c.acknowledged === undefined)) open.push("wrong");
	return open;
}

function filesOf({ attachments }: Material): readonly string[] {
	return Object.values(attachments).flatMap(({ name, note }) => (note.trim() === "" ? [name] : [name, note]));
}

function wordsOf(material: Material): string {
	const words = [
		material.supplier,
		material.condition,
		material.productForm,
		material.description,
		...material.designations.map((d) => `${d.system ?? ""} ${d.text}`),
		material.family === null ? "" : (familyName(material.family) ?? ""),
		...filesOf(material),
		...Object.values(material.attachments).map((a) => a.format),
	];
	return words
		.filter((w) => w.trim() !== "")
		.join("\n")
		.toLowerCase();
}
