import type { PagePrice } from "./types";

const SIGNS: Readonly<Record<string, string>> = { "€": "EUR", $: "USD", "£": "GBP" };
const CODE = "EUR|USD|GBP|CHF|SEK|NOK|DKK|JPY|CNY|INR|CAD|AUD|PLN|CZK";
const PRICE = new RegExp(
	`(?:([€$£])\\s*(\\d[\\d.,]*)|(\\d[\\d.,]*)\\s*([€$£]|${CODE})|(${CODE})\\s*(\\d[\\d.,]*))\\s*(?:/|per |je |pro )\\s*(kg|t|lb|g|Mg)\\b`,
	"i",
);

/** `Price 9.80 EUR/kg`, `9,80 €/kg`, `$4.20 per lb`; null when the line is no price. */
export function readPrice(text: string, line: number): PagePrice | null {
	const match = PRICE.exec(text);
	if (match === null) return null;
	const currency = (match[1] ?? match[4] ?? match[5] ?? "").toUpperCase();
	const amount = amountOf(match[2] ?? match[3] ?? match[6] ?? "");
	return amount === null
		? null
		: { amount, currency: SIGNS[currency] ?? currency, per: (match[7] as string).toLowerCase(), line };
}

/** Money as a decimal string: the last mark with one or two digits behind it is the decimal one. */
function amountOf(text: string): string | null {
	const match = /^(\d{1,3}(?:[.,]\d{3})*|\d+)(?:[.,](\d{1,4}))?$/.exec(text.replace(/[.,]$/, ""));
	if (match === null) return null;
	const whole = (match[1] as string).replace(/[.,]/g, "");
	return match[2] === undefined ? whole : `${whole}.${match[2]}`;
}
