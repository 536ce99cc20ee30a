import { type Attachment, type Look, PLAIN_LOOK } from "@alvek/core/material";
import { TWO_GRADES } from "./underway.data";

/** Looks by family, the nearest first. */
const FAMILY_LOOKS: readonly (readonly [family: string, look: Partial<Look>])[] = [
	[
		"metal.cast_iron",
		{ metalness: 0.5, roughness: 0.7, texture: { kind: "procedural", pattern: "cast", size_mm: 15, strength: 0.5 } },
	],
	["metal", { metalness: 0.8, roughness: 0.45 }],
	[
		"composite",
		{ metalness: 0.1, roughness: 0.35, texture: { kind: "procedural", pattern: "weave", size_mm: 12, strength: 0.75 } },
	],
	["wood", { metalness: 0, roughness: 0.7, texture: { kind: "procedural", pattern: "grain", size_mm: 40, strength: 0.5 } }],
	["foam", { metalness: 0, roughness: 0.95, texture: { kind: "procedural", pattern: "speckle", size_mm: 25, strength: 0.25 } }],
	["glass", { metalness: 0, roughness: 0.08, transparency: 0.7 }],
	["polymer", { metalness: 0, roughness: 0.5 }],
	["elastomer", { metalness: 0, roughness: 0.85 }],
];

const NAMED_LOOKS: Readonly<Record<string, Partial<Look>>> = {
	"ORS-AL 21 T6": { roughness: 0.35, texture: { kind: "procedural", pattern: "brushed", size_mm: 30, strength: 0.5 } },
	"Havrin mild plate": { surface: "primed grey", metalness: 0, roughness: 0.7 },
	"Tolvane PC clear": { roughness: 0.1, transparency: 0.75 },
};

/** How a row of the demo looks. */
export function lookFor(name: string, family: string): Look {
	const found = FAMILY_LOOKS.find(([f]) => family === f || family.startsWith(`${f}.`));
	return { ...PLAIN_LOOK, ...found?.[1], ...NAMED_LOOKS[name] };
}

/** Prices per kilogram beside those of the rows, some in another currency: the project says what that is worth, or not. */
export const PRICES: Readonly<Record<string, readonly [amount: string, currency: string]>> = {
	"Havrin mild plate": ["0.98", "EUR"],
	"Havrin lamina 50": ["2.60", "EUR"],
	"Pelluna PA-30, dry": ["3.60", "EUR"],
	"Kelpa EPDM 60": ["4.20", "EUR"],
	"Ternay CF 230 ply": ["62.00", "USD"],
	"Ternay laminate QI": ["71.00", "USD"],
};

/** kg of CO2 equivalent per kg, estimated for the demo. */
export const CARBON: Readonly<Record<string, string>> = {
	"ORS-AL 21 T6": "7.8-8.6",
	"Gudgeon bronze 5": "5.1",
	"Havrin 34 quenched": "2.4",
	"Havrin mild plate": "2.1",
	"Havrin stainless 18": "4.9",
	"Pelluna PA-30, dry": "7.9",
	"Ternay CF 230 ply": "24-30",
	"Ternay laminate QI": "26-33",
};

export const STARRED = ["ORS-AL 21 T6", "Gudgeon bronze 5", "Havrin 34 quenched"] as const;

export const VIEWS: readonly { readonly name: string; readonly address: string; readonly shared: boolean }[] = [
	{
		name: "Stiff and light",
		address: "strips=density,youngs_modulus&where=density:..5000,youngs_modulus:50000000000..",
		shared: true,
	},
	{ name: "Still to confirm", address: "open=carried&sort=changed&dir=desc", shared: false },
];

/** Files of the bronze's second revision. */
export const FILES: readonly {
	readonly name: string;
	readonly text: string;
	readonly about: Pick<Attachment, "purpose" | "note">;
}[] = [
	{
		name: "heat 0417 certificate.txt",
		about: { purpose: "certificate", note: "Heat 0417, bars of 60 mm, weighed and tested in October 2026" },
		text: "Gudgeon works, heat 0417\nRp0.2 131 MPa, Rm 284 MPa, A 14 %, 82 HBW\nMade-up figures for a demonstration.\n",
	},
	{
		name: "bronzes 5 and 7, data sheet.txt",
		about: { purpose: "data-sheet", note: "One page about two grades" },
		text: TWO_GRADES,
	},
	{
		name: "bronze-5 tension.csv",
		about: { purpose: "test-report", note: "Three specimens, raw series" },
		text: "strain [%];stress [MPa]\n0;0\n0,1;102\n0,2;128\n0,5;142\n1;158\n",
	},
];
