import type { LibraryView } from "@alvek/contract";
import { useMe } from "../api/queries";
import { usePreferences } from "../stores/preferences";
import { targetAmong } from "./keepers";

/** Where new materials and copies go, of these libraries: the one that the person chose, else their own, while it can be edited. */
export function useTargetLibrary(libraries: readonly LibraryView[]): LibraryView | undefined {
	const chosen = usePreferences((s) => s.target);
	const me = useMe();
	return targetAmong(libraries, { chosen, me: me?.id ?? null });
}
