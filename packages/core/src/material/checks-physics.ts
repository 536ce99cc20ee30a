import { isFamily, property } from "../property";
import { significant } from "../quantity";
import type { Check } from "./checks";
import { MU0 } from "./reading";
import { explainingSlip } from "./slips";
import type { Material } from "./types";
import { firstValue, workingValue } from "./value";

/** Boltzmann constant in J/K and elementary charge in C, exact by definition in the SI. */
const K_B = 1.380649e-23;
const Q_E = 1.602176634e-19;
/** Lorenz number of free electrons, (pi^2/3)(k_B/e)^2 = 2.443e-8 W Ohm/K^2. */
export const LORENZ = (Math.PI ** 2 / 3) * (K_B / Q_E) ** 2;
const ROOM = 293.15;
/**
 * k rho / (L0 T) of metals: near 1 for pure ones, up to about 2 where the lattice carries heat beside the electrons
 * (stainless steels, titanium). Engineering judgement.
 */
const FRANZ = { low: 0.55, high: 2.6, source: "engineering judgement" };

/** Conductivity against resistivity of a metal. Graphite conducts beside the iron, so cast iron is left out. */
export function franzChecks(material: Material): Check[] {
	if (!isFamily(material.family, "metal") || isFamily(material.family, "metal.cast_iron")) return [];
	const [k, rho] = [firstValue(material, "thermal_conductivity"), firstValue(material, "resistivity")];
	const [kw, rw] = [k === null ? null : workingValue(k), rho === null ? null : workingValue(rho)];
	if (k === null || rho === null || kw === null || rw === null || (k.condition ?? "") !== (rho.condition ?? "")) return [];
	const share = (kw * rw) / (LORENZ * ROOM);
	if (share >= FRANZ.low && share <= FRANZ.high) return [];
	const decimal = [share * 10, share / 10].some((s) => s >= FRANZ.low && s <= FRANZ.high);
	const slip = decimal ? { ratio: 10, said: "a factor of 10" } : null;
	return [
		{
			code: "wiedemann-franz",
			severity: "doubtful",
			title: "Conductivity and resistivity do not go together",
			detail: `In a metal both are carried by electrons: k·ρ/(L₀T) is near 1, here ${significant(share, 2)} with {0} and {1}.${slip === null ? " One of the two may be of another material." : " Perhaps one is off by a factor of 10."}`,
			figures: [
				{ si: kw, property: "thermal_conductivity" },
				{ si: rw, property: "resistivity" },
			],
			values: [k.id, rho.id],
			...(slip === null ? {} : { slip }),
		},
	];
}

/** Of a hard magnet: H_cB is at most B_r/mu0, (BH)max at most B_r^2/(4 mu0). Rounding is forgiven 5 %. */
const FORGIVEN = 1.05;

export function magnetChecks(material: Material): Check[] {
	const [br, hcb, product] = ["remanence", "coercivity_b", "energy_product"].map((id) => firstValue(material, id));
	const [b, h, e] = [br, hcb, product].map((v) => (v == null ? null : (v.high ?? v.low)));
	if (br == null || b == null || b <= 0) return [];
	const checks: Check[] = [];
	if (hcb != null && h != null && h > (FORGIVEN * b) / MU0) {
		const top = b / MU0;
		const slip =
			explainingSlip(property("coercivity_b"), { typed: hcb, si: h }, { low: top / 10, high: FORGIVEN * top, source: "" }) ??
			explainingSlip(property("remanence"), { typed: br, si: b }, { low: (MU0 * h) / FORGIVEN, high: 3, source: "" });
		checks.push({
			code: "coercivity-above-remanence",
			severity: "wrong",
			title: "H_cB lies above B_r/µ₀",
			detail: `{0} with {1}; no magnet holds more.${slip === null ? "" : ` Perhaps ${slip.said} were mixed up.`}`,
			figures: [
				{ si: h, property: "coercivity_b" },
				{ si: b, property: "remanence" },
			],
			values: [hcb.id, br.id],
			...(slip === null ? {} : { slip: { ratio: slip.ratio, said: slip.said } }),
		});
	}
	if (product != null && e != null && e > (FORGIVEN * b * b) / (4 * MU0)) {
		const least = Math.sqrt((4 * MU0 * e) / FORGIVEN);
		const slip = explainingSlip(property("remanence"), { typed: br, si: b }, { low: least, high: 3, source: "" });
		checks.push({
			code: "product-above-remanence",
			severity: "wrong",
			title: "(BH)max lies above B_r²/(4µ₀)",
			detail: `{0} with {1}; no magnet gives more.${slip === null ? "" : ` Perhaps ${slip.said} were mixed up.`}`,
			figures: [
				{ si: e, property: "energy_product" },
				{ si: b, property: "remanence" },
			],
			values: [product.id, br.id],
			...(slip === null ? {} : { slip: { ratio: slip.ratio, said: slip.said } }),
		});
	}
	return checks;
}
