import type { LibraryView, MaterialPage } from "@alvek/contract";
import { COMB_USES, ownUseId } from "@alvek/core/material";
import { type FacetId, facetRow, MARKS, OPEN } from "@alvek/core/table";
import { ListFilter, Trash2 } from "lucide-react";
import { lazy, type ReactNode, Suspense, useEffect, useState } from "react";
import { useMe } from "../../api/queries";
import { Keepers } from "../../shared/Keepers";
import { isKeptBy, KEEPERS, type Keeper } from "../../shared/keepers";
import { ValueFilters } from "./ValueFilters";
import type { ChangeView, GridView } from "./view";
import { countOf, type OwnRows, ownUsesOf, wordName } from "./words";

const Bin = lazy(async () => ({ default: (await import("./Bin")).Bin }));

type Props = {
	view: GridView;
	change: ChangeView;
	page: MaterialPage | undefined;
	libraries: readonly LibraryView[];
	own: OwnRows;
};

/** Foldable filters; counts go with everything else that is chosen. */
export function Filters(props: Props & { children?: ReactNode }) {
	const { view, change, page, libraries } = props;
	const [binOpen, setBinOpen] = useState(false);
	/** Words that the product fixes, or those that the rows say. */
	const keys = (id: FacetId): readonly string[] => page?.facets[id].map((f) => f.key) ?? [];
	const wordsOf = (id: FacetId): readonly string[] => facetRow(id).words?.map((w) => w.id) ?? keys(id);
	const facet = (id: FacetId, shown?: (word: string) => boolean, words = wordsOf(id)) => (
		<Facet
			title={facetRow(id).title}
			words={[...new Set([...words, ...view.facets[id]])]}
			chosen={view.facets[id]}
			shown={shown}
			nameOf={(word) => wordName(id, word, libraries)}
			countOf={(word) => countOf(page, id, word)}
			onChange={(chosen) => change({ facets: { ...view.facets, [id]: chosen } })}
		/>
	);
	const isTop = (id: FacetId, most: number) => (word: string) => keys(id).indexOf(word) < most;
	return (
		<aside aria-label="Filters" className="w-54 shrink-0 overflow-y-auto px-4 pb-4 pt-3 bg-paper max-md:w-full">
			{props.children}
			<TextFilter text={view.text} onChange={(text) => change({ text })} />
			<LibraryFacet {...props}>
				{facet(
					"library",
					undefined,
					listed(libraries).map((l) => l.id),
				)}
			</LibraryFacet>
			{facet("ready", (use) => COMB_USES.has(use) || use.startsWith("own:"), [
				...wordsOf("ready"),
				...ownUsesOf(listed(libraries)).map((u) => ownUseId(u.uid)),
			])}
			<ValueFilters where={view.where} own={props.own} onChange={(where) => change({ where })} />
			{facet("carries", (kind) => countOf(page, "carries", kind) > 0)}
			<FilterGroup title="Mine and open">
				<Tick
					label="starred"
					count={page?.starred ?? 0}
					checked={view.starred}
					onChange={() => change({ starred: !view.starred })}
				/>
				<Tick
					label="review date passed"
					count={page?.reviewPassed ?? 0}
					checked={view.reviewPassed}
					onChange={() => change({ reviewPassed: !view.reviewPassed })}
				/>
				{MARKS.map(({ id, name }) => (
					<Tick
						key={id}
						label={name}
						count={countOf(page, "marks", id)}
						checked={view.facets.marks.includes(id)}
						onChange={() => change({ facets: { ...view.facets, marks: toggled(view.facets.marks, id) } })}
					/>
				))}
				{OPEN.map(({ id, name }) => (
					<Tick
						key={id}
						label={name}
						count={countOf(page, "open", id)}
						checked={view.facets.open.includes(id)}
						onChange={() => change({ facets: { ...view.facets, open: toggled(view.facets.open, id) } })}
					/>
				))}
			</FilterGroup>
			{facet("evidence")}
			{facet("group", isTop("group", 12))}
			{facet("family", (family) => !family.includes("."))}
			{facet("supplier", isTop("supplier", 6))}
			{facet("basis", (basis) => countOf(page, "basis", basis) > 0)}
			{facet("offered", isTop("offered", 8))}
			<button
				type="button"
				className="btn btn-ghost btn-small -ml-2 mt-3.5"
				aria-expanded={binOpen}
				onClick={() => setBinOpen(!binOpen)}
			>
				<Trash2 size={14} aria-hidden /> Bin
			</button>
			{binOpen && (
				<Suspense fallback={null}>
					<Bin />
				</Suspense>
			)}
		</aside>
	);
}

const listed = (libraries: readonly LibraryView[]): readonly LibraryView[] => libraries.filter((l) => !l.archived && !l.hidden);

/** The libraries one by one, and those of one keeper in one click. */
function LibraryFacet({ view, change, libraries, children }: Props & { children: ReactNode }) {
	const me = useMe()?.id ?? null;
	const chosen = view.facets.library;
	const idsOf = (keeper: Keeper): readonly string[] =>
		listed(libraries)
			.filter((l) => isKeptBy(l, keeper, me))
			.map((l) => l.id);
	const isChosen = (keeper: Keeper): boolean =>
		chosen.length > 0 && idsOf(keeper).length === chosen.length && idsOf(keeper).every((id) => chosen.includes(id));
	return (
		<>
			{children}
			<Keepers
				className="-mt-2 mb-3.5"
				libraries={listed(libraries)}
				pressed={KEEPERS.find((k) => isChosen(k.id))?.id ?? null}
				choose={(keeper) => change({ facets: { ...view.facets, library: keeper === null ? [] : idsOf(keeper) } })}
			/>
		</>
	);
}

export function toggled(words: readonly string[], word: string): readonly string[] {
	return words.includes(word) ? words.filter((w) => w !== word) : [...words, word];
}

/** Words with ticks; the less usual ones on demand. Nothing where there is nothing to choose. */
function Facet(props: {
	title: string;
	words: readonly string[];
	chosen: readonly string[];
	shown: ((word: string) => boolean) | undefined;
	nameOf: (word: string) => string;
	countOf: (word: string) => number;
	onChange: (chosen: readonly string[]) => void;
}) {
	const [all, setAll] = useState(false);
	const { words, chosen, shown } = props;
	if (words.length === 0) return null;
	const visible = all || shown === undefined ? words : words.filter((w) => shown(w) || chosen.includes(w));
	return (
		<FilterGroup title={props.title}>
			{visible.map((word) => (
				<Tick
					key={word}
					label={props.nameOf(word)}
					count={props.countOf(word)}
					checked={chosen.includes(word)}
					onChange={() => props.onChange(toggled(chosen, word))}
				/>
			))}
			{visible.length < words.length && (
				<button type="button" className="quiet-link caption text-ink2!" onClick={() => setAll(true)}>
					{words.length - visible.length} more
				</button>
			)}
		</FilterGroup>
	);
}

/** The text waits for a pause of typing before the address and the list follow. */
function TextFilter({ text, onChange }: { text: string; onChange: (text: string) => void }) {
	const [typed, setTyped] = useState(text);
	const [known, setKnown] = useState(text);
	if (text !== known) {
		setKnown(text);
		setTyped(text);
	}
	useEffect(() => {
		if (typed === text) return;
		const timer = setTimeout(() => onChange(typed), 120);
		return () => clearTimeout(timer);
	}, [typed, text, onChange]);
	return (
		<div className="relative mb-3.5">
			<ListFilter size={15} aria-hidden className="absolute left-2.5 top-2 text-ink3" />
			<input
				type="search"
				className="field pl-8!"
				placeholder="any text in a material"
				aria-label="Any text in a material: name, designation, group, supplier, codes, description"
				value={typed}
				onChange={(e) => setTyped(e.target.value)}
				onKeyDown={(e) => e.key === "Escape" && setTyped("")}
			/>
		</div>
	);
}

export function FilterGroup({ title, children }: { title: string; children: React.ReactNode }) {
	return (
		<fieldset className="mb-3.5">
			<legend className="font-bold text-sm mb-1">{title}</legend>
			{children}
		</fieldset>
	);
}

function Tick({ label, count, checked, onChange }: { label: string; count?: number; checked: boolean; onChange: () => void }) {
	return (
		<label className="flex items-center gap-2 py-0.75 cursor-pointer">
			<input type="checkbox" className="checkbox checkbox-primary" checked={checked} onChange={onChange} />
			<span className="truncate" title={label}>
				{label}
			</span>
			{count !== undefined && <span className="ml-auto caption">{count}</span>}
		</label>
	);
}
