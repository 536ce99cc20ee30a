import type { OccurrenceView, PartView, ProjectView } from "@alvek/contract";

/** A row of the tree: one occurrence, a part or a sub-assembly. */
export type TreeRow = {
	readonly occurrence: OccurrenceView;
	/** `Spacer tube 2 of 4`, or the file's own name where it has one. */
	readonly name: string;
	readonly depth: number;
	readonly part: PartView | null;
	/** Parts below a sub-assembly, or the part itself; each once. */
	readonly parts: readonly string[];
	/** Sum of what lies below; null when nothing there has a mass. */
	readonly mass_kg: number | null;
	readonly pieces: number;
	readonly piecesWithMass: number;
};

/** A number that a drawing program hangs on a name says nothing of how many there are. */
const bare = (name: string): string => name.replace(/:\d+$/, "");

/** Names of occurrences: those that are only their part's, or their assembly's, are counted; others stay as they are. */
export function occurrenceNames(project: Pick<ProjectView, "occurrences" | "parts">): ReadonlyMap<string, string> {
	const parts = new Map(project.parts.map((p) => [p.id, p.name]));
	const counted = new Map<string, OccurrenceView[]>();
	const names = new Map<string, string>();
	for (const o of project.occurrences) {
		const base = bare(o.name);
		names.set(o.id, o.name);
		if (o.partId !== null && parts.get(o.partId) !== base) continue;
		const key = `${o.partId ?? ""} ${base}`;
		counted.set(key, [...(counted.get(key) ?? []), o]);
	}
	for (const same of counted.values())
		for (const [i, o] of same.entries())
			names.set(o.id, same.length === 1 ? bare(o.name) : `${bare(o.name)} ${i + 1} of ${same.length}`);
	return names;
}

/** The assembly as it was drawn, parents before children, with what lies below `closed` left out. */
export function treeRows(project: ProjectView, closed: ReadonlySet<string>): readonly TreeRow[] {
	const parts = new Map(project.parts.map((p) => [p.id, p]));
	const names = occurrenceNames(project);
	const children = new Map<string | null, OccurrenceView[]>();
	for (const o of project.occurrences) children.set(o.parentId, [...(children.get(o.parentId) ?? []), o]);
	const rows: TreeRow[] = [];
	const visit = (occurrence: OccurrenceView, depth: number, hidden: boolean): TreeRow => {
		const part = occurrence.partId === null ? null : (parts.get(occurrence.partId) ?? null);
		const at = rows.length;
		const below = hidden || closed.has(occurrence.id);
		const name = names.get(occurrence.id) ?? occurrence.name;
		const blank: TreeRow = { occurrence, name, depth, part, parts: [], mass_kg: null, pieces: 0, piecesWithMass: 0 };
		if (!hidden) rows.push(blank);
		const under = (children.get(occurrence.id) ?? []).map((child) => visit(child, depth + 1, below));
		const own = part?.mass_kg?.mass ?? null;
		const masses = [own, ...under.map((u) => u.mass_kg)].filter((m): m is number => m !== null);
		const row: TreeRow = {
			...blank,
			parts: [...new Set([...(part === null ? [] : [part.id]), ...under.flatMap((u) => u.parts)])],
			mass_kg: masses.length === 0 ? null : masses.reduce((a, b) => a + b, 0),
			pieces: (part === null ? 0 : 1) + under.reduce((n, u) => n + u.pieces, 0),
			piecesWithMass: (own === null ? 0 : 1) + under.reduce((n, u) => n + u.piecesWithMass, 0),
		};
		if (!hidden) rows[at] = row;
		return row;
	};
	for (const root of children.get(null) ?? []) visit(root, 0, false);
	return rows;
}
