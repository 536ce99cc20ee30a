import { type Dimension, dimensionText, halvesOf, NONE } from "./dimension";
import { normaliseText } from "./normalise";
import { exact, power, type Rational, rootToDouble, scaled, times, toDouble, ZERO } from "./rational";
import { AS_FORCE, AS_MASS, PREFIXES, UNITS } from "./units.data";

/** A unit ready for exact conversion. `root` says that the true factor is the square root of `factor`. */
export type Unit = {
	readonly text: string;
	readonly factor: Rational;
	readonly root: boolean;
	readonly dimension: Dimension;
	/** Added to the number before the factor; only a lone absolute temperature has one. */
	readonly offset: Rational;
	/** The factor as a double, for display only. */
	readonly approximate: number;
	/** Decimal exponent when the factor is a power of ten, else null: shifting the point is then exact. */
	readonly tens: number | null;
};

type Atom = { readonly factor: Rational; readonly dimension: Dimension; readonly offset: Rational | null };

const ATOMS: ReadonlyMap<string, Atom> = buildAtoms();
const KCAL_IT: Atom = { factor: exact("4186.8"), dimension: (ATOMS.get("J") as Atom).dimension, offset: null };

function buildAtoms(): Map<string, Atom> {
	const atoms = new Map<string, Atom>();
	for (const row of UNITS) {
		const factor = exact(row.factor);
		const offset = row.offset === undefined ? null : exact(row.offset);
		for (const name of row.names) {
			atoms.set(name, { factor, dimension: row.dimension, offset });
			for (const prefix of row.prefixes?.split(" ") ?? []) {
				const tens = scaled(1n, PREFIXES[prefix] as number);
				const atom = { factor: times(factor, tens), dimension: row.dimension, offset: null };
				atoms.set(prefix + name, atom);
				if (prefix === "u") atoms.set(`μ${name}`, atom);
			}
		}
	}
	return atoms;
}

/** How trade shorthand is read: does a slash take all that follows, is `lb` a force. */
type Reading = { readonly slashTakesAll: boolean; readonly force: boolean };
const READINGS: readonly Reading[] = [
	{ slashTakesAll: false, force: false },
	{ slashTakesAll: true, force: false },
	{ slashTakesAll: false, force: true },
	{ slashTakesAll: true, force: true },
];

/** `null`: the text names no unit that we know. */
export type UnitReading = { readonly unit: Unit; readonly fits: boolean };

/**
 * Reads a unit such as `lbf s2/in4`, `W/(m·K)`, `ksi·√in` or `10^-6/K`, already normalised.
 * `lb` and `kg` are mass or force by the dimension wanted, and `J/kg K` means J/(kg·K) when only that fits.
 * @returns the first reading whose dimension is wanted, else the plain one with `fits: false`; null for an unknown unit.
 */
export function readUnit(text: string, wanted: readonly Dimension[]): UnitReading | null {
	const known = KNOWN_UNITS.get(text);
	if (known !== undefined && wanted.includes(known.dimension)) return { unit: known, fits: true };
	if (text.length > LONGEST_UNIT) return null;
	const key = `${wanted.join(" ")} ${text}`;
	const before = READ.get(key);
	if (before !== undefined) return before;
	const found = readAfresh(text, wanted);
	if (READ.size >= MOST_READ) READ.clear();
	READ.set(key, found);
	return found;
}

/** Units read before: tables and pages repeat theirs. */
const READ = new Map<string, UnitReading | null>();
const MOST_READ = 4000;

function readAfresh(text: string, wanted: readonly Dimension[]): UnitReading | null {
	const plain = firstFitting(spelt(text), wanted);
	if (plain?.fits === true) return plain;
	// `W/mK` is written for watts per metre kelvin, not per millikelvin, and `J/kgK` for per kilogram kelvin
	const run = runTogether(spelt(text));
	const parted = run === null ? null : firstFitting(run, wanted);
	return parted !== null && (parted.fits || plain === null) ? parted : plain;
}

function firstFitting(text: string, wanted: readonly Dimension[]): UnitReading | null {
	let plain: Unit | null = null;
	for (const reading of READINGS) {
		const unit = parseUnit(text, reading);
		if (unit === null) return null;
		if (wanted.includes(unit.dimension)) return { unit, fits: true };
		plain ??= unit;
	}
	return plain === null ? null : { unit: plain, fits: false };
}

/** Is the word a unit, or a run of units written without a sign between them (`kgK`)? */
export function isUnitWord(word: string): boolean {
	return ATOMS.has(word) || word in AS_MASS || word === "per" || runTogether(word) !== null;
}

/** Units written without a sign between them: `kgK`, `µΩcm`, `mK`; only such tails are parted. Null where nothing is. */
function runTogether(text: string): string | null {
	// `Ωmm^2`: the power is of the millimetres; `kgm3` may have lost a stroke and is no unit
	const parted = text.replace(/([\p{L}μΩ]+)(\^?[+-]?\d+)?/gu, (whole, word: string, power = "") => {
		if (ATOMS.has(word) && word !== "mK") return whole;
		const tail = /(K|cm|mm|m)$/.exec(word)?.[0] ?? "";
		const head = word.slice(0, word.length - tail.length);
		if (tail === "" || !ATOMS.has(head)) return whole;
		return power === "" || !head.endsWith("Ω") ? `(${head}·${tail})${power}` : `(${head}·${tail}${power})`;
	});
	return parted === text ? null : parted;
}

/** `ft-lb` and `sqrt(m)` in the spelling that the grammar knows. */
function spelt(text: string): string {
	return (
		text
			.replace(/%\s+IACS/, "%IACS")
			.replace(/\b(cu|sq)(?:bic|uare)?\.?\s*(in|inch|ft|cm|m|mm)\b\.?/g, (_, power, unit) => `${unit}^${power === "cu" ? 3 : 2}`)
			// a power of ten in a head: `E-4/°C`, `1e-6/°C`, `x 10^-6/K`
			.replace(/^(?:1(?:\.0*)?)?[eE](?=[+-]?\d)/, "10^")
			.replace(/^[x×*·]\s*(?=10)/, "")
			.replace(/^(10(?:\^?[+-]?\d+))\s+1(?=\s*\/)/, "$1")
			.replace(/\s*√\s*/g, "√")
			.replace(/(?<=[\p{L}\d°)])-(?=[\p{L}°(])/gu, "·")
			.replace(/(?<=[\p{L}\d)])\.(?=[\p{L}°(])/gu, "·")
			.replace(/\^(\d),(\d)/g, "^$1.$2")
			.replace(/sqrt\s*\(?\s*([A-Za-z]+)\s*\)?/g, "√$1")
	);
}

const TOKEN =
	/\s*(?:(10\^?[+-]?\d+(?![\d.]))|(%IACS|°?[A-Za-z%‰μΩ'"]+(?:_IT)?|1(?!\d|[./]\d))|\^?\(([+-]?\d+(?:[./]\d+)?)\)|\^?([+-]?\d+(?:[./]\d+)?)|([√/·*()])|$)/y;

/**
 * Bounds of what a unit may be, all far beyond any unit in use: they keep the exact arithmetic small before any of it is
 * done. No unit of the tables has more than two powers of a base unit beside time.
 */
const LONGEST_UNIT = 80;
const MOST_TENS = 60;
/** In halves; a packed dimension holds up to 31. */
const MOST_HALVES = 30;

function parseUnit(text: string, reading: Reading): Unit | null {
	if (text.length > LONGEST_UNIT) return null;
	let factor: Rational = { n: 1n, d: 1n };
	let dimension: Dimension = NONE;
	let tens = 0;
	let offset: Rational = ZERO;
	let root = false;
	let atomCount = 0;
	const atoms: { atom: Atom; halves: number }[] = [];
	const hours = /(^|[^A-Za-z])hr?([^A-Za-z]|$)/.test(text);

	// one pass; `inverse` is the sign of exponents here, a stack remembers it across parentheses
	let inverse = 1;
	let afterSlash = false;
	let pendingRoot = false;
	let last: { atom: Atom; halves: number } | null = null;
	const stack: number[] = [];
	let at = 0;
	while (at < text.length) {
		TOKEN.lastIndex = at;
		const match = TOKEN.exec(text);
		if (match === null || match[0].length === 0) return null;
		at = TOKEN.lastIndex;
		const [, powerOfTen, name, bracketed, plainExponent, sign] = match;
		const exponent = bracketed ?? plainExponent;
		if (powerOfTen !== undefined && /^10(\^|[+-])/.test(powerOfTen)) {
			if (atoms.length > 0) return null;
			tens += Number(powerOfTen.replace(/^10\^?/, "")) * inverse;
			last = null;
		} else if (name !== undefined && name !== "1" && name !== "per") {
			const atom = atomOf(name, reading, hours);
			if (atom === null) return null;
			last = { atom, halves: (pendingRoot ? 1 : 2) * inverse };
			pendingRoot = false;
			atoms.push(last);
			atomCount++;
			if (afterSlash && !reading.slashTakesAll && stack.length === 0) inverse = 1;
			afterSlash = afterSlash && reading.slashTakesAll;
		} else if (name === "1" && atoms.length === 0 && tens === 0) {
			last = null;
		} else if (exponent !== undefined || name === "1" || powerOfTen !== undefined) {
			const value = exponentOf(exponent ?? powerOfTen ?? "1");
			if (last === null || value === null || last.halves * value !== Math.trunc(last.halves * value)) return null;
			last.halves *= value;
			last = null;
		} else if (sign === "√") {
			pendingRoot = true;
		} else if (sign === "/" || name === "per") {
			if (afterSlash && !reading.slashTakesAll) return null;
			inverse = -(stack.at(-1) ?? 1);
			afterSlash = true;
			last = null;
		} else if (sign === "(") {
			stack.push(inverse);
			afterSlash = false;
		} else if (sign === ")") {
			if (stack.length === 0) return null;
			stack.pop();
			inverse = stack.at(-1) ?? 1;
			last = null;
		}
	}
	const hanging = /[/·*]\s*$/.test(text);
	if (hanging || stack.length > 0 || pendingRoot || (atomCount === 0 && tens === 0 && text !== "1" && text !== "")) return null;

	if (Math.abs(tens) > MOST_TENS || !fitsPacked(atoms)) return null;
	root = atoms.some((a) => a.halves % 2 !== 0);
	for (const { atom, halves } of atoms) {
		dimension += (atom.dimension / 2) * halves;
		factor = times(factor, power(atom.factor, root ? halves : halves / 2));
	}
	factor = times(factor, scaled(1n, root ? 2 * tens : tens));
	// an offset has meaning only for a lone degree, not for "per degree"
	const lone = atoms[0];
	if (atoms.length === 1 && lone?.halves === 2 && tens === 0 && lone.atom.offset !== null) offset = lone.atom.offset;
	return makeUnit({ text, factor, root, dimension, offset });
}

/** Would every step of adding up these dimensions stay inside what a packed dimension holds? */
function fitsPacked(atoms: readonly { readonly atom: Atom; readonly halves: number }[]): boolean {
	const sums = [0, 0, 0, 0, 0];
	for (const { atom, halves } of atoms) {
		for (const [i, own] of halvesOf(atom.dimension).entries()) {
			sums[i] += (own / 2) * halves;
			if (Math.abs(sums[i]) > MOST_HALVES) return false;
		}
	}
	return true;
}

function atomOf(name: string, reading: Reading, hours: boolean): Atom | null {
	// kcal beside an hour is the International Table calorie: 1 kcal/(m h K) = 1.163 W/(m K)
	if (name === "kcal" && hours) return KCAL_IT;
	const shorthand = (reading.force ? AS_FORCE : AS_MASS)[name];
	return ATOMS.get(shorthand ?? name) ?? null;
}

/** `2`, `-1`, `0.5` or `1/2`; null when it is none of a whole or half power up to 12. */
function exponentOf(text: string): number | null {
	const [above = "", below] = text.split("/");
	const value = below === undefined ? Number(above) : Number(above) / Number(below);
	return Number.isInteger(value * 2) && Math.abs(value) <= 12 && value !== 0 ? value : null;
}

/** Null for a unit so large or small that no double holds its factor. */
function makeUnit(read: Pick<Unit, "text" | "factor" | "root" | "dimension" | "offset">): Unit | null {
	const { factor, root } = read;
	const approximate = root ? rootToDouble(factor) : toDouble(factor);
	if (!Number.isFinite(approximate) || approximate === 0) return null;
	const log = Math.round(Math.log10(approximate));
	const tens = !root && scaled(1n, log).n * factor.d === scaled(1n, log).d * factor.n ? log : null;
	return { ...read, approximate, tens };
}

/** Units met every day, read once when the module loads: the parser then finds them by their text. */
export const KNOWN_UNITS: ReadonlyMap<string, Unit> = new Map(
	(
		"kg/m^3 kg/m3 g/cm^3 g/cm3 g/mm3 t/mm3 lb/in^3 lb/in3 lb/ft^3 lb/ft3 Pa kPa MPa GPa N/mm2 N/mm^2 psi ksi Msi 1 % " +
		"W/(m·K) W/(m*K) W/m/K J/(kg·K) J/(kg*K) J/kg/K 10^-6/K 1e-6/K /K /°C /°F °C °F K Ω·m μΩ·cm %IACS MPa·√m MPa√m ksi·√in " +
		"μm/(m·K) ppm/K ppm/°C Btu/(h·ft·°F) Btu/(lb·°F) J kJ/m^2 kJ/m2 J/m J/m^2 kV/mm"
	)
		.split(" ")
		.flatMap((text) => {
			const unit = parseUnit(text, READINGS[0] as Reading);
			return unit === null ? [] : [[text, unit] as const];
		}),
);

/** A unit from our own tables; a bug when it cannot be read. */
export function unitOf(text: string): Unit {
	const unit = KNOWN_UNITS.get(text) ?? parseUnit(text, READINGS[0] as Reading);
	if (unit === null) throw new Error(`unit table names an unknown unit: ${text}`);
	return unit;
}

/** The SI unit of the same dimension, spelled from base units; null for a text that is no unit. */
export function siUnitOf(text: string): string | null {
	const reading = readUnit(normaliseText(text), []);
	return reading === null ? null : dimensionText(reading.unit.dimension);
}

/** 20 °C as a value is 293.15 K, as a difference 20 K. */
type Kind = "value" | "difference";

/** number in this unit -> SI double, rounded once. */
export function toSi(x: Rational, unit: Unit, kind: Kind = "value"): number {
	if (unit.root) {
		const magnitude = rootToDouble(times(times(x, x), unit.factor));
		return x.n < 0n ? -magnitude : magnitude;
	}
	return toDouble(exactSi(x, unit, kind) as Rational);
}

/** A number in this unit as an exact SI fraction; null for a unit with a root. */
export function exactSi(x: Rational, unit: Unit, kind: Kind = "value"): Rational | null {
	if (unit.root) return null;
	const shifted =
		kind === "difference" || unit.offset.n === 0n ? x : { n: x.n * unit.offset.d + unit.offset.n * x.d, d: x.d * unit.offset.d };
	return times(shifted, unit.factor);
}

/** SI double -> the number in this unit, as a double. For display; what was typed is kept elsewhere. */
export function fromSi(si: number, unit: Unit, kind: Kind = "value"): number {
	if (unit.tens !== null && unit.offset.n === 0n) {
		// dividing by an exact power of ten, not multiplying by an inexact reciprocal, keeps 2710 -> 2.71
		return unit.tens >= 0 ? si / 10 ** unit.tens : si * 10 ** -unit.tens;
	}
	const scaledValue = si / unit.approximate;
	return kind === "difference" ? scaledValue : scaledValue - toDouble(unit.offset);
}
