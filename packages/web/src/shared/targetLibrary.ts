import type { LibraryView } from "@alvek/contract";
import { useMemo } from "react";
import { useMe } from "../api/queries";
import { usePreferences } from "../stores/preferences";
import { isKeptBy, targetAmong } from "./keepers";

/** Where new materials and copies go, of these libraries: the one that the person chose, else their own, while it can be edited. */
export function useTargetLibrary(libraries: readonly LibraryView[]): LibraryView | undefined {
	const chosen = usePreferences((s) => s.target);
	const me = useMe();
	return targetAmong(libraries, { chosen, me: me?.id ?? null });
}

/** The libraries that the person keeps, by their ids. */
export function useKeptByMe(libraries: readonly LibraryView[]): ReadonlySet<string> {
	const me = useMe()?.id ?? null;
	return useMemo(() => new Set(libraries.filter((l) => isKeptBy(l, "me", me)).map((l) => l.id)), [libraries, me]);
}
