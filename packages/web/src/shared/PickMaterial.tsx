import type { MaterialRow } from "@alvek/contract";
import { useState } from "react";
import { useRoute } from "../api/queries";
import { Field } from "../ui/Form";
import { Swatch } from "../ui/marks";

/** One material, found by a few letters: published ones, but for those that are left out. */
export function PickMaterial({
	label,
	legend,
	chosen,
	choose,
	project,
	without = () => false,
	hint,
}: {
	label: string;
	/** What the chosen one is, for who hears the list. */
	legend: string;
	chosen: string | null;
	choose: (row: MaterialRow) => void;
	/** With a project's own ones. */
	project?: string;
	without?: (row: MaterialRow) => boolean;
	hint?: string;
}) {
	const [text, setText] = useState("");
	const [purpose, setPurpose] = useState("");
	const found = useRoute("findMaterials", {
		...(text.trim() === "" ? {} : { text: text.trim() }),
		...(purpose === "" ? {} : { offered: purpose }),
		...(project === undefined ? {} : { project }),
		limit: "12",
		sort: "name",
		values: "density",
	});
	// counted with every other choice, so the chosen purpose hides none of the others
	const purposes = found.data?.facets.offered.map((f) => f.key) ?? [];
	const rows = found.data?.rows.filter((r) => r.revision > 0 && !without(r)) ?? [];
	return (
		<>
			<Field label={label} value={text} change={setText} hint={hint ?? "A few letters of its name, group or code."} />
			{(purpose !== "" || purposes.length > 0) && (
				<label className="flex items-center gap-1 caption">
					offered for
					<select className="bg-transparent font-semibold text-ink" value={purpose} onChange={(e) => setPurpose(e.target.value)}>
						<option value="" className="bg-card">
							anything
						</option>
						{purposes.map((p) => (
							<option key={p} value={p} className="bg-card">
								{p}
							</option>
						))}
					</select>
				</label>
			)}
			<fieldset className="max-h-55 overflow-y-auto">
				<legend className="sr-only">{legend}</legend>
				{rows.map((r) => (
					<label key={r.id} className="flex items-center gap-2 h-7">
						<input type="radio" name="picked" checked={chosen === r.id} onChange={() => choose(r)} />
						<Swatch colour={r.document.colour} />
						<span className="truncate">{r.name}</span>
						<span className="caption ml-auto whitespace-nowrap">{r.library}</span>
					</label>
				))}
				{found.data !== undefined && rows.length === 0 && <p className="text-ink2">No published material matches “{text}”.</p>}
			</fieldset>
		</>
	);
}
