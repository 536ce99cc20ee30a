/** Hostile and hurried inputs for the readers of numbers and units, from a seed. For tests and benches. */

const PIECES = [
	..."0 1 7 12 2.70 0,34 1.234 1,234 29,000 9999999999999999999 .5 00 -4 +3 e5 e-4711 E400 10^ 10- 10^-6 10⁻⁶ ×10^ x10 ·10".split(
		" ",
	),
	..."MPa GPa g/cm3 kg/m^3 lb/in3 ksi·√in J/(kg·K) W/mK °C K µm 1/K /K % ‰ HB HRC Ω·m Btu/(h·ft·°F) psi Pa^12 mK m s A".split(
		" ",
	),
	..."± +/- - – — … .. ... to bis >= ≤ min max ca. ~ ( ) / · * ^ √ sqrt( sqrt per ' ° º µ ½ ² ³ ⁻".split(" "),
	"  ",
	"\t",
	"\u00a0",
	"\u2212",
	"\u0000",
	"\ud800",
	"__proto__",
	"constructor",
];

/** Numbers from 0 to 1, the same for a seed (mulberry32). */
export function seeded(seed: number): () => number {
	let a = seed >>> 0;
	return () => {
		a = (a + 0x6d2b79f5) >>> 0;
		let t = a;
		t = Math.imul(t ^ (t >>> 15), t | 1);
		t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}

/** One input: pieces in a row, now and then one piece many times, or an exponent of absurd size. */
export function hostileText(next: () => number): string {
	const pick = (): string => PIECES[Math.floor(next() * PIECES.length)];
	const kind = next();
	if (kind < 0.1) return pick().repeat(1 + Math.floor(next() * 400));
	if (kind < 0.25) {
		const sign = next() < 0.5 ? "-" : "";
		const size = "9".repeat(1 + Math.floor(next() * 30));
		return `1 10${next() < 0.5 ? "^" : ""}${sign}${size}${next() < 0.5 ? " " : "/"}${pick()}`;
	}
	const count = 1 + Math.floor(next() * 14);
	return Array.from({ length: count }, () => pick() + (next() < 0.4 ? " " : "")).join("");
}
