import type { LibraryView, MaterialRow } from "@alvek/contract";
import { firstValue } from "@alvek/core/material";
import { familyName, property } from "@alvek/core/property";
import { ArrowDownToLine, ArrowLeft, Copy, Layers2, Trash2 } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { Link, useNavigate } from "react-router";
import { newId } from "../../api/client";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { actOnMany } from "../../shared/actOnMany";
import { useTargetLibrary } from "../../shared/targetLibrary";
import { useUnitSet } from "../../stores/preferences";
import { useTray } from "../../stores/tray";
import { ReadinessList, Swatch } from "../../ui/marks";
import { allUnits, EvidenceLetter, SymbolText, UnitText, unitFor, valueText } from "../../ui/Quantity";
import { trayItem } from "./trayItem";
import type { ChangeView } from "./view";
import { switchWorking } from "./working";

// only who copies needs what copying asks
const CopyTo = lazy(async () => ({ default: (await import("../../shared/CopyTo")).CopyTo }));

/** Values that the brief shows, so rows carry them. */
export const KEY_VALUES = [
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
	listed,
	wanted,
	libraries,
	change,
	close,
}: {
	/** The row as the grid has it, with some of its values. */
	listed: MaterialRow | null;
	/** A material that the grid does not hold yet. */
	wanted: string | null;
	libraries: readonly LibraryView[];
	change: ChangeView;
	close: () => void;
}) {
	const unitSet = useUnitSet();
	const navigate = useNavigate();
	const [copying, setCopying] = useState<string | null>(null);
	const id = wanted ?? listed?.id;
	// a row of the grid carries all that stands here
	const whole = useRoute("getMaterials", { ids: id ?? "" }, { enabled: id !== undefined && id !== listed?.id });
	const row = id === listed?.id ? listed : (whole.data?.find((r) => r.id === id) ?? listed);
	const copyTarget = useTargetLibrary(libraries.filter((l) => l.id !== row?.libraryId));
	if (row === null) {
		return (
			<aside aria-label="Brief" className="w-74 shrink-0 bg-paper p-4 caption max-md:w-full">
				<BackToList close={close} />
				Choose a row to see it here.
			</aside>
		);
	}
	const { document } = row;
	const shown = KEY_VALUES.flatMap((id) => firstValue(document, id) ?? []);
	const mayEdit = libraries.find((l) => l.id === row.libraryId)?.mayEdit === true;
	const revision = row.revision === 0 ? "never published" : `rev ${row.revision}`;
	return (
		<aside aria-label="Brief" className="w-74 shrink-0 bg-paper overflow-y-auto px-4 py-3.5 max-md:w-full">
			<BackToList close={close} />
			<div className="flex gap-2.5 mb-3.5">
				<Swatch colour={document.colour} tall />
				<div className="min-w-0">
					<h2 className="text-xl leading-5.5 font-bold break-words">{row.name}</h2>
					<p className="text-ink2">
						{[document.family === null ? "family unspecified" : familyName(document.family), revision, row.library].join(", ")}
						{row.draftId !== null && <span className="text-note"> · your draft</span>}
					</p>
				</div>
			</div>
			<h3 className="font-bold mb-0.75">Ready for</h3>
			<ReadinessList readiness={row.readiness} />
			<h3 className="font-bold mt-4 mb-0.75">Values</h3>
			{shown.length === 0 && <p className="caption">None yet.</p>}
			<dl>
				{shown.map((value) => (
					<div key={value.id} className="flex py-0.5" title={allUnits(value)}>
						<dt className="text-ink2">
							{property(value.property).name.replace("capacity", "")} <SymbolText symbol={property(value.property).symbol} />
						</dt>
						<dd className="ml-auto whitespace-nowrap">
							<span className={value.carried ? "carried" : ""}>{valueText(value, unitSet)}</span>{" "}
							<UnitText unit={unitFor(value, unitSet)} className="text-ink3 text-xs" />
							<EvidenceLetter value={value} />
						</dd>
					</div>
				))}
			</dl>
			{document.description !== "" && <p className="caption mt-3 line-clamp-4">{document.description}</p>}
			<div className="flex flex-wrap gap-1.5 mt-4.5">
				<Link to={`/materials/${row.id}`} className="btn">
					Open sheet
				</Link>
				<button type="button" className="btn" onClick={() => useTray.getState().add(trayItem(row))}>
					<ArrowDownToLine size={14} aria-hidden /> To tray
				</button>
				<button type="button" className="btn btn-ghost" onClick={() => change({ create: row.id })}>
					Make a similar one
				</button>
				{row.revision > 0 && copyTarget && (
					<button type="button" className="btn btn-ghost" onClick={() => setCopying(row.id)}>
						<Copy size={14} aria-hidden /> {row.supplied ? `Copy to ${copyTarget.name}…` : "Copy or move…"}
					</button>
				)}
				{row.supplied && copyTarget && (
					<button type="button" className="btn btn-ghost" onClick={() => layOver(row, copyTarget, navigate)}>
						<Layers2 size={14} aria-hidden /> Own values over it
					</button>
				)}
				{(mayEdit || row.supplied) && row.revision > 0 && (
					<label className="flex items-center gap-2 h-7.5 px-2.5 w-full">
						<input type="checkbox" className="checkbox" checked={row.working} onChange={() => switchWorking(row)} />
						on the working list
					</label>
				)}
				{mayEdit && (
					<button type="button" className="btn btn-ghost" onClick={() => remove(row)}>
						<Trash2 size={14} aria-hidden /> Delete
					</button>
				)}
			</div>
			{copying === row.id && (
				<Suspense>
					<CopyTo
						what={{ ids: [row.id], name: row.name, several: false, from: row.libraryId, mayMove: mayEdit }}
						close={() => setCopying(null)}
					/>
				</Suspense>
			)}
		</aside>
	);
}

/** An own material over a supplied one: every value follows it until one's own takes its place. */
async function layOver(row: MaterialRow, library: LibraryView, go: (path: string) => void): Promise<void> {
	const id = newId();
	const input = { id, libraryId: library.id, name: row.name, group: row.group, from: row.id, as: "layer" } as const;
	if ((await runMutation("createMaterial", input, `${row.name}: own values over it, a draft in ${library.name}`)) !== null)
		go(`/materials/${id}`);
}

/** To the bin with the way back; asked first only where parts stand on it. */
export function remove(row: MaterialRow): Promise<boolean> {
	return actOnMany({ ids: [row.id], act: "remove" }, row.name);
}

/** The brief has the whole of a phone, so the way back stands in it. */
function BackToList({ close }: { close: () => void }) {
	return (
		<button type="button" className="btn btn-ghost -ml-2.5 mb-2 md:hidden" onClick={close}>
			<ArrowLeft size={14} aria-hidden /> Materials
		</button>
	);
}
