import { Search } from "lucide-react";
import { type KeyboardEvent, lazy, Suspense, useRef, useState } from "react";
import { useShortcuts } from "../useShortcuts";

// what answers is loaded when somebody first asks
const FinderPanel = lazy(async () => ({ default: (await import("./FinderPanel")).FinderPanel }));

/** Materials, parts, projects and actions by a few letters, from anywhere: Ctrl+K. */
export function Finder() {
	const [open, setOpen] = useState(false);
	const [text, setText] = useState("");
	const [at, setAt] = useState(0);
	/** How many answers stand below; the panel tells. */
	const [count, setCount] = useState(0);
	const field = useRef<HTMLInputElement>(null);
	const before = useRef<Element | null>(null);
	/** Enter came before the answers to what was typed: it is kept until they are here. */
	const [waiting, setWaiting] = useState<{ readonly hold: boolean } | null>(null);

	const find = (): void => {
		before.current = document.activeElement;
		field.current?.focus();
		field.current?.select();
	};
	useShortcuts([{ keys: "$mod+k", run: find, whileTyping: true }]);

	function close(back: boolean): void {
		setOpen(false);
		setText("");
		setAt(0);
		setWaiting(null);
		field.current?.blur();
		if (back && before.current instanceof HTMLElement) before.current.focus();
	}
	const onKeyDown = (e: KeyboardEvent): void => {
		if (e.key === "ArrowDown") setAt(Math.min(at + 1, count - 1));
		else if (e.key === "ArrowUp") setAt(Math.max(at - 1, 0));
		else if (e.key === "Enter") setWaiting({ hold: e.ctrlKey || e.metaKey });
		else if (e.key === "Escape") close(true);
		else return;
		e.preventDefault();
		e.stopPropagation();
	};
	return (
		<div className="relative mx-auto w-75 shrink max-md:order-last max-md:w-full max-md:mb-2">
			<Search size={15} aria-hidden className="absolute left-2.5 top-2 text-ink3" />
			<input
				ref={field}
				type="text"
				role="combobox"
				className="field pl-8! pr-14! bg-paper!"
				aria-label="Find a material, part or action"
				aria-expanded={open}
				aria-controls="finder-list"
				aria-autocomplete="list"
				aria-activedescendant={open && at < count ? `found-${at}` : undefined}
				placeholder="Find a material, part or action"
				maxLength={200}
				value={text}
				onFocus={() => setOpen(true)}
				onBlur={() => setOpen(false)}
				onChange={(e) => {
					setText(e.target.value);
					setAt(0);
					setWaiting(null);
					setOpen(true);
				}}
				onKeyDown={onKeyDown}
			/>
			<kbd
				aria-hidden
				className="absolute right-2 top-1.5 font-sans text-xs text-ink2 border border-line rounded-md px-1.5 bg-card"
			>
				Ctrl K
			</kbd>
			{open && (
				<Suspense fallback={null}>
					<FinderPanel
						text={text}
						at={at}
						onPoint={setAt}
						onCount={setCount}
						waiting={waiting}
						onTaken={() => setWaiting(null)}
						close={() => close(false)}
					/>
				</Suspense>
			)}
		</div>
	);
}
