import type { LibraryView, MaterialRow } from "@alvek/contract";
import { firstValue } from "@alvek/core/material";
import { familyName, property } from "@alvek/core/property";
import { ArrowDownToLine, Copy, Trash2 } from "lucide-react";
import { Link } from "react-router";
import { call, newId } from "../../api/client";
import { refreshAll, showIssues, undoEvent } from "../../api/queries";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { useTray } from "../../stores/tray";
import { ReadinessList, Swatch } from "../../ui/marks";
import { allUnits, EvidenceLetter, SymbolText, UnitText, unitFor, valueText } from "../../ui/Quantity";
import { trayItem } from "./Grid";
import type { useGridView } from "./view";

const KEY_VALUES = [
	"density",
	"youngs_modulus",
	"poissons_ratio",
	"yield_strength",
	"tensile_strength",
	"thermal_expansion",
	"thermal_conductivity",
	"specific_heat",
	"hardness",
];

/** The short panel about the row in focus. */
export function Brief({
	row,
	libraries,
	change,
}: {
	row: MaterialRow | null;
	libraries: readonly LibraryView[];
	change: ReturnType<typeof useGridView>[1];
}) {
	const unitSet = useUnitSet();
	if (row === null) {
		return (
			<aside aria-label="Brief" className="w-[296px] shrink-0 bg-paper p-[16px] caption">
				Choose a row to see it here.
			</aside>
		);
	}
	const { document } = row;
	const shown = KEY_VALUES.flatMap((id) => firstValue(document, id) ?? []);
	const goal = libraries.find((l) => l.mayEdit && l.id !== row.libraryId);
	const mayEdit = libraries.find((l) => l.id === row.libraryId)?.mayEdit === true;
	const revision = row.revision === 0 ? "never published" : `rev ${row.revision}`;
	return (
		<aside aria-label="Brief" className="w-[296px] shrink-0 bg-paper overflow-y-auto px-[16px] py-[14px]">
			<div className="flex gap-[10px] mb-[14px]">
				<Swatch colour={document.colour} tall />
				<div className="min-w-0">
					<h2 className="text-[17px] leading-[22px] font-bold break-words">{row.name}</h2>
					<p className="text-ink2">
						{[document.family === null ? "family not said" : familyName(document.family), revision, row.library].join(", ")}
						{row.draftId !== null && <span className="text-note"> · your draft</span>}
					</p>
				</div>
			</div>
			<h3 className="font-bold mb-[3px]">Ready for</h3>
			<ReadinessList readiness={row.readiness} />
			<h3 className="font-bold mt-[16px] mb-[3px]">Values</h3>
			{shown.length === 0 && <p className="caption">None yet.</p>}
			<dl>
				{shown.map((value) => (
					<div key={value.id} className="flex py-[2px]" title={allUnits(value)}>
						<dt className="text-ink2">
							{property(value.property).name.replace("capacity", "")} <SymbolText symbol={property(value.property).symbol} />
						</dt>
						<dd className="ml-auto whitespace-nowrap">
							<span className={value.carried ? "carried" : ""}>{valueText(value, unitSet)}</span>{" "}
							<UnitText unit={unitFor(value, unitSet)} className="text-ink3 text-[11px]" />
							<EvidenceLetter value={value} />
						</dd>
					</div>
				))}
			</dl>
			{document.description !== "" && <p className="caption mt-[12px] line-clamp-4">{document.description}</p>}
			<div className="flex flex-wrap gap-[6px] mt-[18px]">
				<Link to={`/materials/${row.id}`} className="btn">
					Open sheet
				</Link>
				<button type="button" className="btn" onClick={() => useTray.getState().add(trayItem(row))}>
					<ArrowDownToLine size={14} aria-hidden /> To tray
				</button>
				<button type="button" className="btn btn-ghost" onClick={() => change({ create: row.id })}>
					Make a similar one
				</button>
				{row.supplied && goal && (
					<button type="button" className="btn btn-ghost" onClick={() => copyTo(row, goal)}>
						<Copy size={14} aria-hidden /> Copy to {goal.name}
					</button>
				)}
				{mayEdit && (
					<button type="button" className="btn btn-ghost" onClick={() => remove(row)}>
						<Trash2 size={14} aria-hidden /> Delete
					</button>
				)}
			</div>
		</aside>
	);
}

async function copyTo(row: MaterialRow, library: LibraryView): Promise<void> {
	const result = await call("copyMaterial", { id: row.id, newId: newId(), libraryId: library.id });
	if (!result.ok) return showIssues(result.issues);
	await refreshAll();
	const what = `${row.name} copied to ${library.name}`;
	showToast({ tone: "plain", text: what, action: { label: "Undo", run: () => undoEvent(result.value.event, what) } });
}

/** To the bin, at once and with the way back: nobody is asked twice. */
export async function remove(row: MaterialRow): Promise<boolean> {
	const result = await call("removeMaterial", { id: row.id });
	if (!result.ok) {
		showIssues(result.issues);
		return false;
	}
	useTray.getState().remove(row.id);
	await refreshAll();
	const what = `${row.name} deleted`;
	showToast({
		tone: "plain",
		text: `${what}. Parts keep what they stand on.`,
		action: { label: "Undo", run: () => undoEvent(result.value.event, what) },
	});
	return true;
}
