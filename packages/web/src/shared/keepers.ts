import type { LibraryView } from "@alvek/contract";

/** What one may put materials into: neither supplied nor archived, nor left out of one's own choosers. */
export const editable = (libraries: readonly LibraryView[]): readonly LibraryView[] =>
	libraries.filter((l) => l.mayEdit && !l.hidden);

/** Where new materials go: the chosen library while it can be edited, else the only one that one keeps oneself, else the first. */
export function targetAmong(
	libraries: readonly LibraryView[],
	{ chosen, me }: { readonly chosen: string | null; readonly me: string | null },
): LibraryView | undefined {
	const some = editable(libraries);
	const mine = some.filter((l) => isMine(l, me));
	return some.find((l) => l.id === chosen) ?? (mine.length === 1 ? mine[0] : some[0]);
}

/** Whose libraries a list shows. */
export type Keeper = "me" | "others";
export const KEEPERS: readonly { readonly id: Keeper; readonly name: string }[] = [
	{ id: "me", name: "kept by me" },
	{ id: "others", name: "opened to me by others" },
];

const isMine = (library: LibraryView, me: string | null): boolean => me !== null && library.owner?.id === me;

export const isKeptBy = (library: LibraryView, keeper: Keeper, me: string | null): boolean =>
	isMine(library, me) === (keeper === "me");

/** Libraries under who keeps them; a part without libraries is left out. */
export function byKeeper(
	libraries: readonly LibraryView[],
	me: string | null,
): readonly (readonly [string, readonly LibraryView[]])[] {
	return KEEPERS.map(({ id, name }) => [name, libraries.filter((l) => isKeptBy(l, id, me))] as const).filter(
		([, some]) => some.length > 0,
	);
}
