import type { Facet, LibraryView, MaterialPage } from "@alvek/contract";
import { USES } from "@alvek/core/material";
import { ListFilter, Trash2 } from "lucide-react";
import { useEffect, useState } from "react";
import { Bin } from "./Bin";
import type { GridView, useGridView } from "./view";

type Change = ReturnType<typeof useGridView>[1];

/** Foldable filters; counts go with everything else that is chosen. */
export function Filters(props: {
	view: GridView;
	change: Change;
	page: MaterialPage | undefined;
	libraries: readonly LibraryView[];
}) {
	const { view, change, page } = props;
	const [binOpen, setBinOpen] = useState(false);
	const facet = (list: readonly Facet[] | undefined, key: string): number => list?.find((f) => f.key === key)?.count ?? 0;
	const toggle = (key: "library" | "group" | "ready", id: string): void => {
		const now = view[key];
		change({ [key]: now.includes(id) ? now.filter((x) => x !== id) : [...now, id] });
	};
	const groups = page?.facets.group ?? [];
	return (
		<aside aria-label="Filters" className="w-[216px] shrink-0 overflow-y-auto px-[16px] pb-[16px] pt-[12px] bg-paper">
			<TextFilter text={view.text} onChange={(text) => change({ text })} />
			<FilterGroup title="Library">
				{props.libraries.map((l) => (
					<Choice
						key={l.id}
						label={l.name}
						count={facet(page?.facets.library, l.id)}
						checked={view.library.includes(l.id)}
						onChange={() => toggle("library", l.id)}
					/>
				))}
			</FilterGroup>
			<FilterGroup title="Ready for">
				{USES.map((u) => (
					<Choice
						key={u.id}
						label={u.name}
						count={facet(page?.facets.ready, u.id)}
						checked={view.ready.includes(u.id)}
						onChange={() => toggle("ready", u.id)}
					/>
				))}
			</FilterGroup>
			<FilterGroup title="Group">
				{[...new Set([...groups.map((g) => g.key), ...view.group])].map((key) => (
					<Choice
						key={key}
						label={key}
						count={facet(groups, key)}
						checked={view.group.includes(key)}
						onChange={() => toggle("group", key)}
					/>
				))}
			</FilterGroup>
			<button
				type="button"
				className="btn btn-ghost btn-small -ml-[8px] mt-[14px]"
				aria-expanded={binOpen}
				onClick={() => setBinOpen(!binOpen)}
			>
				<Trash2 size={14} aria-hidden /> Bin
			</button>
			{binOpen && <Bin />}
		</aside>
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
		<div className="relative mb-[14px]">
			<ListFilter size={15} aria-hidden className="absolute left-[9px] top-[7px] text-ink3" />
			<input
				type="search"
				className="field pl-[31px]!"
				placeholder="any text in a material"
				aria-label="Any text in a material: name, designation, group, supplier, codes, description"
				value={typed}
				onChange={(e) => setTyped(e.target.value)}
				onKeyDown={(e) => e.key === "Escape" && setTyped("")}
			/>
		</div>
	);
}

function FilterGroup({ title, children }: { title: string; children: React.ReactNode }) {
	return (
		<fieldset className="mb-[14px]">
			<legend className="font-bold text-[12px] mb-[4px]">{title}</legend>
			{children}
		</fieldset>
	);
}

function Choice({ label, count, checked, onChange }: { label: string; count: number; checked: boolean; onChange: () => void }) {
	return (
		<label className="flex items-center gap-[7px] py-[3px] cursor-pointer">
			<input type="checkbox" className="checkbox checkbox-primary" checked={checked} onChange={onChange} />
			<span className="truncate" title={label}>
				{label}
			</span>
			<span className="ml-auto caption">{count}</span>
		</label>
	);
}
