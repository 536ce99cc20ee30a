import { lazy, Suspense } from "react";
import { useHelp } from "../stores/help";
import { useShortcuts } from "./useShortcuts";

const LegendPanel = lazy(async () => ({ default: (await import("./LegendPanel")).LegendPanel }));

/** Help for the place, what the small marks mean, and every key; `?` opens and closes it. */
export function Legend() {
	const { open, turn } = useHelp();
	useShortcuts([
		{ keys: "Shift+?", run: () => turn() },
		// a keyboard that has it without Shift
		{ keys: "?", run: () => turn() },
		...(open ? [{ keys: "Escape", run: () => turn(false), whileTyping: true } as const] : []),
	]);
	if (!open) return null;
	return (
		<Suspense fallback={null}>
			<LegendPanel leave={() => turn(false)} />
		</Suspense>
	);
}
