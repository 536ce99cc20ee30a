import { COMB_USES, type Readiness, USES } from "@alvek/core/material";
import { entryName, inSentence } from "@alvek/core/property";
import { Check, CircleHelp, Minus } from "lucide-react";
import { useState } from "react";

/** A material's swatch: a small upright bar in its own base colour. */
export function Swatch({ colour, tall = false }: { colour: string | null; tall?: boolean }) {
	const size = tall ? "w-2.75 h-9.5" : "w-2.25 h-4.5";
	if (colour === null)
		return <span aria-hidden className={`${size} shrink-0 inline-block border border-dashed border-ink3 rounded-xs`} />;
	return (
		<span
			aria-hidden
			className={`${size} shrink-0 inline-block rounded-xs ring-1 ring-black/10 dark:ring-white/15`}
			style={{ background: colour }}
		/>
	);
}

const USE_NAME = new Map(USES.map((u) => [u.id as string, u.name as string]));

/** The name of a use; one that a library adds says its own. */
export function nameOfUse({ use, name }: Pick<Readiness, "use" | "name">): string {
	return name ?? USE_NAME.get(use) ?? use;
}

/** What is missing, in words: `Young’s modulus, yield or proof stress`. */
export function missingText(readiness: Readiness): string {
	return readiness.missing.map((any) => [...new Set(any)].map((id) => inSentence(entryName(id))).join(" or ")).join(", ");
}

export function readinessText(readiness: Readiness): string {
	const name = nameOfUse(readiness);
	if (readiness.state === "ready") return `${name}: ready`;
	if (readiness.state === "doubts") return `${name}: ready with doubts (${readiness.doubts.join("; ")})`;
	const why = [missingText(readiness), ...readiness.doubts].filter((w) => w !== "");
	return `${name}: not ready (${why.join("; ")})`;
}

/** Readiness in a row: one tooth per use in a fixed order; full ready, half with doubts, short outline not ready. */
export function ReadinessBar({ readiness }: { readiness: readonly Readiness[] }) {
	const shown = readiness.filter((r) => COMB_USES.has(r.use));
	// uses of a library's own have no tooth, but a word
	const words = [...shown, ...readiness.filter((r) => r.name !== undefined)].map(readinessText).join("\n");
	return (
		<span role="img" aria-label={words} title={words} className="inline-flex items-end gap-0.75 h-3.5 align-middle">
			{shown.map((r) => (
				<Tooth key={r.use} state={r.state} />
			))}
		</span>
	);
}

function Tooth({ state }: { state: Readiness["state"] }) {
	if (state === "ready") return <span className="w-1.5 h-3.5 bg-primary" />;
	if (state === "doubts") {
		return (
			<span className="w-1.5 h-3.5 border border-primary flex items-end">
				<span className="w-full h-1/2 bg-primary" />
			</span>
		);
	}
	return <span className="w-1.5 h-1.5 border border-ink3/60" />;
}

/** Readiness in words, one line a use. */
export function ReadinessList({
	readiness,
	wanted,
	onWant,
}: {
	readiness: readonly Readiness[];
	wanted?: string;
	onWant?: (use: string) => void;
}) {
	const [all, setAll] = useState(false);
	// the uses of the comb, those of the library, the wanted one, and whatever else this material can do
	const shown = readiness.filter(
		(r) => all || COMB_USES.has(r.use) || r.name !== undefined || r.use === wanted || r.state !== "not-ready",
	);
	return (
		<ul>
			{shown.map((r) => (
				<li key={r.use}>
					<ReadinessLine readiness={r} wanted={wanted === r.use} {...(onWant ? { onWant: () => onWant(r.use) } : {})} />
				</li>
			))}
			{onWant !== undefined && shown.length < readiness.length && (
				<li>
					<button type="button" className="quiet-link caption text-ink2!" onClick={() => setAll(true)}>
						{readiness.length - shown.length} more uses
					</button>
				</li>
			)}
		</ul>
	);
}

function ReadinessLine({ readiness, wanted, onWant }: { readiness: Readiness; wanted: boolean; onWant?: () => void }) {
	const Icon = readiness.state === "ready" ? Check : readiness.state === "doubts" ? CircleHelp : Minus;
	const tone = readiness.state === "ready" ? "text-primary" : readiness.state === "doubts" ? "text-doubt" : "text-ink3";
	const detail =
		readiness.state === "not-ready" && readiness.missing.length > 0 ? missingText(readiness) : (readiness.doubts[0] ?? "");
	const more = readiness.doubts.length > 1 ? ` +${readiness.doubts.length - 1}` : "";
	const body = (
		<>
			<Icon aria-hidden size={14} className={`${tone} shrink-0 mt-0.5`} />
			<span className={`shrink-0 ${wanted ? "font-semibold" : ""} ${readiness.state === "not-ready" ? "text-ink2" : ""}`}>
				{nameOfUse(readiness)}
			</span>
			<span className={`caption ml-auto text-right min-w-0 truncate ${readiness.state === "doubts" ? "text-doubt!" : ""}`}>
				{detail}
				{more}
			</span>
		</>
	);
	const title = readinessText(readiness);
	if (onWant === undefined) {
		return (
			<div className="flex items-start gap-2 py-0.5" title={title}>
				{body}
			</div>
		);
	}
	return (
		<button
			type="button"
			aria-pressed={wanted}
			title={`${title}\nClick: Enter goes to what this use still needs`}
			onClick={onWant}
			className={`w-full flex items-start gap-2 py-0.5 px-1.5 -mx-1.5 rounded-md text-left hover:bg-sunk ${wanted ? "bg-accent-soft" : ""}`}
		>
			{body}
		</button>
	);
}
