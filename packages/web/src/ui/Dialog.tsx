import { X } from "lucide-react";
import { type ReactNode, useEffect, useRef } from "react";

const FIRST_FIELD = ["input", "select", "textarea"].map((field) => `[data-body] ${field}:not([disabled])`).join(", ");

/** A question that takes the whole attention; Escape closes it, focus goes back to where it was. */
export function Dialog({
	title,
	children,
	close,
	wide = false,
}: {
	title: string;
	children: ReactNode;
	close: () => void;
	wide?: boolean;
}) {
	const dialog = useRef<HTMLDialogElement>(null);
	useEffect(() => {
		dialog.current?.showModal();
		// by itself it would begin with the button that closes it
		dialog.current?.querySelector<HTMLElement>(FIRST_FIELD)?.focus();
	}, []);
	return (
		<dialog
			ref={dialog}
			aria-label={title}
			onClose={close}
			className={`m-auto p-0 bg-card text-ink border border-line rounded-md shadow-xl backdrop:bg-ink/30 ${wide ? "w-190" : "w-120"} max-w-[94vw]`}
		>
			<div className="flex items-center px-4 h-11.5 border-b border-line">
				<h2 className="text-lg font-bold">{title}</h2>
				<button
					type="button"
					className="btn btn-ghost btn-small px-1! ml-auto"
					aria-label="Close"
					onClick={() => dialog.current?.close()}
				>
					<X size={14} aria-hidden />
				</button>
			</div>
			<div data-body className="p-4 max-h-[74vh] overflow-y-auto">
				{children}
			</div>
		</dialog>
	);
}
