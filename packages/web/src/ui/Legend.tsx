import { EVIDENCE_WORD } from "@alvek/core/material";
import { X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { ReadinessBar } from "./marks";
import { EVIDENCE_LETTER } from "./Quantity";
import { useShortcuts } from "./useShortcuts";

const USES_SHOWN = [
	{ state: "ready", words: "full: ready" },
	{ state: "doubts", words: "half: ready with doubts, which are named" },
	{ state: "not-ready", words: "short outline: not ready, and what is missing is named" },
] as const;

/** What the small marks mean; `?` opens and closes it. */
export function Legend() {
	const [open, setOpen] = useState(false);
	const close = useRef<HTMLButtonElement>(null);
	const turn = (): void => setOpen(!open);
	useShortcuts([
		{ keys: "Shift+?", run: turn },
		// a keyboard that has it without Shift
		{ keys: "?", run: turn },
		...(open ? [{ keys: "Escape", run: () => setOpen(false), whileTyping: true } as const] : []),
	]);
	useEffect(() => {
		if (open) close.current?.focus();
	}, [open]);
	if (!open) return null;
	return (
		<div role="dialog" aria-label="What the marks mean" className="floating fixed right-4 top-14 w-82.5 p-4 z-40">
			<div className="flex items-start">
				<h2 className="font-bold text-lg">What the marks mean</h2>
				<button
					ref={close}
					type="button"
					className="btn btn-ghost btn-small px-1! ml-auto"
					aria-label="Close"
					onClick={() => setOpen(false)}
				>
					<X size={14} aria-hidden />
				</button>
			</div>
			<h3 className="rule-head mt-2">Letter behind a number: evidence</h3>
			<dl>
				{Object.entries(EVIDENCE_LETTER).map(([evidence, letter]) => (
					<div key={evidence} className="flex py-0.5">
						<dt className="w-7 font-bold">{letter}</dt>
						<dd>{EVIDENCE_WORD[evidence as keyof typeof EVIDENCE_WORD]}</dd>
					</div>
				))}
				<div className="flex py-0.5">
					<dt className="w-7">
						<span className="carried">7</span>
					</dt>
					<dd>carried over from a base, not yet confirmed</dd>
				</div>
			</dl>
			<h3 className="rule-head mt-3">ReadinessBar: mass, linear static, strength, modal, thermal</h3>
			<ul>
				{USES_SHOWN.map(({ state, words }) => (
					<li key={state} className="flex items-center gap-3 py-0.5">
						<ReadinessBar readiness={[{ use: "mass", state, missing: [], doubts: [] }]} />
						{words}
					</li>
				))}
			</ul>
			<h3 className="rule-head mt-3">Keys</h3>
			<p>
				Arrows walk, Enter opens or gives, T puts into the tray, Ctrl Z takes back the last step, also after a reload, Alt held
				shows every value in all its units and as it was typed, ? shows this.
			</p>
		</div>
	);
}
