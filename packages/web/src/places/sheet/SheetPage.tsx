import { judge } from "@alvek/core/judge";
import { elasticGap, isDirectional, type Material } from "@alvek/core/material";
import { SECTIONS } from "@alvek/core/property";
import { significant } from "@alvek/core/quantity";
import { ArrowLeft } from "lucide-react";
import { useCallback, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { keptFieldOf, useKeptText } from "../../draft/text";
import type { Draft } from "../../draft/useDraft";
import { usePreferences } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { useAltKey } from "../../ui/useAltKey";
import { Composition } from "./Composition";
import { useSheet } from "./context";
import { EntryLine } from "./EntryLine";
import { Attachments } from "./files/Attachments";
import { Header } from "./Header";
import { Identity } from "./Identity";
import { completeness, nextNeeded, sectionLines } from "./lines";
import { LookSection } from "./look/LookSection";
import { NotSaved } from "./NotSaved";
import { Rail } from "./Rail";
import { SectionLines } from "./SectionLines";
import { Sources } from "./Sources";

/** The full page of one material. */
export function SheetPage() {
	const { sheet, material, revision, draft, typed, checks, uses, own, beside } = useSheet();
	const wanted = usePreferences((s) => s.wantedUse);
	const setPreferences = usePreferences((s) => s.set);
	const needed = useMemo(() => new Set(uses.find((r) => r.use === wanted)?.missing.flat() ?? []), [uses, wanted]);
	const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
	// a field with text that was not entered when the page was reloaded stands open again
	const [editing, setEditing] = useState<string | null>(() => (draft === null ? null : keptFieldOf(draft.keptAs("value."))));
	const alt = useAltKey();

	/** Enter goes on to what the wanted use needs; `after` is the material with the value just typed. */
	const goOn = useCallback(
		(after: Material) => {
			const next = nextNeeded(judge(after, beside).readiness, wanted);
			setEditing(next);
			if (next === null) showToast({ tone: "plain", text: "The wanted use needs nothing more." });
		},
		[wanted, beside],
	);

	return (
		<>
			<nav aria-label="Sections" className="w-46.5 shrink-0 bg-paper px-3.5 pt-3.5 overflow-y-auto max-lg:hidden">
				<Link to="/materials" className="flex items-center gap-1.5 text-ink2 hover:text-ink px-2 mb-2">
					<ArrowLeft size={14} aria-hidden /> Materials
				</Link>
				<IndexLine id="identity" name="Identity" />
				{SECTIONS.map((s) => (
					<IndexLine key={s.id} id={s.id} name={s.name} {...completeness(material, s.id)} />
				))}
				<IndexLine id="composition" name="Composition" />
				<IndexLine id="sources" name="Sources" />
				<IndexLine id="look" name="Look" />
				<IndexLine id="attachments" name="Attachments" />
				<IndexLine id="notes" name="Notes" />
			</nav>
			<article
				aria-label={sheet.row.name}
				className="relative flex-1 min-w-0 bg-card border-x border-line overflow-y-auto"
				id="sheet-scroll"
			>
				<div className="max-w-215 mx-auto px-5.5 pb-20">
					<Header />
					{typed !== null && <NotSaved draft={typed} />}
					{draft !== null && <EntryLine material={material} draft={draft} />}
					<Identity sheet={sheet} material={material} commit={draft?.commit ?? null} />
					{SECTIONS.map((section) => (
						<SectionLines
							key={section.id}
							section={section}
							note={section.id === "elastic" ? elasticNote(material) : ""}
							material={material}
							lines={sectionLines(material, section.id, { all: unfolded.has(section.id), needed, own })}
							unfolded={unfolded.has(section.id)}
							onUnfold={() => setUnfolded(new Set(unfolded).add(section.id))}
							draft={draft}
							editing={editing}
							setEditing={setEditing}
							goOn={goOn}
							allUnitsShown={alt}
						/>
					))}
					<Composition material={material} commit={draft?.commit ?? null} />
					<Sources />
					<LookSection />
					<Attachments />
					<Notes key={sheet.row.id} material={material} draft={draft} />
				</div>
			</article>
			<Rail
				sheet={sheet}
				material={material}
				readiness={uses}
				checks={checks}
				revision={revision}
				draft={draft}
				wanted={wanted}
				onWant={(use) => setPreferences({ wantedUse: use as typeof wanted })}
				onCheck={(valueId) => document.getElementById(`line-${valueId}`)?.scrollIntoView({ block: "center" })}
			/>
		</>
	);
}

/** Consistency of an over-determined isotropic solid, said where it holds; a disagreement is a check. */
function elasticNote(material: Material): string {
	if (isDirectional(material)) return "directional, along named axes";
	const gap = elasticGap(material);
	if (gap === null || gap > 0.02) return "";
	return gap === 0 ? "E, G and ν agree" : `E, G and ν agree within ${significant(Math.max(gap * 100, 0.1), 2)} %`;
}

function IndexLine({ id, name, filled, of }: { id: string; name: string; filled?: number; of?: number }) {
	const share = of === undefined || of === 0 ? 0 : (filled ?? 0) / of;
	return (
		<a
			href={`#section-${id}`}
			className="block px-2 py-1 rounded-md hover:bg-accent-soft"
			onClick={(e) => {
				e.preventDefault();
				document.getElementById(`section-${id}`)?.scrollIntoView();
			}}
		>
			<span className="flex">
				{name}
				{of !== undefined && <span className="ml-auto caption">{filled === of ? filled : `${filled} of ${of}`}</span>}
			</span>
			<span className="block h-0.5 mt-0.75 bg-line">
				<span className="block h-full bg-primary" style={{ width: `${share * 100}%` }} />
			</span>
		</a>
	);
}

function Notes({ material, draft }: { material: Material; draft: Draft | null }) {
	const [typed, setTyped, forget] = useKeptText(draft?.keptAs("notes") ?? null, material.notes);
	const [known, setKnown] = useState(material.notes);
	if (known !== material.notes) {
		setKnown(material.notes);
		setTyped(material.notes);
	}
	const commit = (): void => {
		if (draft !== null && typed !== material.notes)
			draft.commit([{ at: "field:notes", from: material.notes, to: typed }], "notes");
		forget();
	};
	// what stood in the field when the page was reloaded
	// biome-ignore lint/correctness/useExhaustiveDependencies: once, when the field appears
	useEffect(commit, []);
	return (
		<section id="section-notes" aria-label="Notes" className="mt-6 scroll-mt-3">
			<h2 className="rule-head text-md">Notes</h2>
			{draft === null ? (
				<p className="py-2 whitespace-pre-wrap">{material.notes || <span className="text-ink3">none</span>}</p>
			) : (
				<textarea
					aria-label="Notes"
					className="area mt-2"
					rows={3}
					maxLength={20000}
					value={typed}
					placeholder="anything the next person should know"
					onChange={(e) => setTyped(e.target.value)}
					onBlur={commit}
				/>
			)}
		</section>
	);
}
