import { dimension, NONE } from "../quantity";
import type { Component, CurveForm, Form, HeaderField, ModelForm, SetForm } from "./types";

const units = (engineering: string, base: string, us: string) => ({ engineering, base, us });
const stress = { dimension: dimension(1, -1, -2), siUnit: "Pa" } as const;

function modulus(symbol: string, name: string): Component {
	return { symbol, name, ...stress, units: units("GPa", "Pa", "Msi"), min: 0, minExclusive: true, max: 2e12 };
}
function stiffness(i: number, j: number): Component {
	return {
		symbol: `C_${i}${j}`,
		name: `stress ${i} per strain ${j}`,
		...stress,
		units: units("GPa", "Pa", "Msi"),
		min: -2e12,
		max: 2e12,
	};
}
function pressure(symbol: string, name: string, signed = false): Component {
	return {
		symbol,
		name,
		...stress,
		units: units("MPa", "Pa", "psi"),
		max: 1e12,
		...(signed ? { min: -1e12 } : { min: 0, minExclusive: true }),
	};
}
function number(symbol: string, name: string, min = -1000, max = 1000): Component {
	return { symbol, name, dimension: NONE, siUnit: "1", units: units("1", "1", "1"), bareIsSi: true, min, max };
}
function perMass(symbol: string, name: string): Component {
	return {
		symbol,
		name,
		dimension: dimension(0, 2, -3),
		siUnit: "W/kg",
		units: units("W/kg", "W/kg", "W/lb"),
		min: 0,
		max: 1e9,
	};
}
function compressibility(symbol: string): Component {
	return {
		symbol,
		name: "compressibility, 2/κ",
		dimension: dimension(-1, 1, 2),
		siUnit: "1/Pa",
		units: units("1/MPa", "1/Pa", "1/psi"),
		min: 0,
		max: 1,
	};
}

const option = (...pairs: readonly (readonly [string, string])[]) => pairs.map(([id, name]) => ({ id, name }));
const TEMPERATURE: HeaderField = { id: "temperature", name: "Temperature" };
const DIRECTION: HeaderField = { id: "direction", name: "Direction" };

const CURVES: readonly CurveForm[] = [
	{
		kind: "curve",
		id: "stress_strain",
		name: "Stress-strain curve",
		section: "curves",
		x: "strain",
		y: ["stress"],
		conditions: ["temperature", "strain_rate"],
		headers: [
			{ id: "stress", name: "Stress", options: option(["engineering", "engineering"], ["true", "true"]) },
			{
				id: "strain",
				name: "Strain",
				options: option(
					["total-engineering", "total, engineering"],
					["total-true", "total, true"],
					["plastic-true", "plastic, true"],
				),
			},
			{
				id: "loading",
				name: "Loading",
				options: option(["tension", "tension"], ["compression", "compression"], ["shear", "shear"]),
			},
			TEMPERATURE,
			{ id: "rate", name: "Rate" },
		],
		outside: "refuse",
		explanation:
			"Stress over strain as the test gave it. Its true and plastic forms are derived from it and follow it; over several temperatures or rates it is a flow curve.",
	},
	{
		kind: "curve",
		id: "sn_curve",
		name: "S-N curve",
		section: "curves",
		x: "cycles",
		y: ["stress"],
		conditions: ["stress_ratio", "temperature"],
		headers: [
			{ id: "stress", name: "Stress", options: option(["amplitude", "amplitude"], ["range", "range"], ["maximum", "maximum"]) },
			{ id: "ratio", name: "R or mean stress" },
			{ id: "loading", name: "Loading", options: option(["axial", "axial"], ["bending", "bending"], ["torsion", "torsion"]) },
			{ id: "survival", name: "Survival probability" },
			{ id: "run_out", name: "Run-out N" },
			TEMPERATURE,
		],
		outside: "refuse",
		explanation: "Stress that is carried for a number of cycles.",
	},
	{
		kind: "curve",
		id: "rubber_test",
		name: "Rubber test",
		section: "curves",
		x: "strain",
		y: ["stress"],
		conditions: [],
		headers: [
			{
				id: "mode",
				name: "Mode",
				options: option(["uniaxial", "uniaxial"], ["equibiaxial", "equibiaxial"], ["planar", "planar"]),
			},
			TEMPERATURE,
			{ id: "cycle", name: "Loading cycle" },
		],
		outside: "refuse",
		explanation: "Engineering stress over engineering strain of a rubber sheet or button.",
	},
	{
		kind: "curve",
		id: "bh_curve",
		name: "B-H curve",
		section: "magnetic",
		x: "field",
		y: ["flux_density"],
		conditions: ["temperature"],
		headers: [
			{ id: "quantity", name: "Quantity", options: option(["B", "flux density B"], ["J", "polarisation J"]) },
			{ id: "excitation", name: "Excitation", options: option(["dc", "dc"], ["ac", "ac"]) },
			{ id: "frequency", name: "Frequency" },
			{
				id: "curve",
				name: "Curve",
				options: option(["initial", "initial magnetisation"], ["normal", "normal (tips of loops)"]),
			},
			DIRECTION,
			TEMPERATURE,
		],
		outside: "vacuum-slope",
		explanation: "Flux density over field strength of a soft magnetic material.",
	},
	{
		kind: "curve",
		id: "demagnetisation",
		name: "Demagnetisation curve",
		section: "magnetic",
		x: "field",
		y: ["flux_density"],
		conditions: ["temperature"],
		headers: [
			{ id: "quantity", name: "Quantity", options: option(["B", "flux density B"], ["J", "polarisation J"]) },
			DIRECTION,
			TEMPERATURE,
		],
		outside: "refuse",
		explanation: "Second quadrant of a permanent magnet, at one or several temperatures.",
	},
	{
		kind: "curve",
		id: "core_loss",
		name: "Core loss",
		section: "magnetic",
		x: "flux_density",
		y: ["loss_per_mass", "loss_per_volume"],
		conditions: ["frequency"],
		headers: [
			{ id: "thickness", name: "Sheet thickness" },
			{ id: "waveform", name: "Waveform", options: option(["sine-b", "sinusoidal B"], ["sine-h", "sinusoidal H"]) },
			{
				id: "method",
				name: "Method",
				options: option(["epstein", "Epstein frame"], ["sheet", "single sheet"], ["ring", "ring"]),
			},
			DIRECTION,
			TEMPERATURE,
		],
		outside: "refuse",
		explanation: "Power lost in alternating field over its peak flux density; one table per sheet thickness.",
	},
];

const ELASTIC_COMPONENTS: Readonly<Record<string, Component>> = {
	E1: modulus("E_1", "modulus along 1"),
	E2: modulus("E_2", "modulus along 2"),
	E3: modulus("E_3", "modulus along 3"),
	nu12: number("ν_12", "strain along 2 per strain along 1, in tension along 1", -10, 10),
	nu13: number("ν_13", "strain along 3 per strain along 1, in tension along 1", -10, 10),
	nu23: number("ν_23", "strain along 3 per strain along 2, in tension along 2", -10, 10),
	G12: modulus("G_12", "shear modulus in plane 12"),
	G13: modulus("G_13", "shear modulus in plane 13"),
	G23: modulus("G_23", "shear modulus in plane 23"),
	...Object.fromEntries(
		[1, 2, 3, 4, 5, 6].flatMap((i) =>
			[1, 2, 3, 4, 5, 6].filter((j) => j >= i).map((j) => [`C${i}${j}`, stiffness(i, j)] as const),
		),
	),
};

const STIFFNESSES = Object.keys(ELASTIC_COMPONENTS).filter((c) => c.startsWith("C"));

function threeDirections(
	id: string,
	name: string,
	symbol: string,
	section: SetForm["section"],
	explanation: string,
	spec: Omit<Component, "symbol" | "name">,
): SetForm {
	const components = Object.fromEntries(
		[1, 2, 3].map((i) => [`${symbol}${i}`, { ...spec, symbol: `${SHOWN[symbol] ?? symbol}_${i}`, name: `along ${i}` }]),
	);
	return {
		kind: "set",
		id,
		name,
		section,
		symmetries: [{ id: "orthotropic", name: "orthotropic", components: Object.keys(components) }],
		components,
		explanation,
	};
}

const SHOWN: Readonly<Record<string, string>> = { alpha: "α", mu: "μ" };

const SETS: readonly SetForm[] = [
	{
		kind: "set",
		id: "elastic_set",
		name: "Directional elasticity",
		section: "elastic",
		symmetries: [
			{
				id: "orthotropic",
				name: "orthotropic",
				components: ["E1", "E2", "E3", "nu12", "nu13", "nu23", "G12", "G13", "G23"],
			},
			{ id: "transverse", name: "transversely isotropic about 1", components: ["E1", "E2", "nu12", "nu23", "G12"] },
			{ id: "ply", name: "shell ply", components: ["E1", "E2", "nu12", "G12"] },
			{ id: "anisotropic", name: "anisotropic, order 11 22 33 23 13 12", components: STIFFNESSES },
		],
		components: ELASTIC_COMPONENTS,
		explanation:
			"Elastic constants under named axes. ν_ij is the strain along j per strain along i in tension along i; ν_12/E_1 = ν_21/E_2.",
	},
	threeDirections(
		"conductivity_set",
		"Directional thermal conductivity",
		"k",
		"thermal",
		"Thermal conductivity along each named axis.",
		{
			dimension: dimension(1, 1, -3, -1),
			siUnit: "W/(m·K)",
			units: units("W/(m·K)", "W/(m·K)", "Btu/(h·ft·°F)"),
			min: 0,
			minExclusive: true,
			max: 1e4,
		},
	),
	threeDirections("expansion_set", "Directional expansion", "alpha", "thermal", "Thermal expansion along each named axis.", {
		dimension: dimension(0, 0, 0, -1),
		siUnit: "/K",
		units: units("10^-6/K", "/K", "10^-6/°F"),
		min: -1e-2,
		max: 1e-2,
	}),
	threeDirections(
		"permeability_set",
		"Directional permeability",
		"mu",
		"magnetic",
		"Relative permeability along each named axis.",
		{ dimension: NONE, siUnit: "1", units: units("1", "1", "1"), bareIsSi: true, min: 0, max: 1e7 },
	),
];

const MODELS: readonly ModelForm[] = [
	{
		kind: "model",
		id: "plasticity_model",
		name: "Plasticity model",
		section: "curves",
		forms: [
			{
				id: "bilinear-hardening",
				name: "bilinear, hardening modulus",
				expression: "σ = σ_0 + H ε_p",
				coefficients: { sigma0: pressure("σ_0", "yield stress"), H: pressure("H", "hardening modulus over plastic strain") },
			},
			{
				id: "bilinear-tangent",
				name: "bilinear, total tangent",
				expression: "σ = σ_0 + E_t (ε − σ_0/E);  H = E E_t/(E − E_t)",
				coefficients: { sigma0: pressure("σ_0", "yield stress"), Et: pressure("E_t", "tangent over total strain") },
			},
			{
				id: "ramberg-osgood",
				name: "Ramberg-Osgood",
				expression: "ε = σ/E + 0.002 (σ/σ_0.2)^n",
				coefficients: { sigma02: pressure("σ_0.2", "0.2 % proof stress"), n: number("n", "exponent", 1, 1000) },
			},
			{
				id: "hollomon",
				name: "Hollomon",
				expression: "σ = K ε_p^n",
				coefficients: { K: pressure("K", "strength coefficient"), n: number("n", "exponent", 0, 1) },
			},
			{
				id: "ludwik",
				name: "Ludwik",
				expression: "σ = σ_0 + K ε_p^n",
				coefficients: {
					sigma0: pressure("σ_0", "yield stress"),
					K: pressure("K", "strength coefficient"),
					n: number("n", "exponent", 0, 1),
				},
			},
			{
				id: "swift",
				name: "Swift",
				expression: "σ = K (ε_0 + ε_p)^n",
				coefficients: {
					K: pressure("K", "strength coefficient"),
					eps0: number("ε_0", "strain offset", 0, 1),
					n: number("n", "exponent", 0, 1),
				},
			},
			{
				id: "voce",
				name: "Voce",
				expression: "σ = σ_s − (σ_s − σ_0) exp(−ε_p/ε_c)",
				coefficients: {
					sigma0: pressure("σ_0", "yield stress"),
					sigmas: pressure("σ_s", "saturation stress"),
					epsc: number("ε_c", "characteristic strain", 0, 100),
				},
			},
		],
		explanation: "Flow stress over plastic strain as an expression; true stress, true plastic strain.",
	},
	{
		kind: "model",
		id: "hyperelastic_model",
		name: "Hyperelastic model",
		section: "curves",
		forms: [
			{
				id: "neo-hookean",
				name: "neo-Hookean, C10 = μ/2",
				expression: "W = C_10 (I_1 − 3) + (J − 1)²/D_1",
				coefficients: { C10: pressure("C_10", "μ/2"), D1: compressibility("D_1") },
				optional: ["D1"],
			},
			{
				id: "mooney-rivlin",
				name: "Mooney-Rivlin, 2 (C10 + C01) = μ",
				expression: "W = C_10 (I_1 − 3) + C_01 (I_2 − 3) + (J − 1)²/D_1",
				coefficients: {
					C10: pressure("C_10", "first coefficient", true),
					C01: pressure("C_01", "second coefficient", true),
					D1: compressibility("D_1"),
				},
				optional: ["D1"],
			},
			{
				id: "yeoh",
				name: "Yeoh, 2 C10 = μ",
				expression: "W = C_10 (I_1 − 3) + C_20 (I_1 − 3)² + C_30 (I_1 − 3)³ + (J − 1)²/D_1",
				coefficients: {
					C10: pressure("C_10", "μ/2"),
					C20: pressure("C_20", "second coefficient", true),
					C30: pressure("C_30", "third coefficient", true),
					D1: compressibility("D_1"),
				},
				optional: ["D1", "C20", "C30"],
			},
			...(
				[
					["ogden-mu-alpha", "Ogden, μ_i/α_i: Σ μ_i α_i = 2 μ", "W = Σ μ_i/α_i (λ_1^α_i + λ_2^α_i + λ_3^α_i − 3)"],
					["ogden-2mu-alpha2", "Ogden, 2 μ_i/α_i²: Σ μ_i = μ", "W = Σ 2 μ_i/α_i² (λ_1^α_i + λ_2^α_i + λ_3^α_i − 3)"],
				] as const
			).map(([id, name, expression]) => ({
				id,
				name,
				expression,
				coefficients: {
					mu1: pressure("μ_1", "first modulus", true),
					alpha1: number("α_1", "first exponent", -100, 100),
					mu2: pressure("μ_2", "second modulus", true),
					alpha2: number("α_2", "second exponent", -100, 100),
					mu3: pressure("μ_3", "third modulus", true),
					alpha3: number("α_3", "third exponent", -100, 100),
					D1: compressibility("D_1"),
				},
				optional: ["mu2", "alpha2", "mu3", "alpha3", "D1"],
			})),
		],
		explanation:
			"Strain energy of a rubber. The form says what each coefficient means in the initial shear modulus μ and bulk modulus κ.",
	},
	{
		kind: "model",
		id: "core_loss_model",
		name: "Core loss model",
		section: "magnetic",
		forms: [
			{
				id: "steinmetz",
				name: "Steinmetz, f over 1 Hz, B over 1 T",
				expression: "P = k (f/1 Hz)^a (B/1 T)^b",
				coefficients: {
					k: perMass("k", "loss at 1 Hz and 1 T"),
					a: number("a", "exponent of frequency", 0, 5),
					b: number("b", "exponent of flux density", 0, 10),
				},
			},
			{
				id: "three-term",
				name: "hysteresis, eddy current and excess",
				expression: "P = k_h (f/1 Hz) (B/1 T)^b + k_c (f/1 Hz)² (B/1 T)² + k_e (f/1 Hz)^1.5 (B/1 T)^1.5",
				coefficients: {
					kh: perMass("k_h", "hysteresis at 1 Hz and 1 T"),
					b: number("b", "exponent of hysteresis", 0, 10),
					kc: perMass("k_c", "eddy currents at 1 Hz and 1 T"),
					ke: perMass("k_e", "excess at 1 Hz and 1 T"),
				},
				optional: ["ke"],
			},
		],
		explanation:
			"Loss per mass over frequency and peak flux density, each over its reference, so that every coefficient is a loss.",
	},
	{
		kind: "model",
		id: "creep_model",
		name: "Creep model",
		section: "curves",
		forms: [
			{
				id: "norton",
				name: "Norton, σ over 1 MPa",
				expression: "dε/dt = A (σ/1 MPa)^n",
				coefficients: {
					A: {
						symbol: "A",
						name: "rate at 1 MPa",
						dimension: dimension(0, 0, -1),
						siUnit: "1/s",
						units: units("1/h", "1/s", "1/h"),
						min: 0,
						minExclusive: true,
						max: 1e9,
					},
					n: number("n", "stress exponent", 0, 100),
				},
			},
		],
		explanation: "Steady creep rate over stress. The stress is over 1 MPa, so that A is a rate whatever the exponent is.",
	},
];

/** What is more than one number: curves, directional sets, models. */
export const FORM_ROWS: readonly Form[] = [...SETS, ...CURVES, ...MODELS];
