import type { MaterialRow, PartView, ProjectView } from "@alvek/contract";
import { writeList } from "@alvek/contract";
import { judge } from "@alvek/core/judge";
import type { Material, Readiness } from "@alvek/core/material";
import { useSearchParams } from "react-router";
import { useRoute } from "../../api/queries";

/** A column of the comparison. */
export type Column = {
	/** The material's id, with the revision where that is not the newest: `id@2`. */
	readonly key: string;
	readonly materialId: string;
	readonly name: string;
	readonly revision: number;
	readonly draft: boolean;
	readonly material: Material;
	readonly readiness: readonly Readiness[];
	/** What the part is made of now. */
	readonly present: boolean;
};

/** A name that tells two revisions of one material apart. */
export function labelOf(column: Column, all: readonly Column[]): string {
	const twice = all.some((c) => c !== column && c.name === column.name);
	return twice ? `${column.name} (${column.draft ? "draft" : `rev ${column.revision}`})` : column.name;
}

/** The parts that the comparison is for. */
export type ForParts = {
	readonly project: ProjectView;
	readonly parts: readonly PartView[];
	readonly name: string;
	readonly pieces: number;
	/** m3 of all pieces. */
	readonly volume: number;
};

/** Most materials that stand side by side. */
export const MOST_COLUMNS = 6;

/** What the address compares: materials, perhaps for parts of a project with what they are made of now. */
export function useCompared() {
	const [params] = useSearchParams();
	const ids = (params.get("ids") ?? "").split(",").filter((id) => id !== "");
	const [projectId = "", partText = ""] = (params.get("part") ?? "").split("/");
	const project = useRoute("getProject", { id: projectId }, { enabled: projectId !== "" });
	const known = project.data?.id === projectId ? project.data : undefined;
	const parts = known?.parts.filter((p) => partText.split("+").includes(p.id)) ?? [];
	const present = parts[0]?.assignment ?? null;
	const rows = useRoute("getMaterials", { ids: writeList(ids) }, { enabled: ids.length > 0 });
	const assigned = useRoute(
		"getRevision",
		{ id: present?.materialId ?? "", no: String(present?.revision ?? 0) },
		{ enabled: present !== null && !present.draft },
	);
	const waiting =
		(ids.length > 0 && rows.data === undefined) ||
		(projectId !== "" && known === undefined && !project.isError) ||
		(present !== null && !present.draft && assigned.data === undefined && !assigned.isError);
	const found = ids.flatMap((id) => rows.data?.find((r) => r.id === id) ?? []);
	const columns = found.map((row): Column => columnOf(row, present?.materialId === row.id && isSame(row, present)));
	if (present !== null && !columns.some((c) => c.present) && assigned.data !== undefined) {
		const { document, name, no, own } = assigned.data;
		columns.unshift({
			key: `${present.materialId}@${no}`,
			materialId: present.materialId,
			name,
			revision: no,
			draft: false,
			material: document,
			readiness: judge(document, { own, base: null }).readiness,
			present: true,
		});
	}
	const forParts: ForParts | null =
		known === undefined || parts.length === 0
			? null
			: {
					project: known,
					parts,
					name: parts.length === 1 ? (parts[0] as PartView).name : `${parts.length} parts`,
					pieces: parts.reduce((n, p) => n + p.quantity, 0),
					volume: parts.reduce((v, p) => v + p.quantity * p.volume_m3, 0),
				};
	return {
		waiting,
		error: rows.error ?? project.error ?? null,
		columns: columns.slice(0, MOST_COLUMNS),
		/** Asked for, but more than fit or not to be seen. */
		left: Math.max(0, columns.length - MOST_COLUMNS) + (rows.data === undefined ? 0 : ids.length - found.length),
		forParts,
	};
}

function columnOf(row: MaterialRow, present: boolean): Column {
	return {
		key: row.id,
		materialId: row.id,
		name: row.name,
		revision: row.revision,
		draft: row.draftId !== null,
		material: row.document,
		readiness: row.readiness,
		present,
	};
}

/** Does the part stand on just what the row shows? */
function isSame(row: MaterialRow, present: { readonly revision: number; readonly draft: boolean }): boolean {
	return present.draft ? row.draftId !== null : row.draftId === null && row.revision === present.revision;
}
