import { type ReactNode, useEffect, useRef, useState } from "react";

/** A panel that hangs from its button; Escape and a click elsewhere close it, focus goes back. */
export function Popover({
	label,
	button,
	children,
	primary = false,
}: {
	label: string;
	button: ReactNode;
	children: ReactNode;
	primary?: boolean;
}) {
	const [open, setOpen] = useState(false);
	const root = useRef<HTMLDivElement>(null);
	const trigger = useRef<HTMLButtonElement>(null);
	useEffect(() => {
		if (!open) return;
		const outside = (e: PointerEvent): void => {
			if (!root.current?.contains(e.target as Node)) setOpen(false);
		};
		const onEscape = (e: KeyboardEvent): void => {
			if (e.key !== "Escape") return;
			setOpen(false);
			trigger.current?.focus();
		};
		document.addEventListener("pointerdown", outside);
		document.addEventListener("keydown", onEscape);
		return () => {
			document.removeEventListener("pointerdown", outside);
			document.removeEventListener("keydown", onEscape);
		};
	}, [open]);
	return (
		<div ref={root} className="relative">
			<button
				ref={trigger}
				type="button"
				className={`btn ${primary ? "btn-primary" : "btn-ghost"}`}
				aria-expanded={open}
				aria-haspopup="dialog"
				onClick={() => setOpen(!open)}
			>
				{button}
			</button>
			{open && (
				<div role="dialog" aria-label={label} className="floating absolute right-0 top-[34px] z-30">
					{children}
				</div>
			)}
		</div>
	);
}
