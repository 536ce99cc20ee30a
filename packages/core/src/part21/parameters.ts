import type { Part21 } from "./scan";

/** One parameter of an instance. */
export type Parameter =
	| { readonly kind: "number"; readonly value: number }
	| { readonly kind: "text"; readonly value: string }
	| { readonly kind: "ref"; readonly value: number }
	| { readonly kind: "enum"; readonly value: string }
	| { readonly kind: "unset" }
	| { readonly kind: "list"; readonly items: readonly Parameter[] }
	| { readonly kind: "typed"; readonly type: string; readonly items: readonly Parameter[] };

const UNSET: Parameter = { kind: "unset" };

/** Parameters of a simple instance, or of one named part of a complex instance; empty when that part is not there. */
export function parametersOf(file: Part21, index: number, part?: string): readonly Parameter[] {
	const source = file.text.slice(file.starts[index], file.ends[index]);
	if (file.types[index] !== "") return readList(source, source.indexOf("("));
	for (const [name, at] of complexParts(source)) if (name === part) return readList(source, at);
	return [];
}

/** Names of the parts of a complex instance. */
export function partNames(file: Part21, index: number): readonly string[] {
	if (file.types[index] !== "") return [file.types[index] as string];
	return complexParts(file.text.slice(file.starts[index], file.ends[index])).map(([name]) => name);
}

function complexParts(source: string): [string, number][] {
	const parts: [string, number][] = [];
	let depth = 0;
	for (let at = 0; at < source.length; at++) {
		const c = source[at];
		if (c === "'") at = endOfString(source, at);
		else if (c === "(") depth++;
		else if (c === ")") depth--;
		else if (depth === 1 && /[A-Za-z]/.test(c as string)) {
			const name = /^[\w]+/.exec(source.slice(at))?.[0] ?? "";
			const open = source.indexOf("(", at + name.length);
			if (name === "" || open < 0) return parts;
			parts.push([name.toUpperCase(), open]);
			at = open - 1;
		}
	}
	return parts;
}

function endOfString(source: string, at: number): number {
	let end = source.indexOf("'", at + 1);
	while (end >= 0 && source[end + 1] === "'") end = source.indexOf("'", end + 2);
	return end < 0 ? source.length : end;
}

/** Reads `( ... )` at `open`; the scanner has checked the grammar. */
function readList(source: string, open: number): readonly Parameter[] {
	let at = open + 1;
	const list = (): Parameter[] => {
		const items: Parameter[] = [];
		while (at < source.length) {
			const c = source[at] as string;
			if (c === ")") {
				at++;
				return items;
			}
			if (c === "," || c <= " ") at++;
			else if (c === "(") {
				at++;
				items.push({ kind: "list", items: list() });
			} else if (c === "'") {
				const end = endOfString(source, at);
				items.push({ kind: "text", value: decodeText(source.slice(at + 1, end)) });
				at = end + 1;
			} else if (c === "/" && source[at + 1] === "*") at = source.indexOf("*/", at) + 2;
			else {
				const word = /^[^,()\s]+/.exec(source.slice(at, at + 400))?.[0] ?? c;
				at += word.length;
				items.push(wordParameter(word, () => skipTo(source), list));
			}
		}
		return items;
	};
	const skipTo = (text: string): boolean => {
		while (text.charCodeAt(at) <= 32) at++;
		if (text[at] !== "(") return false;
		at++;
		return true;
	};
	return list();
}

function wordParameter(word: string, opens: (source: string) => boolean, list: () => Parameter[]): Parameter {
	if (word === "$" || word === "*") return UNSET;
	if (word.startsWith("#")) return { kind: "ref", value: Number(word.slice(1)) };
	if (word.startsWith(".") && word.endsWith(".")) return { kind: "enum", value: word.slice(1, -1).toUpperCase() };
	if (/^[A-Za-z]/.test(word) && opens(word)) return { kind: "typed", type: word.toUpperCase(), items: list() };
	const value = Number(word);
	return Number.isFinite(value) ? { kind: "number", value } : UNSET;
}

/** Undoes the encodings of strings in ISO 10303-21: doubled quotes, `\X2\00D8\X0\`, `\X4\`, `\X\D8`, `\S\X`. */
export function decodeText(raw: string): string {
	return raw
		.replace(/''/g, "'")
		.replace(/\\X2\\((?:[0-9A-Fa-f]{4})+)\\X0\\/g, (_, hex: string) =>
			String.fromCharCode(...(hex.match(/.{4}/g) as string[]).map((h) => Number.parseInt(h, 16))),
		)
		.replace(/\\X4\\((?:[0-9A-Fa-f]{8})+)\\X0\\/g, (_, hex: string) =>
			(hex.match(/.{8}/g) as string[]).map((h) => codePoint(Number.parseInt(h, 16))).join(""),
		)
		.replace(/\\X\\([0-9A-Fa-f]{2})/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))
		.replace(/\\S\\(.)/g, (_, c: string) => String.fromCharCode(c.charCodeAt(0) + 128))
		.replace(/[\r\n]/g, "")
		.replace(/\\\\/g, "\\");
}

function codePoint(code: number): string {
	return code <= 0x10ffff ? String.fromCodePoint(code) : "\ufffd";
}

/** The text of a parameter, or "". */
export function textOf(p: Parameter | undefined): string {
	return p?.kind === "text" ? p.value : "";
}

/** The entity number of a parameter, or -1. */
export function refOf(p: Parameter | undefined): number {
	return p?.kind === "ref" ? p.value : -1;
}

/** Entity numbers in a list. */
export function refsOf(p: Parameter | undefined): readonly number[] {
	return p?.kind === "list" ? p.items.filter((i) => i.kind === "ref").map((i) => refOf(i)) : [];
}

/** Numbers in a list. */
export function numbersOf(p: Parameter | undefined): readonly number[] {
	return p?.kind === "list" ? p.items.flatMap((i) => (i.kind === "number" ? [i.value] : [])) : [];
}
