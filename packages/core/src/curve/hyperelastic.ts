/** Coefficients of a hyperelastic form, SI, by the names of the catalogue. */
export type Coefficients = Readonly<Record<string, number>>;

/**
 * Nominal (engineering) stress of an incompressible rubber at a stretch, Pa, by mode:
 * with principal stretches uniaxial (l, l^-1/2, l^-1/2), equibiaxial (l, l, l^-2), planar (l, 1, 1/l) and
 * P = dW/dl (equibiaxial: half of it, because two pairs of faces pull). Derived from W, which the form states.
 */
export function nominalStress(form: string, c: Coefficients, mode: "uniaxial" | "equibiaxial" | "planar", l: number): number {
	if (form.startsWith("ogden")) return ogdenStress(form, c, mode, l);
	const [I1, dI1, dI2] = invariants(mode, l);
	const x = I1 - 3;
	const W1 = (c.C10 ?? 0) + 2 * (c.C20 ?? 0) * x + 3 * (c.C30 ?? 0) * x * x;
	const W2 = c.C01 ?? 0;
	return (W1 * dI1 + W2 * dI2) / (mode === "equibiaxial" ? 2 : 1);
}

/** I1 and the slopes of I1 and I2 over the stretch. */
function invariants(mode: string, l: number): readonly [number, number, number] {
	if (mode === "uniaxial") return [l * l + 2 / l, 2 * l - 2 / (l * l), 2 - 2 / l ** 3];
	if (mode === "equibiaxial") return [2 * l * l + l ** -4, 4 * l - 4 * l ** -5, 4 * l ** 3 - 4 * l ** -3];
	return [l * l + 1 + l ** -2, 2 * l - 2 * l ** -3, 2 * l - 2 * l ** -3];
}

function ogdenStress(form: string, c: Coefficients, mode: string, l: number): number {
	let stress = 0;
	for (const i of [1, 2, 3]) {
		const mu = c[`mu${i}`];
		const a = c[`alpha${i}`];
		if (mu === undefined || a === undefined || a === 0) continue;
		// both forms are k (l1^a + l2^a + l3^a - 3) with k = mu/a or 2 mu/a^2
		const ka = form === "ogden-mu-alpha" ? mu : (2 * mu) / a;
		const other = mode === "uniaxial" ? l ** (-a / 2 - 1) : mode === "planar" ? l ** (-a - 1) : l ** (-2 * a - 1);
		stress += ka * (l ** (a - 1) - other);
	}
	return stress;
}

/** Initial shear modulus mu, Pa: 2 (C10 + C01); sum mu_i alpha_i / 2 or sum mu_i for the two Ogden forms. */
export function initialShearModulus(form: string, c: Coefficients): number {
	if (!form.startsWith("ogden")) return 2 * ((c.C10 ?? 0) + (c.C01 ?? 0));
	return [1, 2, 3].reduce((sum, i) => {
		const mu = c[`mu${i}`] ?? 0;
		return sum + (form === "ogden-mu-alpha" ? (mu * (c[`alpha${i}`] ?? 0)) / 2 : mu);
	}, 0);
}

export const MODES = ["uniaxial", "equibiaxial", "planar"] as const;
export type Mode = (typeof MODES)[number];

/** Where a model fails: in which mode, pulled or pressed, from which stretch on. */
export type Failure = { readonly mode: Mode | "any"; readonly stretch: number };

/**
 * The tangent of an incompressible rubber in two dimensions: D_ij = dt_i/d ln l_j for i, j = 1, 2, where t_i is the true
 * stress less that of the free direction 3 and ln l_3 = -ln l_1 - ln l_2. Derived from W by the chain rule: of a sum of
 * powers D_11 = sum 2g (l1^a + l3^a), D_12 = sum 2g l3^a; of the invariants with W1, W2 and W11 the slopes of W
 * D_11 = 4(l1^2 + l3^2)(W1 + l2^2 W2) + 4(l1^2 - l3^2)^2 W11, D_12 = 4 l3^2 W1 + 4 W2/l3^2 + 4(l1^2 - l3^2)(l2^2 - l3^2) W11.
 * @returns D_11, D_22, D_12 in Pa
 */
export function tangent(form: string, c: Coefficients, mode: Mode, l: number): readonly [number, number, number] {
	const [l1, l2, l3] = mode === "uniaxial" ? [l, l ** -0.5, l ** -0.5] : mode === "equibiaxial" ? [l, l, l ** -2] : [l, 1, 1 / l];
	if (form.startsWith("ogden")) {
		let [d11, d22, d12] = [0, 0, 0];
		for (const i of [1, 2, 3]) {
			const [mu, a] = [c[`mu${i}`], c[`alpha${i}`]];
			if (mu === undefined || a === undefined || a === 0) continue;
			const twice = form === "ogden-mu-alpha" ? mu * a : 2 * mu;
			d11 += twice * (l1 ** a + l3 ** a);
			d22 += twice * (l2 ** a + l3 ** a);
			d12 += twice * l3 ** a;
		}
		return [d11, d22, d12];
	}
	const [a1, a2, a3] = [l1 * l1, l2 * l2, l3 * l3];
	const x = a1 + a2 + a3 - 3;
	const W1 = (c.C10 ?? 0) + 2 * (c.C20 ?? 0) * x + 3 * (c.C30 ?? 0) * x * x;
	const W11 = 2 * (c.C20 ?? 0) + 6 * (c.C30 ?? 0) * x;
	const W2 = c.C01 ?? 0;
	return [
		4 * (a1 + a3) * (W1 + a2 * W2) + 4 * (a1 - a3) ** 2 * W11,
		4 * (a2 + a3) * (W1 + a1 * W2) + 4 * (a2 - a3) ** 2 * W11,
		4 * a3 * W1 + (4 * W2) / a3 + 4 * (a1 - a3) * (a2 - a3) * W11,
	];
}

/** The smaller eigenvalue of the tangent: stable while it is above zero. */
function stiffness(form: string, c: Coefficients, mode: Mode, l: number): number {
	const [d11, d22, d12] = tangent(form, c, mode, l);
	return (d11 + d22) / 2 - Math.hypot((d11 - d22) / 2, d12);
}

/** Stretches looked at where nobody says a range. */
export const USUAL_RANGE: readonly [number, number] = [0.5, 2.5];
const STEPS = 240;
const HALVINGS = 50;

/**
 * Where a model stops being stable: for every mode the first stretch below and above 1 at which the smaller eigenvalue of
 * the two-dimensional tangent is no longer positive. A rising tension curve alone says little: the sheet may still
 * buckle sideways.
 * @param range of stretch looked at
 */
export function instabilities(form: string, c: Coefficients, range: readonly [number, number] = USUAL_RANGE): readonly Failure[] {
	if (!(initialShearModulus(form, c) > 0)) return [{ mode: "any", stretch: 1 }];
	return MODES.flatMap((mode) => range.flatMap((end): Failure[] => firstFailure(form, c, mode, end)));
}

function firstFailure(form: string, c: Coefficients, mode: Mode, end: number): Failure[] {
	let sound = 0;
	for (let k = 1; k <= STEPS; k++) {
		const at = (Math.log(end) * k) / STEPS;
		if (stiffness(form, c, mode, Math.exp(at)) > 0) {
			sound = at;
			continue;
		}
		let failing = at;
		for (let i = 0; i < HALVINGS; i++) {
			const middle = (sound + failing) / 2;
			if (stiffness(form, c, mode, Math.exp(middle)) > 0) sound = middle;
			else failing = middle;
		}
		return [{ mode, stretch: Math.exp(failing) }];
	}
	return [];
}

/** The failure nearest to the undeformed state; null when the model is stable over the range. */
export function instability(form: string, c: Coefficients, range: readonly [number, number] = USUAL_RANGE): Failure | null {
	const far = (f: Failure): number => Math.abs(Math.log(f.stretch));
	return [...instabilities(form, c, range)].sort((a, b) => far(a) - far(b))[0] ?? null;
}

/**
 * The range of stretch that a model says it holds for: `stretch 0.8-3`, `strain -20 to 200 %`; null where it does not.
 * Never less than what is pulled: a range that leaves 1 out is widened to it.
 */
export function statedStretches(validity: string): readonly [number, number] | null {
	const match =
		/(stretch|strain|dehnung|streckung)\D{0,12}?([-−–]?\d+(?:[.,]\d+)?)\s*(?:%)?\s*(?:-|–|to|bis|\.\.)\s*(\d+(?:[.,]\d+)?)\s*(%)?/i.exec(
			validity,
		);
	if (match === null) return null;
	const number = (text: string): number => Number(text.replace(",", ".").replace(/[−–]/, "-"));
	const [a, b] = [number(match[2] as string), number(match[3] as string)];
	const isStretch = /^str(?:etch|eckung)/i.test(match[1] as string) && match[4] === undefined;
	const scale = match[4] === undefined ? 1 : 0.01;
	const [low, high] = isStretch ? [a, b] : [1 + a * scale, 1 + b * scale];
	if (!(low > 0) || !(high < 20) || !(high > low)) return null;
	return [Math.min(low, 1), Math.max(high, 1)];
}
