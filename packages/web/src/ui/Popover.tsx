import { lazy, type ReactNode, Suspense, useEffect, useRef, useState } from "react";
import { useShortcuts } from "./useShortcuts";

// what places it in the window comes with the first one that is about to open
const panel = () => import("./PopoverPanel");
const Panel = lazy(panel);

/** A panel that hangs from its button, within the window; Escape and a click elsewhere close it, focus goes back. */
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
		document.addEventListener("pointerdown", outside);
		return () => document.removeEventListener("pointerdown", outside);
	}, [open]);
	const close = (): void => {
		setOpen(false);
		trigger.current?.focus();
	};
	useShortcuts(open ? [{ keys: "Escape", run: close, whileTyping: true }] : []);
	return (
		<div ref={root}>
			<button
				ref={trigger}
				type="button"
				className={`btn ${primary ? "btn-primary" : "btn-ghost"} ${small ? "btn-small h-5.5! min-h-0!" : ""}`}
				aria-label={buttonName}
				aria-expanded={open}
				aria-haspopup="dialog"
				onPointerEnter={() => void panel()}
				onFocus={() => void panel()}
				onClick={() => setOpen(!open)}
			>
				{button}
			</button>
			{open && (
				<Suspense>
					<Panel anchor={trigger.current} label={label} above={above}>
						{children}
					</Panel>
				</Suspense>
			)}
		</div>
	);
}
