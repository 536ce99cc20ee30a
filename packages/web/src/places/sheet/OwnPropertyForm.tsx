import type { OwnPropertyView } from "@alvek/contract";
import { USES } from "@alvek/core/material";
import type { OwnProperty } from "@alvek/core/property";
import { siUnitOf } from "@alvek/core/quantity";
import { Pencil, Plus } from "lucide-react";
import { useState } from "react";
import { newId } from "../../api/client";
import { mutate } from "../../api/mutate";
import { sentences, useRoute } from "../../api/queries";
import { showToast } from "../../stores/toasts";
import { leaveOnEscape } from "../../ui/Leavable";
import { useSheet } from "./context";

/** Properties that the library adds to the catalogue: they stand on every sheet of the library, in columns and checks. */
export function OwnProperties() {
	const { sheet } = useSheet();
	const { libraryId, library } = sheet.row;
	const ofProject = libraryId.startsWith("project:");
	const known = useRoute("listOwnProperties", { id: libraryId }, { enabled: !ofProject });
	/** The one in the form; `new` is not there yet. */
	const [open, setOpen] = useState<OwnPropertyView | "new" | null>(null);
	// a project has no catalogue of its own
	if (ofProject) return null;
	if (open !== null)
		return (
			<OwnPropertyForm
				key={open === "new" ? "new" : open.content.uid}
				existing={open === "new" ? null : open}
				library={{ id: libraryId, name: library }}
				done={() => setOpen(null)}
			/>
		);
	return (
		<div className="flex flex-wrap items-center gap-1 mt-1 -ml-2">
			<button type="button" className="btn btn-ghost btn-small" onClick={() => setOpen("new")}>
				<Plus size={13} aria-hidden /> a property of our own
			</button>
			{known.data?.map((own) => (
				<button
					key={own.content.uid}
					type="button"
					className="btn btn-ghost btn-small"
					aria-label={`Change the property ${own.content.name}`}
					onClick={() => setOpen(own)}
				>
					<Pencil size={12} aria-hidden /> {own.content.name}
				</button>
			))}
		</div>
	);
}

type FormProps = {
	readonly existing: OwnPropertyView | null;
	readonly library: { readonly id: string; readonly name: string };
	readonly done: () => void;
};

function OwnPropertyForm({ existing, library, done }: FormProps) {
	const [error, setError] = useState<string | null>(null);
	const own: Partial<OwnProperty> = existing?.content ?? {};
	const save = async (form: HTMLFormElement): Promise<void> => {
		const content = propertyIn(new FormData(form), own.uid ?? newId());
		if (typeof content === "string") return setError(content);
		const saved = await mutate("saveOwnProperty", { id: library.id, version: existing?.version ?? 0, content });
		if (!saved.ok) return setError(sentences(saved.issues));
		done();
		const text =
			existing === null
				? `${content.name} is a property of ${library.name} now.`
				: `${content.name} is changed on every sheet of ${library.name}.`;
		showToast({ tone: "plain", text });
	};
	const field = (name: keyof OwnProperty, label: string, hint: string, span = "") => (
		<label className={`block ${span}`}>
			<span className="caption">{label}</span>
			<input
				name={name}
				className="field"
				placeholder={hint}
				defaultValue={own[name] == null ? "" : String(own[name])}
				maxLength={name === "explanation" ? 400 : 80}
				required={name === "name"}
			/>
		</label>
	);
	return (
		<form
			aria-label={existing === null ? "A property of our own" : `The property ${own.name}`}
			className="grid grid-cols-4 gap-2 bg-paper border border-line2 rounded-md p-2.5 mt-2"
			onKeyDown={leaveOnEscape(done)}
			onSubmit={(e) => {
				e.preventDefault();
				void save(e.currentTarget);
			}}
		>
			{field("name", "Name of the property", "Abrasion index", "col-span-2")}
			{field("symbol", "Symbol", "I_a")}
			{field("unit", "Unit shown", "mm^3/m, or blank for a number")}
			{field("low", "Lowest possible, SI", "0")}
			{field("high", "Highest possible, SI", "")}
			{field("likelyLow", "Likely from, SI", "a check below")}
			{field("likelyHigh", "Likely to, SI", "a check above")}
			{field("explanation", "What it means", "one sentence", "col-span-4")}
			<fieldset className="col-span-4 flex flex-wrap gap-x-3.5">
				<legend className="caption">Not ready without it</legend>
				{USES.map((u) => (
					<label key={u.id} className="flex items-center gap-1.5">
						<input
							type="checkbox"
							name="neededFor"
							value={u.id}
							className="checkbox"
							defaultChecked={own.neededFor?.includes(u.id) ?? false}
						/>{" "}
						{u.name}
					</label>
				))}
			</fieldset>
			<div className="col-span-4 flex items-center gap-1.5">
				<button type="submit" className="btn">
					{existing === null ? `Add to ${library.name}` : "Save"}
				</button>
				<button type="button" className="btn btn-ghost" onClick={done}>
					Leave it
				</button>
				{existing !== null && <span className="caption">Revisions keep what the property was when they were published.</span>}
			</div>
			{error && (
				<p role="alert" className="text-wrong col-span-4">
					{error}
				</p>
			)}
		</form>
	);
}

/** What the form says, or what is wrong with it. */
function propertyIn(data: FormData, uid: string): OwnProperty | string {
	const text = (key: string): string => String(data.get(key) ?? "").trim();
	const bound = (key: string): number | null => (text(key) === "" ? null : Number(text(key).replace(",", ".")));
	const unit = text("unit") === "" ? "1" : text("unit");
	const siUnit = siUnitOf(unit);
	if (siUnit === null) return `“${unit}” is not a unit known here; use one such as mm^3/m.`;
	return {
		uid,
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
}
