/** Relative luminance of `#rrggbb` by WCAG 2: linear light of the three channels, weighed. */
export function luminance(hex: string): number {
	const channel = (at: number): number => {
		const c = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
		return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
	};
	return 0.2126 * channel(1) + 0.7152 * channel(3) + 0.0722 * channel(5);
}

/** Contrast of two colours by WCAG 2, 1 to 21. */
export function contrast(a: string, b: string): number {
	const [x, y] = [luminance(a), luminance(b)];
	return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
}

/** The colour, darkened or lightened step by step until it stands out from a ground by 3:1, as lines of a chart have to. */
export function readable(hex: string, ground: string): string {
	const target = luminance(ground) > 0.4 ? 0 : 255;
	let colour = hex;
	for (let step = 0; step < 20 && contrast(colour, ground) < 3; step++) colour = mixed(colour, target, 0.1);
	return colour;
}

function mixed(hex: string, target: number, share: number): string {
	const channels = [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
	return `#${channels
		.map((c) =>
			Math.round(c + (target - c) * share)
				.toString(16)
				.padStart(2, "0"),
		)
		.join("")}`;
}
