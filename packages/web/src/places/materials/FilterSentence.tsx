import type { LibraryView } from "@alvek/contract";
import { FACETS } from "@alvek/core/table";
import { X } from "lucide-react";
import { Fragment, type ReactNode } from "react";
import { useUnitSet } from "../../stores/preferences";
import { SymbolText } from "../../ui/Quantity";
import { spanInWords } from "./spanWords";
import { Views } from "./Views";
import { type ChangeView, type GridView, isFiltered, UNFILTERED } from "./view";
import { type OwnRows, wordName } from "./words";

type Clause = { readonly key: string; readonly before: string; readonly between: string; readonly chips: readonly Chip[] };
type Chip = { readonly key: string; readonly text: ReactNode; readonly label: string; readonly remove: () => void };

/** What is chosen, as a sentence whose words can be taken out one by one. */
export function FilterSentence(props: {
	view: GridView;
	change: ChangeView;
	libraries: readonly LibraryView[];
	own: OwnRows;
	total: number;
	/** Nothing says the text; near names stand in for it. */
	near: boolean;
	/** Retired ones that would pass, and are left out. */
	retired: number;
}) {
	const { view, change, total, near, retired } = props;
	const clauses = useClauses(props);
	const shown = view.facets.marks.includes("retired") ? 0 : retired;
	if (!isFiltered(view) && shown === 0) return null;
	const retiredToo = shown > 0 && (
		<button
			type="button"
			className="quiet-link caption text-ink2! ml-1"
			onClick={() => change({ facets: { ...view.facets, marks: [...view.facets.marks, "retired"] } })}
		>
			{shown} retired, not shown
		</button>
	);
	if (!isFiltered(view)) return <div className="shrink-0 px-3.5 pb-1.5">{retiredToo}</div>;
	return (
		<div
			role="group"
			aria-label="Filters in words"
			className="shrink-0 px-3.5 pb-2 flex flex-wrap items-center gap-x-1.5 gap-y-1"
		>
			<span className="text-ink2">{total === 1 ? "1 material" : `${total} materials`}</span>
			{clauses.map((clause, c) => (
				<Fragment key={clause.key}>
					{c > 0 && <span className="text-ink2 -ml-1.5">,</span>}
					<span className="text-ink2">{clause.before}</span>
					{clause.chips.map((chip, i) => (
						<Fragment key={chip.key}>
							{i > 0 && <span className="text-ink2">{clause.between}</span>}
							<span className="inline-flex items-center bg-accent-soft rounded-md pl-1.5 h-5.5 font-semibold">
								{chip.text}
								<button
									type="button"
									className="px-1 text-ink3 hover:text-ink h-full"
									aria-label={chip.label}
									onClick={chip.remove}
								>
									<X size={12} aria-hidden />
								</button>
							</span>
						</Fragment>
					))}
				</Fragment>
			))}
			{near && <span className="text-doubt">nothing says exactly that; near names are shown</span>}
			<button type="button" className="btn btn-ghost btn-small h-5.5! min-h-0! ml-1" onClick={() => change(UNFILTERED)}>
				Clear
			</button>
			{view.starred && (
				<button
					type="button"
					className="btn btn-ghost btn-small h-5.5! min-h-0!"
					aria-pressed={view.sort === "star"}
					title="Drag a row to its place, or move it with Alt+↑ and Alt+↓"
					onClick={() => change({ sort: view.sort === "star" ? "group" : "star" })}
				>
					In my order
				</button>
			)}
			<Views view={view} saveOnly />
			{retiredToo}
		</div>
	);
}

function useClauses({ view, change, libraries, own }: Parameters<typeof FilterSentence>[0]): readonly Clause[] {
	const unitSet = useUnitSet();
	const words = FACETS.flatMap(({ id, before, all }): Clause[] => {
		const chips = view.facets[id].map((word): Chip => {
			const name = wordName(id, word, libraries);
			return {
				key: word,
				text: name,
				label: `Remove “${before} ${name}”`,
				remove: () => change({ facets: { ...view.facets, [id]: view.facets[id].filter((w) => w !== word) } }),
			};
		});
		return chips.length === 0 ? [] : [{ key: id, before, between: all ? "and" : "or", chips }];
	});
	const spans = view.where.flatMap((span): Clause[] => {
		const said = spanInWords(span, own, unitSet);
		if (said === null) return [];
		const chip: Chip = {
			key: span.property,
			text: (
				<span className="font-normal">
					{said.symbol === "" ? said.name : <SymbolText symbol={said.symbol} />} <b>{said.text}</b>
				</span>
			),
			label: `Remove the filter on ${said.name}`,
			remove: () => change({ where: view.where.filter((w) => w !== span) }),
		};
		return [{ key: `where ${span.property}`, before: "with", between: "", chips: [chip] }];
	});
	const single = (key: string, before: string, text: string, remove: () => void): Clause => ({
		key,
		before,
		between: "",
		chips: [{ key, text, label: `Remove “${`${before} ${text}`.trim()}”`, remove }],
	});
	return [
		...(view.text === "" ? [] : [single("text", "that say", `“${view.text}”`, () => change({ text: "" }))]),
		...words,
		...(view.starred ? [single("starred", "with", "my star", () => change({ starred: false }))] : []),
		...(view.reviewPassed ? [single("review", "with", "a passed review date", () => change({ reviewPassed: false }))] : []),
		...spans,
	];
}
