import { autoUpdate, flip, offset, shift, size, useFloating } from "@floating-ui/react-dom";
import type { ReactNode } from "react";

/** Distance from the button, and from the edge of the window, px. */
const GAP = 6;
/** Lower than this it is not made, however low the window is, px. */
const LOWEST = 120;

/** The panel of a popover, by its button and within the window. */
export default function PopoverPanel({
	anchor,
	label,
	above,
	children,
}: {
	anchor: HTMLElement | null;
	label: string;
	above: boolean;
	children: ReactNode;
}) {
	const { refs, floatingStyles, isPositioned } = useFloating({
		elements: { reference: anchor },
		placement: above ? "top-start" : "bottom-end",
		strategy: "fixed",
		transform: false,
		middleware: [offset(GAP), flip({ padding: GAP }), shift({ padding: GAP }), size({ padding: GAP, apply: fit })],
		whileElementsMounted: autoUpdate,
	});
	return (
		<div
			ref={refs.setFloating}
			role="dialog"
			aria-label={label}
			className={`floating z-30 overflow-y-auto ${isPositioned ? "" : "opacity-0"}`}
			style={floatingStyles}
		>
			{children}
		</div>
	);
}

/** In a low window the panel scrolls instead of leaving it. */
function fit({ availableHeight, elements }: { availableHeight: number; elements: { floating: HTMLElement } }): void {
	elements.floating.style.maxHeight = `${Math.max(availableHeight, LOWEST)}px`;
}
