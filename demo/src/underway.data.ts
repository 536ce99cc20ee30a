import type { Details } from "./materials.data";

/** Materials that the prototype shop tries out; the first one has a proposal waiting. */
export const TRIAL_MATERIALS = ["Pelluna POM black", "Ternay laminate QI"] as const;

export const PROPOSED: {
	readonly note: string;
	readonly values: readonly (readonly [property: string, text: string, details: Details])[];
} = {
	note: "Three rods weighed and pulled in November",
	values: [
		["density", "1.40-1.42 g/cm3", { source: "three rods, weighed under water" }],
		["youngs_modulus", "2.7-2.9 GPa", { source: "tension, three specimens" }],
	],
};

/** What Tove has begun on her own. */
export const TOVES: readonly {
	readonly name: string;
	readonly group: string;
	readonly values: readonly (readonly [property: string, text: string])[];
}[] = [
	{
		name: "Gudgeon bronze 7",
		group: "Metals / Bronze",
		values: [
			["density", "8.6 g/cm3"],
			["youngs_modulus", "104 GPa"],
		],
	},
	{ name: "Cork disc", group: "Natural", values: [["density", "0.24 g/cm3"]] },
];

/** A supplier's page about two grades at once, to be read onto a sheet. */
export const TWO_GRADES = `Gudgeon Metals · continuously cast bronzes · sheet of November 2026 (made up)

Property              Unit        Bronze 5     Bronze 7
Density               g/cm3       8.8          8.6
Young's modulus       GPa         102          104
Poisson's ratio       -           0.34         0.34
0.2 % proof stress    MPa         >= 125       >= 165
Tensile strength      MPa         260-310      310-360
Elongation A          %           >= 12        >= 8
Hardness              HBW         75-90        95-115
Thermal conductivity  W/(m.K)     58           47
`;
