/**
 * True flow stress over true plastic strain by the forms of the catalogue, SI.
 * @param form id of the form: `ludwik`, `voce` …
 * @param c its coefficients by name, SI
 * @param strain true plastic strain, 0 or more
 * @param youngsModulus needed where the slope is said over total strain; null where it is not known
 * @returns Pa; null for an unknown form, a missing coefficient, or a modulus that is needed and not there
 *
 * Forms as they stand in the catalogue. A total tangent E_t gives the hardening H = E E_t/(E − E_t): of a strain step
 * dε = dσ/E + dε_p and dσ = E_t dε follows dσ/dε_p = E E_t/(E − E_t). Ramberg-Osgood is solved for the stress at a plastic
 * strain: ε_p = 0.002 (σ/σ_0.2)^n.
 */
export function flowStress(
	form: string,
	c: Readonly<Record<string, number>>,
	strain: number,
	youngsModulus: number | null,
): number | null {
	const stress = stressOf(form, c, strain, youngsModulus);
	return stress !== null && Number.isFinite(stress) ? stress : null;
}

function stressOf(form: string, c: Readonly<Record<string, number>>, strain: number, e: number | null): number | null {
	// a coefficient that is not there makes the stress none, by NaN
	const { sigma0 = Number.NaN, K = Number.NaN, n = Number.NaN } = c;
	switch (form) {
		case "bilinear-hardening":
			return sigma0 + (c.H ?? Number.NaN) * strain;
		case "bilinear-tangent": {
			const tangent = c.Et ?? Number.NaN;
			return e === null || e <= tangent ? null : sigma0 + ((e * tangent) / (e - tangent)) * strain;
		}
		case "ramberg-osgood":
			return (c.sigma02 ?? Number.NaN) * (strain / 0.002) ** (1 / n);
		case "hollomon":
			return K * strain ** n;
		case "ludwik":
			return sigma0 + K * strain ** n;
		case "swift":
			return K * ((c.eps0 ?? Number.NaN) + strain) ** n;
		case "voce": {
			const saturation = c.sigmas ?? Number.NaN;
			return saturation - (saturation - sigma0) * Math.exp(-strain / (c.epsc ?? Number.NaN));
		}
		default:
			return null;
	}
}
