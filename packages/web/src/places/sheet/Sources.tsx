import { confirmed, type Edit, type MaterialValue, type Source } from "@alvek/core/material";
import { useState } from "react";
import { Link } from "react-router";
import { showIssues } from "../../api/refusals";
import { showToast } from "../../stores/toasts";
import { useSheet } from "./context";
import { keepSource, useKeptSources } from "./keptSources";
import { SOURCE_WORD, SourceForm } from "./SourceField";
import { needsOwnLook } from "./values/bulk";

/** The sources of this sheet, with what rests on each; confirm the carried-over values of one in a go. */
export function Sources() {
	const { material, draft, sheet } = useSheet();
	const [editing, setEditing] = useState<string | null>(null);
	const kept = useKeptSources(sheet.row.libraryId);
	const values = Object.values(material.values);
	const held = Object.entries(material.sources);
	const without = values.filter(
		(v) => v.sourceId === undefined && v.source === undefined && v.kind !== "unknown" && v.kind !== "not-applicable",
	);

	const change = async (id: string, before: Source, content: Source): Promise<void> => {
		const version = kept.find((s) => s.id === id)?.version ?? 0;
		const saved = await keepSource(sheet.row.libraryId, id, version, content);
		if (!saved.ok) return showIssues(saved.issues);
		draft?.commit([{ at: `sources:${id}`, from: before, to: saved.value }], "source changed");
		setEditing(null);
	};
	const confirmAll = (list: readonly MaterialValue[]): void => {
		const edits: Edit[] = list.map((v) => ({ at: v.id, from: v, to: confirmed(v) }));
		draft?.commit(edits, `${edits.length} values confirmed`);
		showToast({ tone: "plain", text: `${edits.length} values confirmed.`, action: { label: "Undo", run: () => draft?.undo() } });
	};

	return (
		<section id="section-sources" aria-label="Sources" className="mt-6 scroll-mt-3">
			<h2 className="rule-head text-md flex items-baseline">
				Sources
				<Link to="values" className="quiet-link caption font-normal ml-auto text-ink2!">
					all values in one list
				</Link>
			</h2>
			{held.map(([id, source]) => {
				const mine = values.filter((v) => v.sourceId === id);
				const open = mine.filter((v) => v.carried !== undefined && !needsOwnLook(v, sheet, material));
				if (editing === id)
					return (
						<div key={id} className="py-2">
							<SourceForm first={source} onDone={(content) => change(id, source, content)} onLeave={() => setEditing(null)} />
						</div>
					);
				return (
					<div key={id} className="flex items-baseline gap-3 py-1.5 border-b border-line2">
						<b className="min-w-0 truncate">{source.title}</b>
						<span className="caption truncate min-w-0">
							{[SOURCE_WORD[source.kind], source.edition, source.date, source.conditions]
								.filter((w) => w !== undefined && w !== "")
								.join(" · ")}
							{source.address !== undefined && /^https?:\/\//.test(source.address) && (
								<>
									{" · "}
									<a className="quiet-link" href={source.address} rel="noreferrer noopener" target="_blank">
										{source.address}
									</a>
								</>
							)}
						</span>
						<span className="ml-auto caption whitespace-nowrap">{mine.length === 1 ? "1 value" : `${mine.length} values`}</span>
						{draft !== null && open.length > 0 && (
							<button type="button" className="quiet-link font-semibold whitespace-nowrap" onClick={() => confirmAll(open)}>
								confirm {open.length} carried over
							</button>
						)}
						{draft !== null && mine.length === 0 && (
							<button
								type="button"
								className="quiet-link caption text-ink2!"
								onClick={() => draft.commit([{ at: `sources:${id}`, from: source, to: null }], "source taken out")}
							>
								take out
							</button>
						)}
						{draft !== null && (
							<button type="button" className="quiet-link caption text-ink2!" onClick={() => setEditing(id)}>
								change
							</button>
						)}
					</div>
				);
			})}
			{held.length === 0 && values.length > 0 && (
				<p className="caption py-2">
					No source record yet. Open a value’s details to name one, or paste a page: it becomes the source of what you take.
				</p>
			)}
			{without.length > 0 && (
				<p className="caption py-1.5">
					<span className="tag tag-doubt">{without.length === 1 ? "1 value" : `${without.length} values`} without a source</span>{" "}
					<Link to="values?show=unsourced" className="quiet-link text-ink2!">
						go through them
					</Link>
				</p>
			)}
		</section>
	);
}
