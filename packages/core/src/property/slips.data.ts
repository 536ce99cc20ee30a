import { dimension, NONE } from "../quantity";

const DENSITY = dimension(1, -3);
const STRESS = dimension(1, -1, -2);
const CONDUCTIVITY = dimension(1, 1, -3, -1);
const HEAT = dimension(0, 2, -2, -1);
const PER_KELVIN = dimension(0, 0, 0, -1);
const TOUGHNESS = dimension(1, -0.5, -2);
const ENERGY = dimension(1, 2, -2);
const PER_LENGTH = dimension(1, 1, -2);
const FIELD = dimension(0, -1, 0, 0, 1);
const FLUX = dimension(1, 0, -2, 0, -1);
const LOSS = dimension(0, 2, -3);

/**
 * Ratios of common slips of units, named by what was probably mixed up, each only for the dimensions where both units
 * are used. Every ratio follows from the exact factors of quantity/ (a test compares them).
 */
export const SLIPS: readonly {
	readonly ratio: number;
	readonly said: string;
	readonly dimensions: readonly number[];
	/** The two units that are mixed up; their factors give the ratio. */
	readonly units?: readonly [string, string];
}[] = [
	{ ratio: 27679.9, said: "lb/in³ and kg/m³", dimensions: [DENSITY], units: ["lb/in^3", "kg/m^3"] },
	{ ratio: 27.68, said: "lb/in³ and g/cm³", dimensions: [DENSITY], units: ["lb/in^3", "g/cm^3"] },
	{ ratio: 16.02, said: "lb/ft³ and kg/m³", dimensions: [DENSITY], units: ["lb/ft^3", "kg/m^3"] },
	{ ratio: 62.43, said: "lb/ft³ and g/cm³", dimensions: [DENSITY], units: ["g/cm^3", "lb/ft^3"] },
	{ ratio: 1728, said: "lb/in³ and lb/ft³", dimensions: [DENSITY], units: ["lb/in^3", "lb/ft^3"] },
	{ ratio: 386.09, said: "lbf·s²/in⁴ and lb/in³", dimensions: [DENSITY], units: ["lbf*s^2/in^4", "lbm/in^3"] },
	{ ratio: 6.895, said: "ksi and MPa (Msi and GPa)", dimensions: [STRESS], units: ["ksi", "MPa"] },
	{ ratio: 145.04, said: "psi and MPa", dimensions: [STRESS], units: ["MPa", "psi"] },
	{ ratio: 9.80665, said: "kgf and N", dimensions: [STRESS, ENERGY, PER_LENGTH], units: ["kgf/mm^2", "N/mm^2"] },
	{ ratio: 1.8, said: "per °F and per K", dimensions: [PER_KELVIN], units: ["/°F", "/K"] },
	{ ratio: 1.7307, said: "Btu/(h·ft·°F) and W/(m·K)", dimensions: [CONDUCTIVITY], units: ["Btu/(h·ft·°F)", "W/(m·K)"] },
	{ ratio: 6.933, said: "Btu·in/(h·ft²·°F) and W/(m·K)", dimensions: [CONDUCTIVITY], units: ["W/(m·K)", "Btu*in/(h*ft^2*°F)"] },
	{ ratio: 12, said: "feet and inches", dimensions: [CONDUCTIVITY, PER_LENGTH] },
	{ ratio: 1.163, said: "kcal/(m·h·K) and W/(m·K)", dimensions: [CONDUCTIVITY], units: ["kcal/(m·h·K)", "W/(m·K)"] },
	{ ratio: 4186.8, said: "kcal/(kg·K) or Btu/(lb·°F) and J/(kg·K)", dimensions: [HEAT], units: ["Btu/(lb·°F)", "J/(kg·K)"] },
	{ ratio: 1.356, said: "ft·lbf and J", dimensions: [ENERGY], units: ["ft*lbf", "J"] },
	{ ratio: 3.281, said: "feet and metres", dimensions: [PER_LENGTH], units: ["m", "ft"] },
	{ ratio: 31.62, said: "N/mm^1.5 and MPa·√m", dimensions: [TOUGHNESS], units: ["MPa·√m", "N/mm^1.5"] },
	{ ratio: 79.577, said: "Oe and A/m", dimensions: [FIELD], units: ["Oe", "A/m"] },
	{ ratio: 1e4, said: "gauss and tesla", dimensions: [FLUX], units: ["T", "G"] },
	{ ratio: 2.2046, said: "W/lb and W/kg", dimensions: [LOSS], units: ["W/lb", "W/kg"] },
	{ ratio: 100, said: "percent and a plain ratio", dimensions: [NONE], units: ["1", "%"] },
	{
		ratio: 1000,
		said: "units a factor of 1000 apart (kg/m³ and g/cm³, MPa and GPa)",
		dimensions: [DENSITY, STRESS, CONDUCTIVITY, HEAT, TOUGHNESS, ENERGY, PER_LENGTH, FIELD],
	},
];
