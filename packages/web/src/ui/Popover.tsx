import { type ReactNode, useEffect, useRef, useState } from "react";

/** A panel that hangs from its button; Escape and a click elsewhere close it, focus goes back. */
export function Popover({
	label,
	button,
	children,
	primary = false,
	small = false,
	buttonName,
	above = false,
}: {
	label: string;
	button: ReactNode;
	children: ReactNode;
	primary?: boolean;
	small?: boolean;
	/** What the button is called where its content is a picture. */
	buttonName?: string;
	/** Opens upward: for bars at the foot of a place. */
	above?: boolean;
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
				className={`btn ${primary ? "btn-primary" : "btn-ghost"} ${small ? "btn-small h-5.5! min-h-0!" : ""}`}
				aria-label={buttonName}
				aria-expanded={open}
				aria-haspopup="dialog"
				onClick={() => setOpen(!open)}
			>
				{button}
			</button>
			{open && (
				<div role="dialog" aria-label={label} className={`floating absolute z-30 ${above ? "left-0 bottom-8" : "right-0 top-9"}`}>
					{children}
				</div>
			)}
		</div>
	);
}
