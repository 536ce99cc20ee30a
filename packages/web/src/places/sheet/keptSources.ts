import type { SourceView } from "@alvek/contract";
import type { Source } from "@alvek/core/material";
import { ok, type Result } from "@alvek/core/result";
import { call } from "../../api/client";
import { queryClient, useRoute } from "../../api/queries";

/** A project keeps no records of its own: what its materials cite stands in their sheets, which hold a copy anyway. */
const isProject = (place: string): boolean => place.startsWith("project:");

/** Source records that the library of a sheet keeps; none where the material lives in a project. */
export function useKeptSources(place: string): readonly SourceView[] {
	return useRoute("listSources", { id: place }, { enabled: !isProject(place) }).data ?? [];
}

/** Keeps a record, or its next version, for other sheets of the library too. */
export async function keepSource(place: string, id: string, version: number, content: Source): Promise<Result<Source>> {
	if (isProject(place)) return ok(content);
	const saved = await call("saveSource", { id: place, source: id, version, content });
	if (!saved.ok) return saved;
	await queryClient.invalidateQueries({ queryKey: ["listSources"] });
	return ok(saved.value.content);
}
