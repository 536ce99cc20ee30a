import { UNIT_SETS } from "@alvek/core/property";
import { foldName, rankName } from "@alvek/core/table";
import { useHelp } from "../../stores/help";
import { usePreferences } from "../../stores/preferences";
import { useTray } from "../../stores/tray";

/** Something that can be done from anywhere. */
export type Action = {
	readonly id: string;
	readonly name: string;
	/** Other words that people try. */
	readonly also: string;
	/** False where it would do nothing now. */
	readonly now?: boolean;
	readonly run: (go: (path: string) => void) => void;
};

/** Everything that can be done from anywhere, also what cannot be done just now. */
export function allActions(): readonly Action[] {
	const held = useTray.getState().items.map((i) => i.id);
	const { theme, unitSet, toggleTheme, set } = usePreferences.getState();
	return [
		{ id: "new", name: "New material", also: "create add begin", run: (go) => go("/materials?create=blank") },
		{ id: "materials", name: "Go to the materials", also: "libraries grid", run: (go) => go("/materials") },
		{ id: "parts", name: "Go to the projects", also: "parts mass", run: (go) => go("/parts") },
		{ id: "libraries", name: "Go to the libraries", also: "lock editions groups share", run: (go) => go("/libraries") },
		{ id: "people", name: "People and teams", also: "users invite rights", run: (go) => go("/people") },
		{
			id: "help",
			name: "Help for this place, marks and keys",
			also: "keyboard shortcuts legend what how ?",
			run: () => useHelp.getState().turn(true),
		},
		{
			id: "back",
			name: "Take back my last step",
			also: "undo",
			run: () => void import("../../live/stepBack").then((m) => m.stepBack()),
		},
		{ id: "account", name: "Your account", also: "password token sign out", run: (go) => go("/account") },
		{ id: "working", name: "Show the working list", also: "supplied", run: (go) => go("/materials?marks=working") },
		{ id: "edit", name: "Edit cells of the grid", also: "spreadsheet table", run: (go) => go("/materials?edit=1") },
		{ id: "starred", name: "Show my starred materials", also: "favourites", run: (go) => go("/materials?starred=1") },
		{ id: "drafts", name: "Show my drafts", also: "unpublished", run: (go) => go("/materials?open=draft") },
		{
			id: "compare",
			name: "Compare the materials of the tray",
			also: "side by side difference",
			now: held.length > 0,
			run: (go) => go(`/compare?ids=${held.slice(-6).join(",")}`),
		},
		{
			id: "paper",
			name: "Print the sheets of the tray",
			also: "paper pdf booklet",
			now: held.length > 0,
			run: (go) => go(`/paper?ids=${held.join(",")}`),
		},
		{
			id: "solver",
			name: "Numbers of the tray for the solver",
			also: "simulation table",
			now: held.length > 0,
			run: (go) => go(`/solver?ids=${held.join(",")}`),
		},
		{
			id: "empty",
			name: "Empty the tray",
			also: "clear",
			now: held.length > 0,
			run: () => useTray.getState().clear(),
		},
		...UNIT_SETS.map(
			(s): Action => ({
				id: s.id,
				name: `Units: ${s.name}`,
				also: "si us imperial metric",
				now: s.id !== unitSet,
				run: () => set({ unitSet: s.id }),
			}),
		),
		{
			id: "theme",
			name: theme === "day" ? "Night colours" : "Day colours",
			also: "dark light theme",
			run: toggleTheme,
		},
	];
}

/** What can be done now; some only while the tray holds something. */
export const currentActions = (): readonly Action[] => allActions().filter((a) => a.now !== false);

/** Actions that answer a text, with their rank among names; its other words count last. */
export function findActions(all: readonly Action[], text: string): readonly { readonly action: Action; readonly rank: number }[] {
	const query = foldName(text);
	if (query === "") return all.map((action) => ({ action, rank: 4 }));
	return all
		.flatMap((action) => {
			const rank = rankName(foldName(action.name), query) ?? (rankName(foldName(action.also), query) === null ? null : 3);
			return rank === null ? [] : [{ action, rank }];
		})
		.sort((a, b) => a.rank - b.rank);
}
