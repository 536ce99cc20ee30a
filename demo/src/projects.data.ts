/** The firm's projects: which file, and which material on which parts. What is not listed has no material. */
export const PROJECTS: readonly {
	readonly id: string;
	readonly name: string;
	readonly file: string | null;
	/** The default of parts that come in. */
	readonly usual?: string;
	readonly assign: Readonly<Record<string, readonly string[]>>;
}[] = [
	{ id: "boom-study", name: "Boom study", file: null, usual: "Havrin mild plate", assign: {} },
	{
		id: "winch",
		name: "Sampling winch",
		file: "winch.step",
		assign: {
			"ORS-AL 21 T6": ["Side plate, left", "Side plate, right", "Cover"],
			"ORS-AL 21 T6, plate > 40": ["Base plate"],
			"Havrin mild plate": ["Drum"],
			"Havrin 34 quenched": ["Drum shaft"],
			"Gudgeon bronze 5": ["Bearing bush", "Thrust ring"],
			"Havrin stainless 18": ["Brake disc"],
			"Havrin lamina 50": ["Lamination stack"],
			"Pelluna PA-30, dry": ["Spacer tube S", "Spacer tube M", "Spacer tube L"],
			"Kelpa EPDM 60": ["Bumper"],
			"Ternay laminate QI": ["Boom arm"],
			"Pelluna slide UH": ["Cable guide"],
			"Tolvane bolt steel 88": ["Hex bolt"],
		},
	},
];
