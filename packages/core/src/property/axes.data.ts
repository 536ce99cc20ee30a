import { dimension, NONE } from "../quantity";
import type { Axis } from "./types";

const same = (unit: string) => ({ engineering: unit, base: unit, us: unit });
const none = { dimension: NONE, siUnit: "1" } as const;
const percent = { ...none, units: same("%"), percent: true };
const stress = { dimension: dimension(1, -1, -2), siUnit: "Pa", units: { engineering: "MPa", base: "Pa", us: "ksi" } } as const;
const field = {
	dimension: dimension(0, -1, 0, 0, 1),
	siUnit: "A/m",
	units: { engineering: "A/m", base: "A/m", us: "Oe" },
} as const;
const flux = { dimension: dimension(1, 0, -2, 0, -1), siUnit: "T", units: { engineering: "T", base: "T", us: "kG" } } as const;

/** What a column of a table or a curve can be. Conditions first, then what is plotted. SI symbols of ISO 80000. */
export const AXIS_ROWS: readonly Axis[] = [
	{
		id: "temperature",
		name: "Temperature",
		symbol: "T",
		dimension: dimension(0, 0, 0, 1),
		siUnit: "K",
		units: { engineering: "°C", base: "K", us: "°F" },
		absoluteTemperature: true,
		min: 0,
		max: 5000,
	},
	{
		id: "strain_rate",
		name: "Strain rate",
		symbol: "ε̇",
		dimension: dimension(0, 0, -1),
		siUnit: "1/s",
		units: same("1/s"),
		min: 0,
		max: 1e9,
	},
	{
		id: "thickness",
		name: "Thickness",
		symbol: "t",
		dimension: dimension(0, 1),
		siUnit: "m",
		units: { engineering: "mm", base: "m", us: "in" },
		min: 0,
		minExclusive: true,
		max: 100,
	},
	{
		id: "diameter",
		name: "Diameter",
		symbol: "d",
		dimension: dimension(0, 1),
		siUnit: "m",
		units: { engineering: "mm", base: "m", us: "in" },
		min: 0,
		minExclusive: true,
		max: 100,
	},
	{
		id: "frequency",
		name: "Frequency",
		symbol: "f",
		dimension: dimension(0, 0, -1),
		siUnit: "Hz",
		units: same("Hz"),
		min: 0,
		max: 1e15,
	},
	{ id: "moisture", name: "Moisture", symbol: "w", ...percent, min: 0, max: 10 },
	{
		id: "time",
		name: "Time",
		symbol: "t",
		dimension: dimension(0, 0, 1),
		siUnit: "s",
		units: { engineering: "h", base: "s", us: "h" },
		min: 0,
		max: 1e12,
	},
	{ id: "stress_ratio", name: "Stress ratio", symbol: "R", ...none, units: same("1"), bareIsSi: true, min: -100, max: 100 },
	{ id: "strain", name: "Strain", symbol: "ε", ...percent, min: -10, max: 100 },
	{ id: "stress", name: "Stress", symbol: "σ", ...stress, min: -100e9, max: 100e9 },
	{ id: "cycles", name: "Cycles", symbol: "N", ...none, units: same("1"), bareIsSi: true, min: 0, minExclusive: true, max: 1e15 },
	{ id: "field", name: "Field strength", symbol: "H", ...field, min: -1e9, max: 1e9 },
	{ id: "flux_density", name: "Flux density", symbol: "B", ...flux, min: -100, max: 100 },
	{
		id: "loss_per_mass",
		name: "Loss per mass",
		symbol: "P",
		dimension: dimension(0, 2, -3),
		siUnit: "W/kg",
		units: { engineering: "W/kg", base: "W/kg", us: "W/lb" },
		min: 0,
		max: 1e9,
	},
	{
		id: "loss_per_volume",
		name: "Loss per volume",
		symbol: "P_V",
		dimension: dimension(1, -1, -3),
		siUnit: "W/m^3",
		units: same("W/m^3"),
		min: 0,
		max: 1e12,
	},
];
