/**
 * Secant expansion counted from another reference temperature. With L(T) = L0 [1 + a(T) (T - T0)] the same lengths seen
 * from Tn are a'(T) = [a(T)(T - T0) - a(Tn)(Tn - T0)] / {(T - Tn) [1 + a(Tn)(Tn - T0)]}; at T = Tn its limit, the
 * slope of length there, a_inst(Tn) / [1 + a(Tn)(Tn - T0)].
 * @param alpha secant expansion in 1/K at a temperature in K, counted from `from`
 * @param T the temperature asked for, K
 * @param from T0, K
 * @param to Tn, K
 * @returns 1/K
 */
export function rebaseExpansion(alpha: (temperature: number) => number, T: number, from: number, to: number): number {
	const strain = (t: number): number => alpha(t) * (t - from);
	const stretched = 1 + strain(to);
	if (T !== to) return (strain(T) - strain(to)) / ((T - to) * stretched);
	// central difference over 0.1 K: alpha is known to far fewer digits than this costs
	const h = 0.05;
	return (strain(to + h) - strain(to - h)) / (2 * h) / stretched;
}

/**
 * Secant expansion from the instantaneous one: the mean of `instant` over the span, by the exact integral of the
 * straight lines between its points.
 * @param points temperatures in K, strictly increasing, with the expansion there in 1/K
 */
export function secantFromInstantaneous(
	points: { readonly x: readonly number[]; readonly y: readonly number[] },
	from: number,
	to: number,
): number | null {
	const { x, y } = points;
	const n = x.length;
	const [low, high] = from < to ? [from, to] : [to, from];
	if (n === 0 || low < (x[0] as number) || high > (x[n - 1] as number)) return null;
	const at = (t: number): number => {
		let k = 0;
		while (k < n - 2 && t > (x[k + 1] as number)) k++;
		const share = (t - (x[k] as number)) / ((x[k + 1] as number) - (x[k] as number));
		return (y[k] as number) + share * ((y[k + 1] as number) - (y[k] as number));
	};
	if (low === high) return n === 1 ? (y[0] as number) : at(low);
	const places = [low, ...x.filter((t) => t > low && t < high), high];
	let area = 0;
	for (let i = 1; i < places.length; i++) {
		const [a, b] = [places[i - 1] as number, places[i] as number];
		area += ((at(a) + at(b)) / 2) * (b - a);
	}
	return area / (high - low);
}
