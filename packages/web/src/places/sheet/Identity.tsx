import type { Sheet } from "@alvek/contract";
import type { Field, Material } from "@alvek/core/material";
import { FAMILIES, familyName } from "@alvek/core/property";
import { type ReactNode, useState } from "react";
import { call } from "../../api/client";
import { refreshAll, showIssues, undoEvent, useRoute } from "../../api/queries";
import { showToast } from "../../stores/toasts";
import type { Draft } from "./useDraft";

type Commit = Draft["commit"];

/** What the material is called and where it stands. Fields of the document are drafts; fields of the row change at once. */
export function Identity({ sheet, material, commit }: { sheet: Sheet; material: Material; commit: Commit | null }) {
	const { row } = sheet;
	const libraries = useRoute("listLibraries", {});
	const groups = libraries.data?.find((l) => l.id === row.libraryId)?.groups ?? [];
	const editable = commit !== null;
	const set = (field: Field, to: Material[Field]): void => commit?.([{ at: `field:${field}`, from: material[field], to }], field);
	return (
		<section id="section-identity" aria-label="Identity" className="mt-[18px] scroll-mt-[12px]">
			<h2 className="rule-head text-[14px]">Identity</h2>
			<div className="grid grid-cols-2 gap-x-[28px] max-md:grid-cols-1">
				<Line label="Family">
					{editable ? (
						<select
							aria-label="Family"
							className="bg-transparent w-full h-[26px] font-semibold -ml-[4px]"
							value={material.family ?? ""}
							onChange={(e) => set("family", e.target.value === "" ? null : e.target.value)}
						>
							<option value="" className="bg-card">
								not said
							</option>
							{FAMILIES.map((f) => (
								<option key={f.id} value={f.id} className="bg-card">
									{f.id.includes(".") ? `\u2003${f.name}` : f.name}
								</option>
							))}
						</select>
					) : (
						<b>{material.family === null ? "not said" : familyName(material.family)}</b>
					)}
				</Line>
				<TextLine label="Condition, temper" value={material.condition} onSave={editable ? (t) => set("condition", t) : null} />
				<TextLine label="Product form" value={material.productForm} onSave={editable ? (t) => set("productForm", t) : null} />
				<TextLine label="Supplier" value={material.supplier} onSave={editable ? (t) => set("supplier", t) : null} />
				<TextLine
					label="Designations"
					hint="separated by ;"
					value={material.designations.map((d) => d.text).join("; ")}
					onSave={editable ? (t) => set("designations", designations(material, t)) : null}
				/>
				<TextLine label="Group" value={row.group} list={groups} onSave={editable ? (t) => changeRow(sheet, "group", t) : null} />
				<TextLine label="Item code" value={row.itemCode} onSave={editable ? (t) => changeRow(sheet, "itemCode", t) : null} />
				<TextLine label="Shop name" value={row.shopName} onSave={editable ? (t) => changeRow(sheet, "shopName", t) : null} />
				<PriceLine material={material} onSave={editable ? (price) => set("price", price) : null} />
				<Line label="Look">
					{editable ? (
						<span className="flex items-center gap-[8px]">
							<input
								type="color"
								aria-label="Base colour"
								className="w-[28px] h-[20px] border border-line rounded-[2px] bg-transparent"
								key={material.colour}
								defaultValue={material.colour}
								onBlur={(e) => e.target.value !== material.colour && set("colour", e.target.value)}
							/>
							<span className="caption">{material.colour}</span>
						</span>
					) : (
						<b>{material.colour}</b>
					)}
				</Line>
			</div>
			<TextLine
				label="Description"
				value={material.description}
				limit={20000}
				onSave={editable ? (t) => set("description", t) : null}
			/>
		</section>
	);
}

async function changeRow(sheet: Sheet, field: "group" | "itemCode" | "shopName", text: string): Promise<void> {
	const result = await call("changeMaterial", { id: sheet.row.id, [field]: text });
	if (!result.ok) showIssues(result.issues);
	await refreshAll();
	if (!result.ok) return;
	const what = `${{ group: "group", itemCode: "item code", shopName: "shop name" }[field]} of ${sheet.row.name}`;
	showToast({
		tone: "plain",
		text: `Changed: ${what}. It counts at once, without a new revision.`,
		action: { label: "Undo", run: () => undoEvent(result.value.event, what) },
	});
}

/** Keeps the system of a designation whose text stays. */
function designations(material: Material, text: string): Material["designations"] {
	const names = [
		...new Set(
			text
				.split(";")
				.map((t) => t.trim())
				.filter((t) => t !== ""),
		),
	];
	return names.map((name) => material.designations.find((d) => d.text === name) ?? { text: name });
}

function Line({ label, children }: { label: string; children: ReactNode }) {
	return (
		<div className="flex items-center min-h-[32px] border-b border-line2">
			<span className="w-[116px] shrink-0 text-ink2">{label}</span>
			<span className="flex-1 min-w-0">{children}</span>
		</div>
	);
}

type TextProps = {
	label: string;
	value: string;
	onSave: ((text: string) => void) | null;
	hint?: string;
	list?: readonly string[];
	limit?: number;
};

function TextLine({ label, value, onSave, hint, list, limit = 400 }: TextProps) {
	const id = `list-${label}`;
	return (
		<Line label={label}>
			{onSave === null ? (
				<b className="break-words">{value || <span className="font-normal text-ink3">blank</span>}</b>
			) : (
				<>
					<input
						key={value}
						aria-label={label}
						className="w-full h-[26px] px-[6px] -ml-[7px] font-semibold bg-transparent border border-transparent hover:border-line rounded-[3px] placeholder:font-normal"
						placeholder={hint ?? "blank"}
						maxLength={limit}
						defaultValue={value}
						list={list === undefined ? undefined : id}
						onBlur={(e) => e.target.value.trim() !== value && onSave(e.target.value.trim())}
						onKeyDown={(e) => {
							if (e.key === "Enter") e.currentTarget.blur();
							if (e.key === "Escape") e.currentTarget.value = value;
						}}
					/>
					{list && (
						<datalist id={id}>
							{list.map((g) => (
								<option key={g} value={g} />
							))}
						</datalist>
					)}
				</>
			)}
		</Line>
	);
}

/** Price per kilogram as `4.35 EUR`, dated. */
function PriceLine({ material, onSave }: { material: Material; onSave: ((price: Material["price"]) => void) | null }) {
	const { price } = material;
	const [error, setError] = useState<string | null>(null);
	const shown = price === null ? "" : `${price.amount} ${price.currency}, ${price.date}`;
	const save = (text: string): void => {
		setError(null);
		if (text === "") return onSave?.(null);
		const match = /^(\d+(?:[.,]\d+)?)\s*([A-Za-z]{3})(?:\s*,?\s*(\d{4}-\d{2}-\d{2}))?$/.exec(text);
		if (match === null) return setError("Type an amount, a currency and the date of the price: 4.35 EUR, 2026-09-01.");
		const [, amount = "", currency = "", date] = match;
		onSave?.({
			amount: amount.replace(",", "."),
			currency: currency.toUpperCase(),
			date: date ?? new Date().toISOString().slice(0, 10),
		});
	};
	return (
		<div>
			<TextLine label="Price per kg" value={shown} hint="4.35 EUR, date of the price" onSave={onSave === null ? null : save} />
			{error && (
				<p role="alert" className="text-wrong">
					{error}
				</p>
			)}
		</div>
	);
}
