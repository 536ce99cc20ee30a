import { useSyncExternalStore } from "react";

/** Does a media query hold, now and as the window changes? */
export function useMedia(query: string): boolean {
	return useSyncExternalStore(
		(onChange) => {
			const media = matchMedia(query);
			media.addEventListener("change", onChange);
			return () => media.removeEventListener("change", onChange);
		},
		() => matchMedia(query).matches,
	);
}
