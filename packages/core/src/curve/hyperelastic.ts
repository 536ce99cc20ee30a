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

/**
 * Where a model stops being stable: the first stretch away from 1, in any of the three modes, at which the stress falls.
 * @param from,to range of stretch looked at
 * @returns null when it is stable throughout
 */
export function instability(
	form: string,
	c: Coefficients,
	from = 0.5,
	to = 2.5,
): { readonly mode: string; readonly stretch: number } | null {
	if (!(initialShearModulus(form, c) > 0)) return { mode: "any", stretch: 1 };
	const steps = 200;
	for (const mode of ["uniaxial", "equibiaxial", "planar"] as const) {
		for (const end of [to, from]) {
			let before = nominalStress(form, c, mode, 1);
			for (let k = 1; k <= steps; k++) {
				const stretch = 1 + ((end - 1) * k) / steps;
				const stress = nominalStress(form, c, mode, stretch);
				if (end > 1 ? stress <= before : stress >= before) return { mode, stretch };
				before = stress;
			}
		}
	}
	return null;
}
