import { EVIDENCE_WORD } from "@alvek/core/material";
import { X } from "lucide-react";
import { useEffect, useRef } from "react";
import { useLocation } from "react-router";
import { usePreferences } from "../stores/preferences";
import { allActions } from "./finder/actions";
import { helpAt } from "./help.data";
import { KEYS, type KeyLine } from "./keys.data";
import { ReadinessBar } from "./marks";
import { EVIDENCE_LETTER } from "./Quantity";

const USES_SHOWN = [
	{ state: "ready", words: "full: ready" },
	{ state: "doubts", words: "half: ready with doubts, which are named" },
	{ state: "not-ready", words: "short outline: not ready, and what is missing is named" },
] as const;

/** What the small marks mean, and every key; the focus goes back to where it came from. */
export function LegendPanel({ leave }: { leave: () => void }) {
	const { pathname } = useLocation();
	const help = helpAt(pathname);
	const given = usePreferences((s) => s.ownKeys);
	const keys = allActions().flatMap((a): KeyLine[] => (given[a.id] ? [[given[a.id]?.shown ?? "", a.name]] : []));
	const own = keys.length === 0 ? [] : [{ where: "your own", keys }];
	const close = useRef<HTMLButtonElement>(null);
	useEffect(() => {
		const before = document.activeElement;
		close.current?.focus();
		return () => {
			if (before instanceof HTMLElement) before.focus();
		};
	}, []);
	return (
		<div
			role="dialog"
			aria-label="What the marks mean, all keys, and help for this place"
			className="floating fixed right-4 top-14 w-95 max-w-[calc(100vw-2rem)] max-h-[calc(100vh-5rem)] overflow-y-auto p-4 z-40"
		>
			<div className="flex items-start">
				<h2 className="font-bold text-lg">{help === undefined ? "Marks and keys" : help.name}</h2>
				<button ref={close} type="button" className="btn btn-ghost btn-small px-1! ml-auto" aria-label="Close" onClick={leave}>
					<X size={14} aria-hidden />
				</button>
			</div>
			{help !== undefined && (
				<>
					<p className="mt-1.5">{help.says}</p>
					<p className="mt-2 mb-3 border-l-3 border-primary pl-2.5">
						<b>{help.sample[0]}</b> <span className="text-ink2">{help.sample[1]}</span>
					</p>
				</>
			)}
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
			<h3 className="rule-head mt-3">Bars: mass, linear static, strength, modal, thermal</h3>
			<ul>
				{USES_SHOWN.map(({ state, words }) => (
					<li key={state} className="flex items-center gap-3 py-0.5">
						<ReadinessBar readiness={[{ use: "mass", state, missing: [], doubts: [] }]} />
						{words}
					</li>
				))}
			</ul>
			{[...KEYS, ...own].map(({ where, keys }) => (
				<section key={where}>
					<h3 className="rule-head mt-3">Keys: {where}</h3>
					<dl>
						{keys.map(([key, does]) => (
							<div key={key} className="flex gap-2 py-0.5">
								<dt className="w-28 shrink-0 font-semibold">{key}</dt>
								<dd>{does}</dd>
							</div>
						))}
					</dl>
				</section>
			))}
		</div>
	);
}
