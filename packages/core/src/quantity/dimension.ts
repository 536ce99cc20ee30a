/**
 * A dimension packed into one integer: the exponents of kg, m, s, K and A in *halves* (so that sqrt(m) is exact),
 * each a signed digit of base 64. Multiplying units adds dimensions, a power multiplies them.
 */
export type Dimension = number;

const RADIX = 64;

/** Packs exponents given in whole or half powers. */
// biome-ignore lint/complexity/useMaxParams: the five base quantities, in the order of the SI
export function dimension(kg: number, m = 0, s = 0, K = 0, A = 0): Dimension {
	return 2 * (kg + RADIX * (m + RADIX * (s + RADIX * (K + RADIX * A))));
}

/** A dimension as text, for messages: `kg·m^-3`; `1` for a pure number. */
export function dimensionText(packed: Dimension): string {
	const halves = halvesOf(packed);
	const parts = ["kg", "m", "s", "K", "A"].flatMap((name, i) => {
		const digit = halves[i] as number;
		return digit === 0 ? [] : [digit === 2 ? name : `${name}^${digit / 2}`];
	});
	return parts.join("·") || "1";
}

export const NONE = dimension(0);

/** Exponents of kg, m, s, K and A, in halves. */
export function halvesOf(packed: Dimension): readonly [number, number, number, number, number] {
	const halves: number[] = [];
	let rest = packed;
	for (let i = 0; i < 5; i++) {
		let digit = ((rest % RADIX) + RADIX) % RADIX;
		if (digit >= RADIX / 2) digit -= RADIX;
		rest = (rest - digit) / RADIX;
		halves.push(digit);
	}
	return halves as [number, number, number, number, number];
}
