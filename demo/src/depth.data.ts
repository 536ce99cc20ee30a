import type { SeriesColumn } from "@alvek/core/material";

/** Curves, tables, sets and models of the demo's materials: made up like everything else, plausible for the family. */
type Column = Pick<SeriesColumn, "of" | "unit" | "cells">;
export type Series = {
	readonly property: string;
	readonly kind: "table" | "curve";
	readonly interpolation: "linear" | "pchip";
	readonly columns: readonly Column[];
	readonly header?: Readonly<Record<string, string>>;
};
export type Coefficients = {
	readonly property: string;
	/** Symmetry of a set, form of a model. */
	readonly shape: string;
	readonly axes?: readonly [string, string, string];
	readonly numbers: Readonly<Record<string, string>>;
};
export type Depth = {
	readonly series?: readonly Series[];
	readonly sets?: readonly Coefficients[];
	readonly models?: readonly Coefficients[];
	readonly directional?: boolean;
	readonly composition?: readonly (readonly [name: string, min: string, max: string])[];
};

const split = (text: string): readonly string[] => text.trim().split(/\s+/);

/** Tension of the bush bronze at 20 °C; warmer bars carry 92 and 85 % of it. */
const STRAIN =
	"0.000 0.020 0.039 0.061 0.090 0.147 0.197 0.272 0.382 0.543 0.771 1.092 1.532 2.129 2.924 3.969 5.324 7.061 9.264 12.028";
const STRESS = [0, 20, 40, 60, 80, 100, 110, 120, 130, 140, 150, 160, 170, 180, 190, 200, 210, 220, 230, 240];

function atTemperatures(): readonly Column[] {
	const strains = split(STRAIN);
	const family = [
		["20", 1],
		["100", 0.92],
		["150", 0.85],
	] as const;
	return [
		{ of: "temperature", unit: "°C", cells: family.flatMap(([t]) => strains.map(() => t)) },
		{ of: "strain", unit: "%", cells: family.flatMap(() => strains) },
		{ of: "stress", unit: "MPa", cells: family.flatMap(([, share]) => STRESS.map((s) => (s * share).toFixed(1))) },
	];
}

export const DEPTH: Readonly<Record<string, Depth>> = {
	"Gudgeon bronze 5": {
		series: [
			{
				property: "stress_strain",
				kind: "curve",
				interpolation: "pchip",
				columns: atTemperatures(),
				header: { stress: "engineering", strain: "total-engineering", loading: "tension" },
			},
			{
				property: "youngs_modulus",
				kind: "table",
				interpolation: "linear",
				columns: [
					{ of: "temperature", unit: "°C", cells: split("20 100 150") },
					{ of: "value", unit: "GPa", cells: split("102.5 94.3 87.1") },
				],
			},
		],
		composition: [
			["Cu", "", ""],
			["Sn", "11", "13"],
			["Pb", "", "0.5"],
		],
	},
	"Havrin mild plate": {
		series: [
			{
				property: "youngs_modulus",
				kind: "table",
				interpolation: "linear",
				columns: [
					{ of: "temperature", unit: "°C", cells: split("20 100 200 300 400") },
					{ of: "value", unit: "GPa", cells: split("210 206 199 192 184") },
				],
			},
			{
				property: "thermal_expansion",
				kind: "table",
				interpolation: "linear",
				columns: [
					{ of: "temperature", unit: "°C", cells: split("100 200 300 400") },
					{ of: "value", unit: "10^-6/K", cells: split("12.1 12.7 13.2 13.6") },
				],
				header: { reference: "20 °C" },
			},
			{
				property: "sn_curve",
				kind: "curve",
				interpolation: "linear",
				columns: [
					{ of: "cycles", unit: "1", cells: split("1e4 1e5 3e5 1e6 2e6") },
					{ of: "stress", unit: "MPa", cells: split("255 205 185 168 162") },
				],
				header: { stress: "amplitude", ratio: "R = -1", loading: "axial", survival: "50 %", run_out: "2e6" },
			},
		],
	},
	"Havrin lamina 50": {
		series: [
			{
				property: "bh_curve",
				kind: "curve",
				interpolation: "pchip",
				columns: [
					{ of: "field", unit: "A/m", cells: split("0 30 50 70 100 200 500 1000 2500 5000 10000") },
					{ of: "flux_density", unit: "T", cells: split("0 0.35 0.72 0.98 1.17 1.36 1.46 1.52 1.61 1.70 1.81") },
				],
				header: { quantity: "B", excitation: "dc", curve: "initial", direction: "mean of both" },
			},
			{
				property: "core_loss",
				kind: "curve",
				interpolation: "linear",
				columns: [
					{ of: "frequency", unit: "Hz", cells: split("50 50 50 400 400 400") },
					{ of: "flux_density", unit: "T", cells: split("0.5 1.0 1.5 0.5 1.0 1.5") },
					{ of: "loss_per_mass", unit: "W/kg", cells: split("0.36 1.18 2.65 6.9 22.4 53") },
				],
				header: { thickness: "0.50 mm", waveform: "sine-b", method: "epstein" },
			},
		],
	},
	"Kelpa EPDM 60": {
		models: [
			{
				property: "hyperelastic_model",
				shape: "mooney-rivlin",
				numbers: { C10: "0.42 MPa", C01: "0.11 MPa", D1: "0.002 1/MPa" },
			},
		],
	},
	"Ternay CF 230 ply": {
		directional: true,
		sets: [
			{
				property: "elastic_set",
				shape: "orthotropic",
				axes: ["along fibres", "across, in plane", "through"],
				numbers: {
					E1: "128 GPa",
					E2: "8.4 GPa",
					E3: "8.4 GPa",
					nu12: "0.30",
					nu13: "0.30",
					nu23: "0.44",
					G12: "4.5 GPa",
					G13: "4.5 GPa",
					G23: "2.9 GPa",
				},
			},
			{
				property: "expansion_set",
				shape: "orthotropic",
				axes: ["along fibres", "across, in plane", "through"],
				numbers: { alpha1: "0.2 10^-6/K", alpha2: "30 10^-6/K", alpha3: "30 10^-6/K" },
			},
		],
	},
};
