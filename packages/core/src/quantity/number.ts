/** A number as written, before it is known which of `,` and `.` is the decimal mark. */
export type NumberToken = {
	readonly body: string;
	readonly exponent: number;
	/** Written as a product, `1.06·10^5`: behind a range it belongs to both ends. */
	readonly isProduct: boolean;
	readonly end: number;
};

export type DecimalMark = "." | ",";

/** A number read exactly: `mantissa * 10^e10`, with the digits that were typed. */
export type ExactNumber = { readonly mantissa: bigint; readonly e10: number; readonly digits: string };

// a number may end in its point: `5.`
const BODY = /[+–-]?(?:\d{1,3}(?:[ ']\d{3})+(?!\d)(?:[.,]\d+)?|\d+(?:[.,]\d+)*|[.,]\d+)(?:\.(?=\s|$))?/y;
const E_EXPONENT = /[eE]([+–-]?\d+)(?![\d.,])/y;
/** A power of ten alone: `10^13 Ω·cm`. */
const POWER = /[+-]?10\^(?:\(([+-]?\d+)\)|([+-]?\d+))(?!\.?\d)/y;
// a power of ten needs a `^`, a sign or the product sign's own superscript: `1.12x105` may have lost its superscript
const TEN_EXPONENT = /\s*[x*·×]\s*10(?:\^\(?([+–-]?\d+)\)?|([+–-]\d+))/y;

/** Scans one number at `at`; null when none stands there. */
export function scanNumber(text: string, at: number): NumberToken | null {
	POWER.lastIndex = at;
	const power = POWER.exec(text);
	if (power !== null) {
		const sign = power[0].startsWith("-") ? "-" : "";
		return { body: `${sign}1`, exponent: exponentOf(power[1] ?? power[2]), isProduct: false, end: POWER.lastIndex };
	}
	BODY.lastIndex = at;
	const body = BODY.exec(text);
	if (body === null) return null;
	const written = body[0].replace("–", "-").replace(/\.$/, "");
	let end = BODY.lastIndex;
	E_EXPONENT.lastIndex = end;
	const e = E_EXPONENT.exec(text);
	if (e !== null) return { body: written, exponent: exponentOf(e[1]), isProduct: false, end: E_EXPONENT.lastIndex };
	TEN_EXPONENT.lastIndex = end;
	const ten = TEN_EXPONENT.exec(text);
	if (ten === null) return { body: written, exponent: 0, isProduct: false, end };
	end = TEN_EXPONENT.lastIndex;
	return { body: written, exponent: exponentOf(ten[1] ?? ten[2]), isProduct: true, end };
}

function exponentOf(text: string | undefined): number {
	return Number((text ?? "0").replace("–", "-"));
}

/** Could this number mean two things, by its one `,` or `.` before exactly three digits? */
export function isAmbiguous(token: NumberToken): boolean {
	return (token.exponent === 0 || token.isProduct) && /^[+-]?[1-9]\d{0,2}[.,]\d{3}$/.test(token.body);
}

/**
 * Reads a scanned number.
 * @param mark the decimal mark to assume where the text itself leaves it open
 * @returns null when the separators make no number (`12,3,4`)
 */
export function readNumber(token: NumberToken, mark: DecimalMark | null): ExactNumber | null {
	const plain = token.body.replace(/[ ']/g, "");
	const decimalAt = decimalPosition(plain, token, mark);
	if (decimalAt === null) return null;
	const whole = decimalAt < 0 ? plain : plain.slice(0, decimalAt);
	const decimals = decimalAt < 0 ? "" : plain.slice(decimalAt + 1);
	const wholeDigits = whole.replace(/[.,]/g, "");
	const digits = decimals === "" ? wholeDigits || "0" : `${/\d/.test(wholeDigits) ? wholeDigits : `${wholeDigits}0`}.${decimals}`;
	const signed = digits.replace("+", "");
	return { mantissa: BigInt(signed.replace(".", "")), e10: token.exponent - decimals.length, digits: signed };
}

/** Index of the decimal mark in `plain`, -1 for none, null when the separators contradict each other. */
function decimalPosition(plain: string, token: NumberToken, mark: DecimalMark | null): number | null {
	const commas = plain.split(",").length - 1;
	const points = plain.split(".").length - 1;
	if (commas + points === 0) return -1;
	const last = Math.max(plain.lastIndexOf(","), plain.lastIndexOf("."));
	const lastMark = plain[last] as DecimalMark;
	if (commas > 0 && points > 0) {
		const thousands = lastMark === "," ? points : commas;
		const once = (lastMark === "," ? commas : points) === 1;
		return once && thousands > 0 && grouped(plain.slice(0, last)) ? last : null;
	}
	if (commas + points > 1) return grouped(plain) ? -1 : null;
	if (isAmbiguous(token) && mark !== null && mark !== lastMark) return -1;
	return last;
}

/** Are the digits in groups of three behind a first group of one to three? */
function grouped(text: string): boolean {
	return /^[+-]?\d{1,3}(?:[.,]\d{3})+$/.test(text);
}
