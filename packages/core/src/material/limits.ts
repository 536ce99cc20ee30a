/** The most that a material holds; each refusal names its limit. */
export const LIMITS = {
	name: 200,
	text: 400,
	description: 20_000,
	designations: 20,
	links: 20,
	constituents: 60,
	values: 400,
	sources: 100,
	attachments: 100,
	/** Bytes of one attachment, and of one picture on a surface. */
	file: 50 * 1024 * 1024,
	picture: 8 * 1024 * 1024,
	/** Pixels along a side of a picture. */
	pixels: 4096,
	/** Rows of one table or curve. */
	rows: 5000,
} as const;
