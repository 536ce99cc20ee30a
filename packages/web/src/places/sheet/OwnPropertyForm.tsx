import { USES } from "@alvek/core/material";
import { siUnitOf } from "@alvek/core/quantity";
import { Plus } from "lucide-react";
import { useState } from "react";
import { call, newId } from "../../api/client";
import { queryClient, sentences } from "../../api/queries";
import { showToast } from "../../stores/toasts";
import { useSheet } from "./context";

/** A property that the library adds to the catalogue: it then stands on every sheet of the library, in columns and checks. */
export function OwnPropertyForm() {
	const { sheet } = useSheet();
	const [open, setOpen] = useState(false);
	const [error, setError] = useState<string | null>(null);
	if (!open) {
		return (
			<button type="button" className="btn btn-ghost btn-small -ml-[8px] mt-[4px]" onClick={() => setOpen(true)}>
				<Plus size={13} aria-hidden /> a property of our own
			</button>
		);
	}
	const save = async (form: HTMLFormElement): Promise<void> => {
		const data = new FormData(form);
		const text = (key: string): string => String(data.get(key) ?? "").trim();
		const bound = (key: string): number | null => (text(key) === "" ? null : Number(text(key).replace(",", ".")));
		const unit = text("unit") === "" ? "1" : text("unit");
		const siUnit = siUnitOf(unit);
		if (siUnit === null) return setError(`“${unit}” is not a unit known here; use one such as mm^3/m.`);
		const content = {
			uid: newId(),
			name: text("name"),
			symbol: text("symbol"),
			siUnit,
			unit,
			low: bound("low"),
			high: bound("high"),
			likelyLow: bound("likelyLow"),
			likelyHigh: bound("likelyHigh"),
			neededFor: data.getAll("neededFor").map(String),
			explanation: text("explanation"),
		};
		const saved = await call("saveOwnProperty", { id: sheet.row.libraryId, version: 0, content });
		if (!saved.ok) return setError(sentences(saved.issues));
		await queryClient.invalidateQueries();
		setOpen(false);
		showToast({ tone: "plain", text: `${content.name} is a property of ${sheet.row.library} now.` });
	};
	const field = (name: string, label: string, hint: string, wide = false) => (
		<label className={`block ${wide ? "col-span-2" : ""}`}>
			<span className="caption">{label}</span>
			<input
				name={name}
				className="field"
				placeholder={hint}
				maxLength={name === "explanation" ? 400 : 80}
				required={name === "name"}
			/>
		</label>
	);
	return (
		<form
			aria-label="A property of our own"
			className="grid grid-cols-4 gap-[8px] bg-paper border border-line2 rounded-[3px] p-[10px] mt-[8px]"
			onSubmit={(e) => {
				e.preventDefault();
				void save(e.currentTarget);
			}}
		>
			{field("name", "Name of the property", "Abrasion index", true)}
			{field("symbol", "Symbol", "I_a")}
			{field("unit", "Unit shown", "mm^3/m, or blank for a number")}
			{field("low", "Lowest possible, SI", "0")}
			{field("high", "Highest possible, SI", "")}
			{field("likelyLow", "Likely from, SI", "a check below")}
			{field("likelyHigh", "Likely to, SI", "a check above")}
			{field("explanation", "What it means", "one sentence", true)}
			<fieldset className="col-span-4 flex flex-wrap gap-x-[14px]">
				<legend className="caption">Not ready without it</legend>
				{USES.map((u) => (
					<label key={u.id} className="flex items-center gap-[5px]">
						<input type="checkbox" name="neededFor" value={u.id} className="checkbox" /> {u.name}
					</label>
				))}
			</fieldset>
			<div className="col-span-2 flex items-end gap-[6px]">
				<button type="submit" className="btn">
					Add to {sheet.row.library}
				</button>
				<button type="button" className="btn btn-ghost" onClick={() => setOpen(false)}>
					Leave it
				</button>
			</div>
			{error && (
				<p role="alert" className="text-wrong col-span-4">
					{error}
				</p>
			)}
		</form>
	);
}
