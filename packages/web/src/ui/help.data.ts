/** What one does in a place, in a few sentences, and something to try there. */
export type PlaceHelp = {
	readonly name: string;
	readonly says: string;
	/** What to type or do, and what comes of it. */
	readonly sample: readonly [type: string, comes: string];
};

/** By the beginning of an address; the longest that fits counts. */
const PLACES: readonly (readonly [path: string, help: PlaceHelp])[] = [
	[
		"/materials",
		{
			name: "Materials",
			says: "Narrow the list by ticks, by text, or by dragging along a strip; the sentence above the rows says what is chosen, and the address can be sent to a colleague. Columns, units and order are yours to choose.",
			sample: [">= 200 MPa", "typed under Values, by a value, keeps what is at least that strong"],
		},
	],
	[
		"/materials/",
		{
			name: "A sheet",
			says: "Click a value and type it with its unit, as you would say it. The right side tells what each use still needs and what looks wrong. A draft saves itself; publishing makes a revision that never changes.",
			sample: ["rho 2.71 g/cm3; E 68.9 GPa; nu 0.33", "typed under Several at once, enters three values"],
		},
	],
	[
		"/parts",
		{
			name: "Projects",
			says: "A project holds parts and what they are made of. Give it a name, then drop a STEP file into it; names, tree, placements and exact volumes come from there.",
			sample: ["a STEP file let go over the page", "is read, previewed and weighed"],
		},
	],
	[
		"/parts/",
		{
			name: "Parts",
			says: "Select parts, type a few letters of a material, Enter. The line on top always says how much of the mass is known; what is behind a newer revision moves when you say so.",
			sample: ["Gudgeon alloy 2.68 g/cm3", "typed in the chooser, makes a material of this project only"],
		},
	],
	[
		"/libraries",
		{
			name: "Libraries",
			says: "Who reads and changes a library, its groups, its editions, its lock. The lock guards publishing, moving and deleting; drafting is always open.",
			sample: ["Freeze edition", "keeps the library as it is published now, for others to rely on"],
		},
	],
	[
		"/libraries/publish",
		{
			name: "Publishing",
			says: "What each draft changes and which parts stand on it, before anything moves. A project follows when it brings the change forward, or by its own rule.",
			sample: ["weighed on the lab scale, 3 specimens", "a note that tells the next reader why"],
		},
	],
	[
		"/compare",
		{
			name: "Comparing",
			says: "Up to six materials side by side, against the one that a part is made of now. Rows that say the same can be hidden; curves share one chart.",
			sample: ["only differences", "leaves the rows that tell the materials apart"],
		},
	],
	[
		"/solver",
		{
			name: "For the solver",
			says: "The numbers that one analysis needs, in one consistent set of units, each with its unit and what is doubtful about it. Copy the table or take it as a file.",
			sample: ["mm-t-s", "gives MPa, t/mm³ and mJ/(t·K)"],
		},
	],
	[
		"/paper",
		{
			name: "On paper",
			says: "One or more sheets in black on white, with units, evidence, revision and publisher in words. Print it, or save it as a PDF by the browser's own dialog.",
			sample: ["a tray of three, then Print", "makes a booklet with a sheet each"],
		},
	],
	[
		"/history",
		{
			name: "History",
			says: "Who did what, when and why, the newest first, narrowed by person, kind of step, day and words. A step that can still be taken back has its button.",
			sample: ["weighed", "typed as words, finds the steps whose note says so"],
		},
	],
	[
		"/people",
		{
			name: "People and teams",
			says: "Who is here and in which teams. Rights are given to a person, a team or everyone, where the library or project is.",
			sample: ["Invite", "makes a link that one person can join by"],
		},
	],
	[
		"/account",
		{
			name: "Your account",
			says: "Your name and password, where you are signed in, tokens for scripts, and your latest steps, which can be taken back here.",
			sample: ["a token that only reads", "lets a script ask for materials without a password"],
		},
	],
];

/** The help of the place at an address; undefined where there is none. */
export function helpAt(path: string): PlaceHelp | undefined {
	const fitting = PLACES.filter(([at]) => (at.endsWith("/") ? path.startsWith(at) : path === at || path.startsWith(`${at}/`)));
	return fitting.sort((a, b) => b[0].length - a[0].length)[0]?.[1];
}
