import { X } from "lucide-react";
import { closeToast, holdToast, letGo, useToasts } from "../stores/toasts";

/** Short news with the way back, in a strip of their own above the tray: they cover nothing. */
export function Toasts() {
	const { toasts } = useToasts();
	return (
		<div
			aria-live="polite"
			data-toasts
			className="shrink-0 flex flex-col items-center gap-1.5 px-3 bg-paper not-empty:py-1.5 not-empty:border-t border-line"
		>
			{toasts.map((t) => (
				// biome-ignore lint/a11y/noStaticElementInteractions: whoever points at it does nothing to it, it only waits
				<div
					key={t.id}
					role={t.tone === "wrong" ? "alert" : "status"}
					onPointerEnter={() => holdToast(t.id)}
					onPointerLeave={() => letGo(t.id)}
					onFocus={() => holdToast(t.id)}
					onBlur={() => letGo(t.id)}
					className={`bg-card border border-line rounded-md flex items-start gap-3 pl-3.5 pr-2 py-0.5 max-w-160 border-l-3 ${t.tone === "wrong" ? "border-l-wrong" : "border-l-primary"}`}
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
