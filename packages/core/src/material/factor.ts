import { dimension } from "../quantity";
import { fail, ok, type Result } from "../result";
import type { Material, NumberValue } from "./types";
import { isNumber, quantityOf, specOf } from "./value";

const STRESS = dimension(1, -1, -2);
/** A factor with at most six decimals, above 0 and below 1000. */
const FACTOR = /^(?!0+(?:\.0*)?$)\d{1,3}(?:\.\d{1,6})?$/;

/** Numbers of a material that say how much stress it bears: what a cautious variant lowers. */
export function strengthsOf(material: Material): readonly NumberValue[] {
	return Object.values(material.values)
		.filter(isNumber)
		.filter((v) => specOf(v).section === "strength" && specOf(v).dimension === STRESS);
}

/**
 * A number times a factor, as somebody would type it: exact in its digits, in its unit and with its shape
 * (`>= 125 MPa` times 0.9 is `>= 112.5 MPa`). The decimal mark is a point.
 * @returns issues `not-a-factor`; `held-otherwise` for readings and what is typed the other way up
 */
export function timesFactor(value: NumberValue, factor: string): Result<string> {
	if (!FACTOR.test(factor)) return fail({ code: "not-a-factor", actual: factor.slice(0, 40) });
	const q = quantityOf(value);
	if (value.kind === "readings" || q.reciprocal)
		return fail({ code: "held-otherwise", path: specOf(value).name, actual: value.kind ?? "reciprocal" });
	const number = (i: number): string => {
		const exponent = q.exponents[i] ?? 0;
		return decimalProduct(q.digits[i] ?? "", factor) + (exponent === 0 ? "" : `e${exponent}`);
	};
	const unit = q.unit === "1" ? "" : ` ${q.unit}`;
	const second = q.secondUnit === undefined ? unit : ` ${q.secondUnit}`;
	switch (q.shape) {
		case "scalar":
			return ok(number(0) + unit);
		case "approximate":
			return ok(`~ ${number(0)}${unit}`);
		case "at-least":
			return ok(`>= ${number(0)}${unit}`);
		case "at-most":
			return ok(`<= ${number(0)}${unit}`);
		case "range":
			return ok(`${number(0)}${unit} to ${number(1)}${second}`);
		case "plus-minus": {
			// a share of the value stays that share
			const half = q.secondUnit === "%" ? (q.digits[1] ?? "") : number(1);
			return ok(`${number(0)}${unit} ± ${half}${second}`);
		}
	}
}

/** Product of two decimals written without an exponent, exact; zeros behind the point that say nothing go. */
function decimalProduct(a: string, b: string): string {
	const [wholeA = "", partA = ""] = a.split(".");
	const [wholeB = "", partB = ""] = b.split(".");
	const decimals = partA.length + partB.length;
	const product = BigInt(wholeA + partA) * BigInt(wholeB + partB);
	const digits = String(product < 0n ? -product : product).padStart(decimals + 1, "0");
	const point = digits.length - decimals;
	const text = decimals === 0 ? digits : `${digits.slice(0, point)}.${digits.slice(point)}`.replace(/\.?0+$/, "");
	return product < 0n ? `-${text}` : text;
}
