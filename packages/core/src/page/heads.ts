import { axisById } from "../property";
import { parseQuantity } from "../quantity";
import { type Cell, cellsOf, isBlankCell } from "./cells";
import { isUnit, type Label, readLabel } from "./label";
import { wordOf } from "./lexicon";
import { type Line, marksIn } from "./state";

/** What a column of a table holds. */
export type Role =
	| "label"
	| "symbol"
	| "unit"
	| "method"
	| "condition"
	| "min"
	| "typ"
	| "max"
	| "value"
	| "guaranteed"
	| "requirement"
	| "result"
	| "metric"
	| "us"
	| "state"
	| "at"
	| "property"
	| "axis"
	| "id"
	| "element"
	| "grade"
	/** A column that we do not know: its numbers are left. */
	| "other";

export type Column = {
	readonly cell: Cell;
	readonly role: Role;
	/** A unit that the head says for the whole column. */
	readonly unit?: string;
	/** Of a `property` column. */
	readonly label?: Label;
	/** Of an `axis` column, or of the quantity that `at` is one of. */
	readonly axis?: string;
	/** Of an `at` column: the quantity as written, with its unit, and in SI. */
	readonly at?: { readonly text: string; readonly si: number };
};

export type Head = {
	readonly line: Line;
	readonly columns: readonly Column[];
	readonly kind: "rows" | "columns" | "axis" | "composition" | "elements";
	/** Nothing but names side by side: a head only if the row under it is a label with as many numbers. */
	readonly weak?: true;
};

const ROLES: readonly (readonly [Role, RegExp])[] = [
	[
		"label",
		/^(?:propert|eigenschaft|kennwert|merkmal|characteristic|caractéristique|parameter|kenngröße|description|bezeichnung|test$|item$|propriété|grandeur|quantity$|größe$)|(?:properties|eigenschaften|kennwerte|data|werte)$/i,
	],
	["symbol", /^(?:symbol|formelzeichen|zeichen|kurzzeichen|symbole)$/i],
	["unit", /^(?:units?|einheit(?:en)?|unités?|dimension|maßeinheit)\.?$/i],
	["result", /^(?:results?|ergebnis|messwerte?|actual|measured|résultats?|istwert|ist)$/i],
	[
		"requirement",
		/^(?:requirements?|required|specifications?|spec\.?|limits?|anforderung(?:en)?|sollwert|soll|forderung|exigences?)$/i,
	],
	["guaranteed", /^(?:guarant|garant)/i],
	["min", /^(?:min(?:imum|imal|\.)?|mindest(?:wert)?e?|mini)(?![\p{L}])/iu],
	["max", /^(?:max(?:imum|imal|\.)?|höchst(?:wert)?e?|maxi)(?![\p{L}])/iu],
	["typ", /^(?:typ(?:ical|isch|ique|\.)?|nominal|mean|mittel(?:wert)?|richtwerte?|average|nenn(?:wert)?|moyenne)(?![\p{L}])/iu],
	["value", /^(?:values?|werte?|valeurs?|data|figures?)$/i],
	["method", /^(?:(?:test )?(?:methods?|standards?)|norm|prüf(?:norm|verfahren|methode)|according|nach|normes?|essai)/i],
	[
		"condition",
		/^(?:(?:test )?conditions?|bedingung(?:en)?|prüfbedingung(?:en)?|comments?|bemerkung(?:en)?|remarks?|notes?|directions?|richtung|remarques?)$/i,
	],
	["metric", /^(?:metric|si(?: units)?|metrisch|métrique)$/i],
	["us", /^(?:english|u\.?s\.?(?: customary| units)?|imperial|inch(?: units)?)$/i],
	[
		"id",
		/^(?=.)(?:heats?|test|batch|lot|specimens?|samples?|charge|probe|schmelze|coulée|éprouvette|piece|plate|coil|cast|item|pos\.?)?(?: ?(?:no|nr|n°|number)\.?)?$/i,
	],
	["other", /^(?:s\.?d\.?|std\.?(?: ?dev.*)?|standard deviation|standardabweichung|cv|cov|n|s|count|anzahl|±)$/i],
	["element", /^(?:elements?|constituents?|element|élément|bestandteil)$/i],
];
const GRADE_WORD =
	/^(?:zustand|temper|grades?|sorte|werkstoff|type|typ|state|condition|nuance|état|alloy|material|class|klasse|qualität|quality|designation|property)$/i;

const AXIS_WORDS: readonly (readonly [string, RegExp])[] = [
	["temperature", /^(?:temp(?:erature|eratur|érature|\.)?|t|ϑ|θ)(?![\p{L}])/iu],
	["frequency", /^(?:freq(?:uency|uenz|\.)?|fréquence|f)(?![\p{L}])/iu],
	["thickness", /^(?:(?:nominal |product |plate |sheet )?thickness|(?:nenn)?dicke|erzeugnisdicke|épaisseur|t)(?![\p{L}])/iu],
	[
		"diameter",
		/^(?:thread|diameter|nominal (?:diameter|size)|ø|gewinde|durchmesser|nenndurchmesser|size|diamètre|d)(?![\p{L}])/iu,
	],
	["flux_density", /^(?:(?:peak )?(?:flux density|polari[sz]ation)|induction|induktion|flussdichte|b|j|bmax|jmax)(?![\p{L}])/iu],
	["field", /^(?:field(?: strength)?|feldstärke|h)(?![\p{L}])/iu],
	["strain_rate", /^(?:strain ?rate|dehnrate)(?![\p{L}])/iu],
];

/** Chemical symbols, for the columns of an analysis. */
const ELEMENTS: ReadonlySet<string> = new Set(
	"H Li Be B C N O F Na Mg Al Si P S Cl K Ca Sc Ti V Cr Mn Fe Co Ni Cu Zn Ga Ge As Se Br Sr Y Zr Nb Mo Ru Rh Pd Ag Cd In Sn Sb Te Ba La Ce Pr Nd Sm Gd Dy Hf Ta W Re Os Ir Pt Au Pb Bi Th U".split(
		" ",
	),
);

/** `Ni`, `Nb + Ta`; null for no element. */
export function elementOf(text: string): string | null {
	const parts = text.replace(/\s+/g, "").split("+");
	return parts.length <= 4 && parts.every((p) => ELEMENTS.has(p)) ? parts.join("+") : null;
}

/** The head of a table, or null: two cells with a role, and none that is a value. */
export function headOf(line: Line): Head | null {
	const before = known.get(line);
	if (before !== undefined) return before;
	const found = look(line);
	known.set(line, found);
	return found;
}

/** Heads found before: a line is asked as a head and as the row of another one. */
const known = new WeakMap<Line, Head | null>();
const LONGEST_HEAD = 400;

function look(line: Line): Head | null {
	if (line.text.length > LONGEST_HEAD) return null;
	const cells = cellsOf(line.text);
	if (cells.length < 2 || cells.length > MOST_COLUMNS) return null;
	const elements = cells.filter((c) => elementOf(c.text) !== null).length;
	if (elements >= 3 && elements >= cells.length - 2)
		return {
			line,
			kind: "elements",
			columns: cells.map((cell) => ({ cell, role: elementOf(cell.text) === null ? "id" : "element" })),
		};
	const axis = axisHead(line, cells);
	if (axis !== null) return axis;
	const properties = propertyHead(line, cells);
	if (properties !== null) return properties;
	const columns = cells.map((cell, i) => roleOf(cell, i));
	const known = columns.filter((c) => c !== null && c.role !== "at" && c.role !== "state").length;
	const at = columns.filter((c) => c?.role === "at" || c?.role === "state").length;
	const first = columns[0];
	const isGraded = first === null && GRADE_WORD.test(cells[0]?.text ?? "");
	const begins = cells[0] === undefined ? null : readLabel(cells[0].text, marksIn(line, cells[0].from, cells[0].to));
	// a property in front of quantities is a row: `Heat deflection temperature | 190 °F | 88 °C`
	if (known < 2 && at > 0 && begins !== null && begins.properties.length > 0) return null;
	// a row of values is no head: numbers in a head are names, temperatures or states
	const bare = cells.some((c, i) => columns[i] === null && /^[<>≥≤~]?\s*[-−+]?\d[\d.,\s–-]*(?:\D{0,12})$/.test(c.text));
	const names = cells.filter(
		(c, i) => columns[i] === null && /^\p{L}[\p{L}\d ./-]{0,23}$/u.test(c.text) && readLabel(c.text, []) === null,
	).length;
	// a unit column and names side by side: `Unit | C60 | C80 | C130`
	const isNamed = columns.some((c) => c?.role === "unit") && names >= 2 && known + names === cells.length;
	if (known === 0 && at === 0 && !bare && !isGraded && cells.every((c) => NAME.test(c.text) && readLabel(c.text, []) === null))
		return { line, kind: "rows", weak: true, columns: cells.map((cell): Column => ({ cell, role: "grade" })) };
	if (bare || (known < 2 && known + at < 2 && !isGraded && !isNamed)) return null;
	if (known < 2 && at === 0 && !isGraded && !isNamed) return null;
	// `Dichte | Zustand`: words that a label could be as well
	// beside columns of values a name is no grade
	const isValued = columns.some((c) => c !== null && VALUED.has(c.role));
	const full = cells.map((cell, i): Column => {
		const column = columns[i];
		if (column != null) return column;
		return i === 0 ? { cell, role: "label" } : { cell, role: isValued ? "other" : "grade" };
	});
	if (full.some((c, i) => i > 0 && c.role === "element")) return null;
	const kind = full[0]?.role === "element" ? "composition" : "rows";
	// names of grades need letters; a sentence in a cell is none
	if (full.some((c) => c.role === "grade" && (!/\p{L}/u.test(c.cell.text) || c.cell.text.length > 40))) return null;
	return { line, columns: full, kind };
}

/** Columns that say what their numbers are. */
export const VALUED: ReadonlySet<Role> = new Set<Role>([
	"min",
	"typ",
	"max",
	"value",
	"guaranteed",
	"requirement",
	"result",
	"metric",
	"us",
]);
const MOST_COLUMNS = 24;
/** A grade or a temper alone in a cell: `C60`, `-T6`, `half hard`. */
const NAME = /^-?\p{L}[\p{L}\d ./-]{0,15}$/u;

function roleOf(cell: Cell, index: number): Column | null {
	const text = cell.text.replace(/[¹²³⁴*†]+$/, "").trim();
	const plain = text
		.replace(/\s*[[(][^\])]*[\])]\s*$/, "")
		.replace(/[,:]\s*$/, "")
		.trim();
	const at = quantityAt(text);
	if (at !== null) return { cell, role: "at", ...at };
	const bracket = /[[(]([^\])]{1,20})[\])]\s*$/.exec(text)?.[1];
	const unit = bracket !== undefined && isUnit(bracket) ? { unit: bracket } : {};
	if (/^\d{1,3}\s?°$/.test(text)) return { cell, role: "state" };
	const role = ROLES.find(([, words]) => words.test(plain))?.[0];
	if (role !== undefined && !(role === "id" && index > 2)) return { cell, role, ...unit };
	const words = plain.split(/[\s/,]+/).filter((w) => w !== "");
	if (
		index > 0 &&
		words.length > 0 &&
		words.length <= 3 &&
		words.every((w) => wordOf(w.toLowerCase().replace(/\.$/, "")).is === "condition")
	)
		return { cell, role: "state" };
	return null;
}

/** `20 °C`, `50 Hz`, `at 100 °C`: a quantity of an axis, and nothing else. */
function quantityAt(text: string): Pick<Column, "axis" | "at"> | null {
	const plain = text.replace(/^(?:at|bei|à)\s+/i, "").trim();
	if (!/^[-−+]?\d/.test(plain) || !/(?:°\s?[CF]|K|Hz|mm)$/.test(plain)) return null;
	for (const id of ["temperature", "frequency", "thickness"]) {
		const axis = axisById(id);
		const read = axis === undefined ? null : parseQuantity(plain, axis);
		if (read?.ok === true && read.value.low !== null && read.value.low === read.value.high)
			return { axis: id, at: { text: plain, si: read.value.low } };
	}
	return null;
}

/** The axis that a head names, with its unit: `Temp., °F (°C)`, `J in T`, `Thread`. */
export function axisNamed(text: string): { readonly axis: string; readonly unit: string | null } | null {
	const found = AXIS_WORDS.find(([, words]) => words.test(text.trim()))?.[0];
	if (found === undefined) return null;
	const rest = text.replace(/^[^\s,([]+/, "");
	const unit =
		/(?:[,\s([]|^)\s*(?:in\s+)?(°\s?[CF]|K|[kM]?Hz|mm|in|[kK]?A\/m|Oe|k?G|m?T|1\/s|s-1)(?![\p{L}])/u.exec(rest)?.[1] ?? null;
	if (found === "temperature" && /^(?:t)(?![p{L}])/i.test(text.trim()) && unit !== null && /mm|in/.test(unit))
		return { axis: "thickness", unit };
	// a lone letter is an axis only with its unit
	if (/^\p{L}$/u.test(text.trim()) || (/^\p{L}(?![\p{L}])/u.test(text.trim()) && unit === null)) return null;
	return { axis: found, unit };
}

/** An axis in the first cell and only quantities of it (or of one other) behind: a table over columns. */
function axisHead(line: Line, cells: readonly Cell[]): Head | null {
	const named = axisNamed(cells[0]?.text ?? "");
	if (named === null || cells.length < 3) return null;
	const others = cells.slice(1).map((cell): Column | null => {
		if (isBlankCell(cell.text)) return { cell, role: "condition" };
		const own = quantityAt(cell.text);
		if (own !== null) return { cell, role: "at", ...own };
		const axis = axisById(named.axis);
		if (named.unit === null || axis === undefined || !/^[-−+]?\d[\d.,]*$/.test(cell.text)) return null;
		const read = parseQuantity(`${cell.text} ${named.unit}`, axis);
		return read.ok && read.value.low !== null
			? { cell, role: "at", axis: named.axis, at: { text: `${cell.text} ${named.unit}`, si: read.value.low } }
			: null;
	});
	if (others.some((c) => c === null)) return null;
	const first: Column = {
		cell: cells[0] as Cell,
		role: "axis",
		axis: named.axis,
		...(named.unit === null ? {} : { unit: named.unit }),
	};
	return { line, kind: "axis", columns: [first, ...(others as Column[])] };
}

const SCALE = /^(?:HB|HBW|HV|HR[ABC])$/;

/** Properties over the columns: two heads that name one, or one beside an axis. */
function propertyHead(line: Line, cells: readonly Cell[]): Head | null {
	const columns = cells.map((cell, i): Column => {
		const axis = axisNamed(cell.text);
		if (i === 0 && axis !== null)
			return { cell, role: "axis", axis: axis.axis, ...(axis.unit === null ? {} : { unit: axis.unit }) };
		const simple = roleOf(cell, i);
		if (i <= 2 && (simple?.role === "id" || /^test(?: no\.?)?$/i.test(cell.text))) return { cell, role: "id" };
		// a cell that begins with a number is a value
		const begins = line.expressions.some((e) => e.from <= cell.from && cell.from < e.to);
		// `HV` is a symbol of its own, but beside other properties only
		const label =
			begins || (isUnit(cell.text) && !SCALE.test(cell.text)) ? null : readLabel(cell.text, marksIn(line, cell.from, cell.to));
		if (label !== null && label.properties.length > 0)
			return { cell, role: "property", label, ...(label.unit === undefined ? {} : { unit: label.unit }) };
		if (axis !== null) return { cell, role: "axis", axis: axis.axis, ...(axis.unit === null ? {} : { unit: axis.unit }) };
		return { cell, role: simple?.role === "condition" ? "condition" : "grade" };
	});
	const named = columns.filter((c) => c.role === "property").length;
	if (named > 0 && columns.every((c) => c.role !== "property" || SCALE.test(c.cell.text))) return null;
	const first = columns[0]?.role;
	const axes = columns.filter((c) => c.role === "axis").length;
	if (axes === 2 && columns.length === 2) return { line, columns, kind: "columns" };
	if (first === "property" && named < 2) return null;
	if (named < (first === "axis" || first === "id" ? 1 : 2)) return null;
	// a head holds no numbers but those of names, units and definitions
	const numbers = line.expressions.filter(
		(e) =>
			!columns.some((c) => c.role === "property" && c.cell.from <= e.from && e.to <= c.cell.to && /[/^]|°F|°C/.test(c.cell.text)),
	);
	return numbers.length > 0 ? null : { line, columns, kind: "columns" };
}

/** A unit without brackets around it: `[MPa]`. */
export function bareUnit(text: string): string {
	return /^\[[^\]]*\]$|^\([^()]*\)$/.test(text) ? text.slice(1, -1) : text;
}

/** Is the line nothing but units under a head? */
export function unitRow(line: Line): readonly Cell[] | null {
	const cells = cellsOf(line.text);
	const filled = cells.filter((c) => c.text !== "" && !isBlankCell(c.text));
	return filled.length > 0 && filled.every((c) => isUnit(bareUnit(c.text))) ? cells : null;
}
