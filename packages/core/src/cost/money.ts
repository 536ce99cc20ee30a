import { fail, ok, type Result } from "../result";

/** How much of the target currency one unit of another is worth, as somebody said on a day. */
export type Rate = { readonly currency: string; readonly rate: string; readonly date: string };

/** The currency that sums are wanted in, and what others are worth in it. */
export type Money = { readonly currency: string; readonly rates: readonly Rate[] };

/** `EUR`, three letters of ISO 4217. */
export const CURRENCY = /^[A-Z]{3}$/;

/**
 * An amount in the wanted currency; null without a rate for it, because currencies are never added up on a guess.
 * @param amount in `currency`
 */
export function inCurrency(amount: number, currency: string, { currency: wanted, rates }: Money): number | null {
	if (currency === wanted) return amount;
	const rate = rates.find((r) => r.currency === currency);
	return rate === undefined ? null : amount * Number(rate.rate);
}

/** Checks a currency and its rates: three letters, one positive rate each, a date. */
export function readMoney(input: Money): Result<Money> {
	if (!CURRENCY.test(input.currency)) return fail({ code: "not-a-currency", actual: input.currency });
	const seen = new Set([input.currency]);
	for (const { currency, rate, date } of input.rates) {
		if (!CURRENCY.test(currency)) return fail({ code: "not-a-currency", actual: currency });
		if (seen.has(currency)) return fail({ code: "rate-twice", actual: currency });
		seen.add(currency);
		if (!/^\d{1,12}(\.\d{1,12})?$/.test(rate) || Number(rate) <= 0)
			return fail({ code: "not-a-rate", path: currency, actual: rate });
		if (Number.isNaN(Date.parse(date)) || !/^\d{4}-\d{2}-\d{2}$/.test(date))
			return fail({ code: "not-a-date", path: currency, actual: date });
	}
	return ok(input);
}
