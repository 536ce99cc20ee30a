import { X } from "lucide-react";
import { type KeyboardEvent, useState } from "react";
import { type OwnKey, usePreferences } from "../../stores/preferences";
import { allActions } from "../../ui/finder/actions";
import { ownKeyOf, whyNot } from "../../ui/ownKeys";
import { Part } from "../../ui/Page";

/** Every action of the finder may have a key of one's own: choose the line, press the key. */
export function OwnKeys() {
	const own = usePreferences((s) => s.ownKeys);
	const [refused, setRefused] = useState<{ readonly id: string; readonly why: string } | null>(null);
	const actions = allActions();
	const give = (id: string, key: OwnKey | null): void => {
		const { [id]: _, ...others } = own;
		usePreferences.getState().set({ ownKeys: key === null ? others : { ...others, [id]: key } });
		setRefused(null);
	};
	const onKeyDown = (id: string, e: KeyboardEvent): void => {
		if (e.key === "Tab" || e.key === "Enter" || e.key === "Escape" || e.key === " ") return;
		e.preventDefault();
		e.stopPropagation();
		if (e.key === "Delete" || e.key === "Backspace") return give(id, null);
		const key = ownKeyOf(e.nativeEvent);
		if (key === null) return;
		const others = actions.flatMap((a) => (a.id !== id && own[a.id] ? [[own[a.id]?.keys ?? "", a.name] as const] : []));
		const why = whyNot(key, new Map(others));
		if (why === null) give(id, key);
		else setRefused({ id, why });
	};
	return (
		<Part title="Keys of your own">
			<p className="caption py-1.5">
				Go to a line and press the key with Ctrl or Alt held; Delete takes it away. They are kept in this browser.
			</p>
			<ul className="columns-2 max-md:columns-1 gap-6">
				{actions.map((a) => (
					<li key={a.id} className="break-inside-avoid border-b border-line2 py-0.75">
						<div className="flex items-center gap-2">
							<span className="truncate" id={`own-${a.id}`}>
								{a.name}
							</span>
							<button
								type="button"
								className={`btn btn-small ml-auto whitespace-nowrap ${own[a.id] ? "" : "btn-ghost text-ink2!"}`}
								aria-label={`Key for ${a.name}: ${own[a.id]?.shown ?? "none"}`}
								onKeyDown={(e) => onKeyDown(a.id, e)}
							>
								{own[a.id]?.shown ?? "no key"}
							</button>
							{own[a.id] && (
								<button
									type="button"
									className="btn btn-ghost btn-small px-1!"
									aria-label={`Take the key of ${a.name} away`}
									onClick={() => give(a.id, null)}
								>
									<X size={13} aria-hidden />
								</button>
							)}
						</div>
						{refused?.id === a.id && (
							<p role="alert" className="text-wrong text-sm">
								{refused.why}
							</p>
						)}
					</li>
				))}
			</ul>
		</Part>
	);
}
