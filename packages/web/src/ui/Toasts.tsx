import { X } from "lucide-react";
import { closeToast, useToasts } from "../stores/toasts";

/** Short news with the way back; errors stay longer. Read out, never in the way of the keyboard. */
export function Toasts() {
	const { toasts } = useToasts();
	return (
		<div
			aria-live="polite"
			data-toasts
			className="fixed left-1/2 -translate-x-1/2 bottom-16 z-50 flex flex-col gap-2 items-center pointer-events-none"
		>
			{toasts.map((t) => (
				<div
					key={t.id}
					role={t.tone === "wrong" ? "alert" : "status"}
					className={`floating pointer-events-auto flex items-start gap-3 pl-3.5 pr-2 py-2 max-w-160 border-l-3 ${t.tone === "wrong" ? "border-l-wrong" : "border-l-primary"}`}
				>
					<span className="py-0.75">{t.text}</span>
					{t.action && (
						<button
							type="button"
							className="btn btn-small shrink-0"
							onClick={() => {
								closeToast(t.id);
								t.action?.run();
							}}
						>
							{t.action.label}
						</button>
					)}
					<button
						type="button"
						className="btn btn-ghost btn-small px-1!"
						onClick={() => closeToast(t.id)}
						aria-label="Close this message"
					>
						<X size={14} aria-hidden />
					</button>
				</div>
			))}
		</div>
	);
}
