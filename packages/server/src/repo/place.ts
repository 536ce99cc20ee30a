/** Where a material lives: in a library, or in one project only. */
export type Owner = { readonly library: string | null; readonly project: string | null };

const PROJECT = "project:";

/** The place of a material as one word: a library's id, or `project:` and a project's id. */
export const projectPlace = (project: string): string => `${PROJECT}${project}`;

/** The one place where that word is taken apart. */
export function ownerOf(place: string): Owner {
	return place.startsWith(PROJECT) ? { library: null, project: place.slice(PROJECT.length) } : { library: place, project: null };
}
