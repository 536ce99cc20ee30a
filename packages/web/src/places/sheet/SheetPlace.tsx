import type { Sheet } from "@alvek/contract";
import { checkMaterial, type Material, readiness } from "@alvek/core/material";
import { SECTIONS } from "@alvek/core/property";
import { ArrowLeft } from "lucide-react";
import { useCallback, useEffect, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useRoute } from "../../api/queries";
import { usePreferences } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { Failure, Loading } from "../../ui/states";
import { useAltKey } from "../../ui/useAltKey";
import { Header } from "./Header";
import { Identity } from "./Identity";
import { completeness, nextNeeded, sectionLines } from "./lines";
import { Rail } from "./Rail";
import { SectionLines } from "./SectionLines";
import { type Draft, useDraft } from "./useDraft";

/** The full page of one material. */
export function SheetPlace() {
	const { id = "" } = useParams();
	const [params] = useSearchParams();
	const sheet = useRoute("getSheet", { id });
	const no = params.get("rev");
	const revision = useRoute("getRevision", { id, no: no ?? "1" }, { enabled: no !== null });
	if (sheet.isError) return <Failure error={sheet.error} retry={() => sheet.refetch()} />;
	if (sheet.data === undefined || sheet.data.row.id !== id) return <Loading what="The sheet" />;
	if (no !== null) {
		if (revision.isError) return <Failure error={revision.error} />;
		if (revision.data === undefined || String(revision.data.no) !== no) return <Loading what={`Revision ${no}`} />;
		return (
			<SheetPage
				key={`${id}@${no}`}
				sheet={sheet.data}
				material={revision.data.document}
				revision={revision.data.no}
				draft={null}
			/>
		);
	}
	return <DraftPage key={id} sheet={sheet.data} />;
}

function DraftPage({ sheet }: { sheet: Sheet }) {
	const draft = useDraft(sheet);
	const { undo } = draft;
	useEffect(() => {
		const onKey = (e: KeyboardEvent): void => {
			const typing = e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement;
			if (typing || e.key !== "z" || !(e.ctrlKey || e.metaKey)) return;
			e.preventDefault();
			const label = undo();
			showToast({ tone: "plain", text: label === null ? "Nothing more to undo on this sheet." : `Undone: ${label}` });
		};
		window.addEventListener("keydown", onKey);
		return () => window.removeEventListener("keydown", onKey);
	}, [undo]);
	return <SheetPage sheet={sheet} material={draft.material} revision={null} draft={draft} />;
}

type PageProps = { sheet: Sheet; material: Material; revision: number | null; draft: Draft | null };

function SheetPage({ sheet, material, revision, draft }: PageProps) {
	const wanted = usePreferences((s) => s.wantedUse);
	const setPreferences = usePreferences((s) => s.set);
	const checks = useMemo(() => checkMaterial(material), [material]);
	const uses = useMemo(() => readiness(material, checks), [material, checks]);
	const needed = useMemo(() => new Set(uses.find((r) => r.use === wanted)?.missing.flat() ?? []), [uses, wanted]);
	const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
	const [editing, setEditing] = useState<string | null>(null);
	const editable = draft !== null && sheet.mayEdit;
	const alt = useAltKey();

	/** Enter goes on to what the wanted use needs; `after` is the material with the value just typed. */
	const goOn = useCallback(
		(after: Material) => {
			const next = nextNeeded(readiness(after), wanted);
			setEditing(next);
			if (next === null) showToast({ tone: "plain", text: "The wanted use needs nothing more." });
		},
		[wanted],
	);

	return (
		<>
			<nav aria-label="Sections" className="w-[186px] shrink-0 bg-paper px-[14px] pt-[14px] overflow-y-auto max-lg:hidden">
				<Link to="/materials" className="flex items-center gap-[6px] text-ink2 hover:text-ink px-[8px] mb-[8px]">
					<ArrowLeft size={14} aria-hidden /> Materials
				</Link>
				<IndexLine id="identity" name="Identity" />
				{SECTIONS.map((s) => (
					<IndexLine key={s.id} id={s.id} name={s.name} {...completeness(material, s.id)} />
				))}
				<IndexLine id="notes" name="Notes" />
			</nav>
			<article
				aria-label={sheet.row.name}
				className="flex-1 min-w-0 bg-card border-x border-line overflow-y-auto"
				id="sheet-scroll"
			>
				<div className="max-w-[860px] mx-auto px-[22px] pb-[80px]">
					<Header sheet={sheet} material={material} revision={revision} draft={draft} checks={checks.length} />
					<Identity sheet={sheet} material={material} commit={editable ? draft.commit : null} />
					{SECTIONS.map((section) => (
						<SectionLines
							key={section.id}
							section={section}
							material={material}
							lines={sectionLines(material, section.id, unfolded.has(section.id), needed)}
							unfolded={unfolded.has(section.id)}
							onUnfold={() => setUnfolded(new Set(unfolded).add(section.id))}
							draft={editable ? draft : null}
							editing={editing}
							setEditing={setEditing}
							goOn={goOn}
							allUnitsShown={alt}
						/>
					))}
					<Notes material={material} commit={editable ? draft.commit : null} />
				</div>
			</article>
			<Rail
				sheet={sheet}
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

function IndexLine({ id, name, filled, of }: { id: string; name: string; filled?: number; of?: number }) {
	const share = of === undefined || of === 0 ? 0 : (filled ?? 0) / of;
	return (
		<a
			href={`#section-${id}`}
			className="block px-[8px] py-[5px] rounded-[3px] hover:bg-accent-soft"
			onClick={(e) => {
				e.preventDefault();
				document.getElementById(`section-${id}`)?.scrollIntoView();
			}}
		>
			<span className="flex">
				{name}
				{of !== undefined && <span className="ml-auto caption">{filled === of ? filled : `${filled} of ${of}`}</span>}
			</span>
			<span className="block h-[2px] mt-[3px] bg-line">
				<span className="block h-full bg-primary" style={{ width: `${share * 100}%` }} />
			</span>
		</a>
	);
}

function Notes({ material, commit }: { material: Material; commit: Draft["commit"] | null }) {
	const [typed, setTyped] = useState(material.notes);
	const [known, setKnown] = useState(material.notes);
	if (known !== material.notes) {
		setKnown(material.notes);
		setTyped(material.notes);
	}
	return (
		<section id="section-notes" aria-label="Notes" className="mt-[24px] scroll-mt-[12px]">
			<h2 className="rule-head text-[14px]">Notes</h2>
			{commit === null ? (
				<p className="py-[8px] whitespace-pre-wrap">{material.notes || <span className="text-ink3">none</span>}</p>
			) : (
				<textarea
					aria-label="Notes"
					className="area mt-[8px]"
					rows={3}
					maxLength={20000}
					value={typed}
					placeholder="anything the next person should know"
					onChange={(e) => setTyped(e.target.value)}
					onBlur={() => typed !== material.notes && commit([{ at: "field:notes", from: material.notes, to: typed }], "notes")}
				/>
			)}
		</section>
	);
}
