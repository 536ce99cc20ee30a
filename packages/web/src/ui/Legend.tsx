import { lazy, Suspense, useState } from "react";
import { useShortcuts } from "./useShortcuts";

const LegendPanel = lazy(async () => ({ default: (await import("./LegendPanel")).LegendPanel }));

/** What the small marks mean, and every key; `?` opens and closes it. */
export function Legend() {
	const [open, setOpen] = useState(false);
	const turn = (): void => setOpen(!open);
	useShortcuts([
		{ keys: "Shift+?", run: turn },
		// a keyboard that has it without Shift
		{ keys: "?", run: turn },
		...(open ? [{ keys: "Escape", run: () => setOpen(false), whileTyping: true } as const] : []),
	]);
	if (!open) return null;
	return (
		<Suspense fallback={null}>
			<LegendPanel leave={() => setOpen(false)} />
		</Suspense>
	);
}
