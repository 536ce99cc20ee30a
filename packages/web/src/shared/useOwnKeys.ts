import { useNavigate } from "react-router";
import { usePreferences } from "../stores/preferences";
import { showToast } from "../stores/toasts";
import { allActions } from "../ui/finder/actions";
import { useShortcuts } from "../ui/useShortcuts";

/** The keys that a person gave actions, from anywhere; what cannot be done just now says so. */
export function useOwnKeys(): void {
	const navigate = useNavigate();
	const own = usePreferences((s) => s.ownKeys);
	const run = (id: string): void => {
		const action = allActions().find((a) => a.id === id);
		if (action === undefined) return;
		if (action.now === false) return showToast({ tone: "plain", text: `${action.name}: there is nothing to do just now.` });
		action.run(navigate);
	};
	useShortcuts(Object.entries(own).map(([id, { keys }]) => ({ keys, run: () => run(id) })));
}
