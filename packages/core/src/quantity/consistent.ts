import { type Dimension, halvesOf } from "./dimension";
import { exact, power, type Rational, rootToDouble, times, toDouble } from "./rational";

/**
 * The factor by which an SI number is divided to be in a consistent set whose units of mass, length, time and
 * temperature difference are these multiples of kg, m, s and K (the ampere stays). Exact, rounded once.
 * @param base decimals or quotient chains such as `4.4482216152605/0.0254`
 */
export function consistentFactor(
	dimension: Dimension,
	base: { readonly mass: string; readonly length: string; readonly time: string; readonly temperature: string },
): number {
	const [kg, m, s, K] = halvesOf(dimension);
	const factors = [
		[exact(base.mass), kg],
		[exact(base.length), m],
		[exact(base.time), s],
		[exact(base.temperature), K],
	] as const;
	// exponents are whole for all but toughness; squaring everything keeps those exact too
	const half = factors.some(([, halves]) => halves % 2 !== 0);
	const product = factors.reduce<Rational>((all, [factor, halves]) => times(all, power(factor, half ? halves : halves / 2)), {
		n: 1n,
		d: 1n,
	});
	return half ? rootToDouble(product) : toDouble(product);
}
