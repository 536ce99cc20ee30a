import { sameWithinRounding } from "../quantity";
import { catalogueId, evaluate, evaluateText, questionOf } from "./evaluate";
import type { Expression } from "./expression";
import { type Head, type Role, VALUED } from "./heads";
import { type About, endsText, proposals } from "./propose";
import { type CellRead, claimCell, claimTold, pushTable, type ReadValue, type Row, readCell, rowOf } from "./row";
import type { Line, PageState } from "./state";

/** Columns whose cells are numbers. */
const NUMBERS: ReadonlySet<Role> = new Set<Role>([...VALUED, "state", "at", "grade"]);
/** Columns that say themselves which end they are, whatever the label says. */
const ENDS: ReadonlySet<Role> = new Set<Role>(["min", "typ", "max", "result"]);

/** Columns by role: min, typ, max; typical and guaranteed; requirement and result; two systems; grades; directions. */
export function readRoleRows(state: PageState, head: Head, rows: readonly Line[]): boolean {
	let found = false;
	for (const line of rows) {
		const row = rowOf(head, line);
		if (row === null || !readRoleRow(state, head, row)) continue;
		claimTold(state, row);
		found = true;
	}
	if (!found) return false;
	for (const { role, cell } of head.columns)
		if (role === "grade" && !state.grades.includes(cell.text)) state.grades.push(cell.text);
	return true;
}

function readRoleRow(state: PageState, head: Head, row: Row): boolean {
	const { line, label, cells, conditions } = row;
	const reads = head.columns.map(({ role, unit }, i): CellRead => {
		if (!NUMBERS.has(role)) return { is: "blank" };
		const stated = row.unit ?? unit;
		return readCell(
			{ line, cell: cells[i] ?? null },
			label,
			{ mark: state.mark, ...(stated === undefined ? {} : { unit: stated }) },
			!ENDS.has(role),
		);
	});
	const about = (more: Partial<About> = {}): About => ({
		line: line.no,
		conditions,
		confidence: label.confidence * 0.97,
		...(label.ask === undefined ? {} : { question: label.ask }),
		...more,
	});
	const under = (role: Role): ReadValue | null => {
		const at = reads.find((r, i) => head.columns[i]?.role === role && r.is === "value");
		return at?.is === "value" ? at : null;
	};
	const paired = reads.find((r) => r.is === "pair");
	if (paired?.is === "pair") return readPair(state, row, paired.e);
	const isBeside = besideEachOther(state, { head, row, reads }, about);
	if (readAt(state, head, row, reads) || isBeside) return true;
	const asked = reads.find((r) => r.is === "asked");
	if (asked?.is === "asked") return askCell(state, row, asked);
	const value = under("value");
	if (value !== null) return take(state, row, [value], about({ conditions: [...conditions, ...value.conditions] }));
	const [typ, guaranteed] = [under("typ"), under("guaranteed")];
	// typical beside guaranteed: the limits are the value, the typical number works
	if (guaranteed !== null) {
		const basis = { basis: "guaranteed-minimum" as const };
		return typ === null
			? take(state, row, [guaranteed], about(basis))
			: take(state, row, [guaranteed, typ], about({ ...basis, working: typ.value.text, bases: { working: "typical" } }));
	}
	const [min, max] = [under("min"), under("max")];
	const [requirement, result] = [under("requirement"), under("result")];
	// what was measured between two limits works like a typical number
	if (min !== null || typ !== null || max !== null)
		return takeEnds(state, row, { min, typ: typ ?? result, max, isTypical: typ !== null }, about);
	if (requirement !== null && result !== null)
		return take(state, row, [requirement, result], about({ working: result.value.text }));
	const only = requirement ?? result;
	if (only !== null) return take(state, row, [only], about());
	return takeTwice(state, row, [under("metric"), under("us")], about());
}

/** Grades, directions and states side by side: each cell is a value of its own. */
function besideEachOther(
	state: PageState,
	{ head, row, reads }: { readonly head: Head; readonly row: Row; readonly reads: readonly CellRead[] },
	about: (more?: Partial<About>) => About,
): boolean {
	let found = false;
	for (const [i, { role, cell }] of head.columns.entries()) {
		const read = reads[i];
		if ((role !== "grade" && role !== "state") || read?.is !== "value") continue;
		const where = role === "grade" ? { grade: cell.text } : { conditions: [...row.conditions, cell.text] };
		found = take(state, row, [read], about(where)) || found;
	}
	return found;
}

function askCell(state: PageState, row: Row, asked: Extract<CellRead, { is: "asked" }>): boolean {
	state.asks.push({
		line: row.line.no,
		text: row.line.text,
		property: asked.choices[0]?.property ?? catalogueId(row.label.properties[0] as string),
		question: asked.question,
		choices: asked.choices,
		...(row.conditions.length === 0 ? {} : { condition: row.conditions.join(", ") }),
	});
	claimCell(state, row.line, asked);
	return true;
}

/** Takes a cell as the row's value; `beside` is a number that goes with it, as its working value. */
function take(state: PageState, row: Row, [read, beside]: readonly [ReadValue, ReadValue?], about: About): boolean {
	state.taken.push(...proposals(row.label, read.value, about));
	claimCell(state, row.line, read);
	if (beside !== undefined) claimCell(state, row.line, beside);
	return true;
}

/** Min, typical and max columns are one value. */
function takeEnds(
	state: PageState,
	row: Row,
	ends: { min: ReadValue | null; typ: ReadValue | null; max: ReadValue | null; isTypical: boolean },
	about: (more?: Partial<About>) => About,
): boolean {
	const { min, typ, max } = ends;
	// a range or a double unit in a column of its own is that value
	const text = (r: ReadValue | null): string | undefined => (r === null ? undefined : r.value.text.replace(/^[<>]= /, ""));
	const parts = {
		...(min === null ? {} : { min: text(min) as string }),
		...(typ === null ? {} : { typ: text(typ) as string }),
		...(max === null ? {} : { max: text(max) as string }),
	};
	const only = min === null && max === null ? typ : null;
	const combined = endsText(parts);
	if (combined === null) return false;
	const { limit: _said, ...plain } = row.label;
	const whole = evaluateText(plain, combined.text, state.mark);
	if (!whole.ok) {
		const asked = questionOf(plain, (min ?? typ ?? (max as ReadValue)).e, whole.issues[0], { mark: state.mark });
		if (asked === null) return false;
		state.asks.push({ line: row.line.no, text: row.line.text, ...asked });
	} else {
		state.taken.push(
			...proposals(
				plain,
				whole.value,
				about({
					...(combined.working === undefined ? {} : { working: combined.working }),
					...(only === null ? {} : { basis: "typical" as const }),
					...(typ !== null && combined.working !== undefined && ends.isTypical ? { bases: { working: "typical" as const } } : {}),
				}),
			),
		);
	}
	for (const r of [min, typ, max]) if (r !== null) claimCell(state, row.line, r);
	return true;
}

/** One value in two systems of units: the second has to agree, else both are asked. */
function takeTwice(state: PageState, row: Row, [metric, us]: readonly (ReadValue | null)[], about: About): boolean {
	const first = metric ?? us;
	if (first == null) return false;
	if (metric == null || us == null || sameWithinRounding(metric.value.quantity, us.value.quantity))
		return take(state, row, [first, us ?? undefined], about);
	const id = metric.value.property;
	state.asks.push({
		line: row.line.no,
		text: row.line.text,
		property: id,
		question: "the two units disagree by more than rounding",
		choices: [metric, us].map((r) => ({ property: id, text: r.value.text })),
	});
	for (const { e } of [metric, us]) state.claim(row.line.no, e.from, e.to, "asked");
	return true;
}

/** `9600 / 6300` under a heading that names two states. */
export function readPair(state: PageState, row: Row, e: Expression): boolean {
	const { line, label, conditions } = row;
	const [a, b] = e.pair as readonly [string, string];
	const texts = [a, b].map((t) => (t === "" ? null : t));
	const values = texts.map((text) => {
		if (text === null) return null;
		const read = evaluate(
			label,
			{ ...e, text, unit: "", pair: undefined },
			{
				mark: state.mark,
				...(row.unit === undefined ? {} : { unit: row.unit }),
			},
		);
		return read.ok ? read.value : null;
	});
	if (values.every((v) => v === null)) return false;
	state.claim(line.no, e.from, e.to, state.states === null ? "asked" : "value");
	if (state.states === null) {
		const choices = values.flatMap((v) => (v === null ? [] : [{ property: v.property, text: v.text }]));
		state.asks.push({
			line: line.no,
			text: line.text,
			property: choices[0]?.property as string,
			question: "two numbers in one cell; which one?",
			choices,
		});
		return true;
	}
	for (const [i, value] of values.entries()) {
		if (value === null) continue;
		state.taken.push(
			...proposals(label, value, {
				line: line.no,
				conditions: [...conditions, state.states[i] as string],
				confidence: label.confidence * 0.95,
			}),
		);
	}
	return true;
}

/** Several temperatures over the columns make a table; one makes a condition. */
export function readAt(state: PageState, head: Head, row: Row, reads: readonly CellRead[]): boolean {
	const at = head.columns.flatMap((column, i) => {
		const read = reads[i];
		return column.role === "at" && column.at !== undefined && read?.is === "value" ? [{ column, read }] : [];
	});
	return pushTable(state, row, at);
}
