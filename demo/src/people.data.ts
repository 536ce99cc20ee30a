/** People of Orrisay Works, all made up. `local` is the first person of every installation: its administrator. */
export const PEOPLE = [
	{ id: "local", name: "Maren Vosk", initials: "MV", does: "administrator; sees and changes everything" },
	{ id: "okke", name: "Okke Brandal", initials: "OB", does: "keeps the libraries: steward of Orrisay Works" },
	{ id: "tove", name: "Tove Ehmsen", initials: "TE", does: "design engineer: edits materials and the winch" },
	{ id: "ines", name: "Ines Calderwick", initials: "IC", does: "analysis engineer: edits materials, reads the winch" },
	{ id: "rhea", name: "Rhea Lindmark", initials: "RL", does: "workshop: reads" },
] as const;

export const TEAMS = [{ id: "engineering", name: "Engineering", members: ["tove", "ines"] }] as const;

export const GRANTS = [
	{ by: "everyone", subject: "", kind: "library", target: "orrisay", role: "reader" },
	{ by: "everyone", subject: "", kind: "library", target: "tolvane", role: "reader" },
	{ by: "person", subject: "okke", kind: "library", target: "orrisay", role: "steward" },
	{ by: "person", subject: "okke", kind: "library", target: "tolvane", role: "steward" },
	{ by: "team", subject: "engineering", kind: "library", target: "orrisay", role: "editor" },
	{ by: "everyone", subject: "", kind: "project", target: "winch", role: "reader" },
	{ by: "person", subject: "tove", kind: "project", target: "winch", role: "editor" },
] as const;

export const ABOUT = "What the works builds with: weighed, tested or taken from suppliers' sheets.";

/** Rows of the supplied library that the firm works with. */
export const WORKING = ["Tolvane bolt steel 88"];
