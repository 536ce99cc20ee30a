import type { DecimalMark } from "../quantity";
import type { PagePrice } from "./types";

const SIGNS: Readonly<Record<string, string>> = { "€": "EUR", $: "USD", "£": "GBP" };
const CODE = "EUR|USD|GBP|CHF|SEK|NOK|DKK|JPY|CNY|INR|CAD|AUD|PLN|CZK";
const AMOUNT = "\\d[\\d.,]*\\d|\\d";
const PER = "(kg|t|lb|g|Mg|m3|m³|m2|m²|m|pc|piece|Stück)(?![\\p{L}\\d])";
/** Money per something, in either order: `9.80 EUR/kg`, `$4.20 per lb`, `price per kg: 41.75 USD`. */
const BEHIND = new RegExp(
	`(?:([€$£])\\s*(${AMOUNT})|(${AMOUNT})\\s*([€$£]|${CODE})|(${CODE})\\s*(${AMOUNT}))\\s*(?:/|per |je |pro |par )\\s*${PER}`,
	"iu",
);
const BEFORE = new RegExp(
	`(?:price|preis|prix)\\s*(?:/|per |je |pro |par )\\s*(kg|t|lb|g|Mg)(?![\\p{L}\\d])\\s*[:=]?\\s*(?:([€$£])\\s*(${AMOUNT})|(${AMOUNT})\\s*([€$£]|${CODE})|(${CODE})\\s*(${AMOUNT}))`,
	"iu",
);

export type PriceRead = { readonly price: PagePrice; readonly from: number; readonly to: number };

/**
 * A price per mass (or per volume or piece, which the sheet cannot keep). A second price or a quantity on the line
 * makes it a question: the first of several tiers is no price of the material by itself.
 * @param mark the decimal mark of the page, where it is known
 * @returns null when the line is no price
 */
export function readPrice(text: string, line: number, mark: DecimalMark | null = null): PriceRead | null {
	const behind = BEHIND.exec(text);
	const before = behind === null ? BEFORE.exec(text) : null;
	const match = behind ?? before;
	if (match === null) return null;
	const [sign, a, b, code, code2, c, per] = behind !== null ? match.slice(1) : [...match.slice(2), match[1]];
	const currency = (sign ?? code ?? code2 ?? "").toUpperCase();
	const typed = a ?? b ?? c ?? "";
	const amount = amountOf(typed, mark);
	if (amount === null) return null;
	const rest = `${text.slice(0, match.index)} ${text.slice(match.index + match[0].length)}`;
	const unit = (per as string).toLowerCase().replace("³", "3").replace("²", "2");
	return {
		price: {
			amount,
			currency: SIGNS[currency] ?? currency,
			per: unit,
			line,
			...questionOf(typed, rest, mark),
		},
		from: match.index,
		to: match.index + match[0].length,
	};
}

/** What has to be asked of an amount, and of what else the line says. */
function questionOf(typed: string, rest: string, mark: DecimalMark | null): { readonly question?: string } {
	if (mark === null && /^\d{1,3}[.,]\d{3}$/.test(typed)) {
		const digits = typed.replace(",", ".");
		return { question: `is ${typed} a number with decimals (${Number(digits)}) or with thousands (${digits.replace(".", "")})?` };
	}
	return /\d/.test(rest) ? { question: "another number stands on the line: a quantity or a second price?" } : {};
}

/**
 * Money as a decimal string: the last mark with other than three digits behind it is the decimal one; so is the mark of
 * the page, where its other numbers show which.
 */
function amountOf(text: string, mark: DecimalMark | null): string | null {
	const alone = /^(\d{1,3})([.,])(\d{3})$/.exec(text);
	if (alone !== null && alone[2] === mark) return `${alone[1]}.${alone[3]}`;
	const match = /^(\d{1,3}(?:[.,]\d{3})*|\d+)(?:[.,](\d{1,4}))?$/.exec(text);
	if (match === null) return null;
	const whole = (match[1] as string).replace(/[.,]/g, "");
	return match[2] === undefined ? whole : `${whole}.${match[2]}`;
}
