import { fail, type Issue, ok, type Result } from "../result";

/**
 * An index over the instances of a STEP file (ISO 10303-21): where each stands, what it refers to. Arguments are
 * parsed on demand (parameters.ts), so that a file of 200 MB costs arrays of integers, not millions of objects.
 */
export type Part21 = {
	readonly text: string;
	/** Entity number `#n` -> index into the arrays below. */
	readonly byNumber: ReadonlyMap<number, number>;
	readonly numbers: Int32Array;
	/** Line of the instance, 1-based. */
	readonly lines: Int32Array;
	/** Offsets of the text behind `=` and of the closing `;`. */
	readonly starts: Int32Array;
	readonly ends: Int32Array;
	/** Type name; `""` for a complex instance such as `(LENGTH_UNIT()NAMED_UNIT(*)...)`. */
	readonly types: readonly string[];
	/** Number of parameters at the top level; -1 for a complex instance. */
	readonly counts: Int32Array;
	/** References of instance i: `refs[refStarts[i] .. refStarts[i + 1])`, entity numbers in order. */
	readonly refs: Int32Array;
	readonly refStarts: Int32Array;
	/** Tokens that stand where a number should and are none (`NaN`, `1.#QNAN`, 1e999). */
	readonly badNumbers: readonly { readonly index: number; readonly token: string; readonly line: number }[];
};

/** An Int32Array that grows by doubling. */
class IntList {
	private data = new Int32Array(1024);
	length = 0;

	push(value: number): void {
		if (this.length === this.data.length) {
			const grown = new Int32Array(this.length * 2);
			grown.set(this.data);
			this.data = grown;
		}
		this.data[this.length++] = value;
	}

	done(): Int32Array {
		return this.data.slice(0, this.length);
	}
}

const QUOTE = 39;
const HASH = 35;
const OPEN = 40;
const CLOSE = 41;
const COMMA = 44;
const SEMICOLON = 59;
const NEWLINE = 10;
const SLASH = 47;
const STAR = 42;

/**
 * Scans a STEP file once and checks its grammar.
 * @returns issues `not-step`, `truncated`, `syntax`, `duplicate-entity`, each with its line
 */
export function scanPart21(text: string): Result<Part21> {
	const head = /^\uFEFF?\s*(?:\/\*(?:[^*]|\*(?!\/)){0,4000}\*\/\s*){0,20}ISO-10303-21\s*;/.exec(text.slice(0, 5000));
	if (head === null) return fail({ code: "not-step" });
	const data = /(^|[\s;])DATA\s*(\([^;]*\))?\s*;/.exec(text.slice(0, 2_000_000));
	if (data === null) return fail({ code: "truncated", line: lineAt(text, text.length), expected: "the DATA section" });

	const state = new Scanner(text, data.index + data[0].length);
	return state.run();
}

class Scanner {
	private at: number;
	private line: number;
	private readonly numbers = new IntList();
	private readonly lines = new IntList();
	private readonly starts = new IntList();
	private readonly ends = new IntList();
	private readonly counts = new IntList();
	private readonly refs = new IntList();
	private readonly refStarts = new IntList();
	private readonly types: string[] = [];
	private readonly byNumber = new Map<number, number>();
	private readonly bad: { index: number; token: string; line: number }[] = [];
	private readonly typeNames = new Map<string, string>();

	constructor(
		private readonly text: string,
		start: number,
	) {
		this.at = start;
		this.line = lineAt(text, start);
	}

	run(): Result<Part21> {
		for (;;) {
			this.skipBlank();
			if (this.at >= this.text.length) return this.truncated("ENDSEC");
			if (this.text.startsWith("ENDSEC", this.at)) break;
			const issue = this.instance();
			if (issue !== null) return fail(issue);
		}
		if (this.types.length === 0) return fail({ code: "empty-data", line: this.line });
		if (!/END-ISO-10303-21\s*;/.test(this.text.slice(this.at))) return this.truncated("END-ISO-10303-21");
		this.refStarts.push(this.refs.length);
		return ok({
			text: this.text,
			byNumber: this.byNumber,
			numbers: this.numbers.done(),
			lines: this.lines.done(),
			starts: this.starts.done(),
			ends: this.ends.done(),
			types: this.types,
			counts: this.counts.done(),
			refs: this.refs.done(),
			refStarts: this.refStarts.done(),
			badNumbers: this.bad,
		});
	}

	/** `#12 = TYPE(...);` or `#12 = (A()B());` */
	private instance(): Issue | null {
		const { text } = this;
		const line = this.line;
		if (text.charCodeAt(this.at) !== HASH) return this.syntax("an instance such as #1=");
		this.at++;
		const number = this.digits();
		if (number === null) return this.syntax("an entity number");
		this.skipBlank();
		if (text[this.at] !== "=") return this.at >= text.length ? this.cut() : this.syntax("=");
		this.at++;
		this.skipBlank();
		const start = this.at;
		const type = this.identifier();
		this.skipBlank();
		if (text.charCodeAt(this.at) !== OPEN) return this.at >= text.length ? this.cut() : this.syntax("(");
		if (this.byNumber.has(number)) return { code: "duplicate-entity", line, actual: `#${number}`, expected: "each number once" };
		const index = this.types.length;
		this.byNumber.set(number, index);
		this.numbers.push(number);
		this.lines.push(line);
		this.starts.push(start);
		this.types.push(type);
		this.refStarts.push(this.refs.length);
		const count = this.parameters(index);
		if (typeof count !== "number") return count;
		this.counts.push(type === "" ? -1 : count);
		this.ends.push(this.at);
		this.at++;
		return null;
	}

	/** Walks balanced parameters up to the `;`, collecting references; the number of parameters at the top level. */
	private parameters(index: number): number | Issue {
		const { text } = this;
		const length = text.length;
		let depth = 0;
		let count = 0;
		let any = false;
		for (;;) {
			if (this.at >= length) return this.cut();
			const c = text.charCodeAt(this.at);
			if (c === QUOTE) {
				if (!this.string()) return this.cut();
				any = true;
			} else if (c === HASH) {
				this.at++;
				const number = this.digits();
				if (number === null) return this.syntax("an entity number");
				this.refs.push(number);
				any = true;
			} else if (c === OPEN) {
				depth++;
				if (depth > 60) return this.syntax("fewer nested lists");
				this.at++;
			} else if (c === CLOSE) {
				depth--;
				if (depth < 0) return this.syntax(";");
				this.at++;
			} else if (c === COMMA) {
				if (depth === 1) count++;
				this.at++;
			} else if (c === SEMICOLON) {
				if (depth !== 0) return this.syntax(")");
				return any ? count + 1 : 0;
			} else if (c === NEWLINE) {
				this.line++;
				this.at++;
			} else if (c <= 32) {
				this.at++;
			} else if (c === SLASH && text.charCodeAt(this.at + 1) === STAR) {
				this.skipBlank();
			} else {
				any = true;
				const issue = this.token(index);
				if (issue !== null) return issue;
			}
		}
	}

	/** A number, enumeration, binary, `$`, `*` or the name of a typed parameter. */
	private token(index: number): Issue | null {
		const { text } = this;
		const from = this.at;
		let c = text.charCodeAt(this.at);
		while (
			c > 32 &&
			c !== COMMA &&
			c !== CLOSE &&
			c !== OPEN &&
			c !== SEMICOLON &&
			c !== QUOTE &&
			!(c === HASH && this.at > from && !isBadNumber(text.slice(from, this.at + 2)))
		) {
			c = text.charCodeAt(++this.at);
			if (Number.isNaN(c)) return this.cut();
		}
		const token = text.slice(from, this.at);
		const first = token.charCodeAt(0);
		const numeric = (first >= 48 && first <= 57) || first === 45 || first === 43 || first === 46;
		if (numeric && !token.startsWith(".")) {
			if (!isPart21Number(token)) {
				if (!isBadNumber(token)) return this.syntaxOf(token, "a number");
				this.bad.push({ index, token, line: this.line });
			} else if (!Number.isFinite(Number(token))) this.bad.push({ index, token, line: this.line });
			return null;
		}
		if (isBadNumber(token)) {
			this.bad.push({ index, token, line: this.line });
			return null;
		}
		if (token === "$" || token === "*" || token.startsWith(".") || token.startsWith('"')) return null;
		if (/^!?[A-Za-z_][\w-]*$/.test(token)) {
			const save = this.at;
			this.skipBlank();
			const opens = this.text.charCodeAt(this.at) === OPEN;
			if (opens) return null;
			this.at = save;
		}
		return this.syntaxOf(token, "a parameter");
	}

	/** Past a quoted string with doubled quotes; false when the file ends inside. */
	private string(): boolean {
		for (;;) {
			const close = this.text.indexOf("'", this.at + 1);
			if (close < 0) return false;
			for (let n = this.text.indexOf("\n", this.at); n >= 0 && n < close; n = this.text.indexOf("\n", n + 1)) this.line++;
			this.at = close + 1;
			if (this.text.charCodeAt(this.at) !== QUOTE) return true;
		}
	}

	private digits(): number | null {
		let n = 0;
		const from = this.at;
		for (;;) {
			const c = this.text.charCodeAt(this.at) - 48;
			if (!(c >= 0 && c <= 9)) break;
			n = n * 10 + c;
			this.at++;
		}
		return this.at === from || n > 0x7fffffff ? null : n;
	}

	private identifier(): string {
		const from = this.at;
		while (/[A-Za-z0-9_!]/.test(this.text[this.at] ?? "")) this.at++;
		const name = this.text.slice(from, this.at).toUpperCase();
		// one string object for each type, however many instances
		const known = this.typeNames.get(name);
		if (known !== undefined) return known;
		this.typeNames.set(name, name);
		return name;
	}

	private skipBlank(): void {
		for (;;) {
			const c = this.text.charCodeAt(this.at);
			if (c === NEWLINE) this.line++;
			if (c <= 32) this.at++;
			else if (c === SLASH && this.text.charCodeAt(this.at + 1) === STAR) {
				const end = this.text.indexOf("*/", this.at + 2);
				const stop = end < 0 ? this.text.length : end + 2;
				for (let n = this.text.indexOf("\n", this.at); n >= 0 && n < stop; n = this.text.indexOf("\n", n + 1)) this.line++;
				this.at = stop;
			} else return;
		}
	}

	private syntax(expected: string): Issue {
		return this.syntaxOf(this.text.slice(this.at, this.at + 24).split("\n")[0] ?? "", expected);
	}

	private syntaxOf(actual: string, expected: string): Issue {
		return { code: "syntax", line: this.line, actual: actual.slice(0, 40), expected };
	}

	private cut(): Issue {
		return { code: "truncated", line: this.line, expected: "the end of an instance" };
	}

	private truncated(expected: string): Result<never> {
		return fail({ code: "truncated", line: this.line, expected });
	}
}

function isPart21Number(token: string): boolean {
	return /^[+-]?\d+(\.\d*)?([eE][+-]?\d+)?$/.test(token);
}

/** Spellings of what is not a finite number, as programs print them. */
function isBadNumber(token: string): boolean {
	return /^[+-]?(nan|inf(inity)?|\d*\.?\d*#|\d+\.?#?(qnan|snan|ind|inf))/i.test(token);
}

function lineAt(text: string, offset: number): number {
	let line = 1;
	for (let n = text.indexOf("\n"); n >= 0 && n < offset; n = text.indexOf("\n", n + 1)) line++;
	return line;
}
