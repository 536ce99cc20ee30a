import type { KeyboardEvent, ReactNode } from "react";

/** Escape leaves, unless something inside took it; the focus goes back to what opened it, or to the first field around it. */
export function leaveOnEscape(leave: () => void): (e: KeyboardEvent<HTMLElement>) => void {
	return (e) => {
		if (e.key !== "Escape" || e.defaultPrevented) return;
		e.preventDefault();
		e.stopPropagation();
		const around = e.currentTarget.parentElement;
		const opener = around?.querySelector<HTMLElement>(':scope button[aria-expanded="true"]');
		leave();
		// what was left is gone by then
		requestAnimationFrame(() => (opener ?? around?.querySelector<HTMLElement>("select, input, button"))?.focus());
	};
}

/** Something that a button unfolded. */
export function Leavable({ leave, children }: { leave: () => void; children: ReactNode }) {
	return (
		// biome-ignore lint/a11y/noStaticElementInteractions: keys of the fields inside arrive here
		<div onKeyDown={leaveOnEscape(leave)}>{children}</div>
	);
}
