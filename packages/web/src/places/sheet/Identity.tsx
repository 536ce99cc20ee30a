import { type Sheet, writeList } from "@alvek/contract";
import type { Carried, Field, Material } from "@alvek/core/material";
import { FAMILIES, familyName } from "@alvek/core/property";
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { call } from "../../api/client";
import { mutate, undoEvent } from "../../api/mutate";
import { refreshAll, useRoute } from "../../api/queries";
import { showIssues } from "../../api/refusals";
import type { Draft } from "../../draft/useDraft";
import { showToast } from "../../stores/toasts";
import { fieldEdits } from "./context";
import { familyOfOthers } from "./familyOfOthers";
import { designationsIn, designationsText, linksIn, linksText } from "./names";

type Commit = Draft["commit"];

/** What the material is called and where it stands. Fields of the document are drafts; fields of the row change at once. */
export function Identity({ sheet, material, commit }: { sheet: Sheet; material: Material; commit: Commit | null }) {
	const editable = commit !== null;
	// on a sheet that says what it is the numbers come first; what waits for a confirmation stays in sight
	const [all, setAll] = useState(
		() => material.family === null || Object.keys(material.values).length < 3 || Object.keys(material.carriedFields).length > 0,
	);
	// `to` is of this very field, which the two parameters cannot say together
	const set = (field: Field, to: Material[Field]): void => commit?.(fieldEdits(material, field, to as never), field);
	const mark = (field: Field): Mark | undefined => {
		const carried = material.carriedFields[field];
		if (carried === undefined) return undefined;
		const confirm = (): void => commit?.([{ at: `carriedFields:${field}`, from: carried, to: null }], `${field} confirmed`);
		return { carried, confirm: editable ? confirm : null };
	};
	return (
		<section id="section-identity" aria-label="Identity" className="mt-4.5 scroll-mt-3">
			<h2 className="rule-head text-md">Identity</h2>
			<div className="grid grid-cols-2 gap-x-7 max-md:grid-cols-1">
				<FamilyLine family={material.family} onSave={editable ? (family) => set("family", family) : null}>
					{editable && material.family === null && sheet.row.group !== "" && (
						<ProposedFamily sheet={sheet} take={(family) => set("family", family)} />
					)}
				</FamilyLine>
				<TextLine label="Condition, temper" value={material.condition} onSave={editable ? (t) => set("condition", t) : null} />
				<TextLine label="Product form" value={material.productForm} onSave={editable ? (t) => set("productForm", t) : null} />
				<TextLine
					label="Supplier"
					value={material.supplier}
					mark={mark("supplier")}
					onSave={editable ? (t) => set("supplier", t) : null}
				/>
				{all && <Rest sheet={sheet} material={material} mark={mark} set={editable ? set : null} />}
			</div>
			{all ? (
				<TextLine
					label="Description"
					value={material.description}
					limit={20000}
					mark={mark("description")}
					onSave={editable ? (t) => set("description", t) : null}
				/>
			) : (
				<button type="button" className="btn btn-ghost btn-small -ml-2 mt-1" onClick={() => setAll(true)}>
					<Plus size={13} aria-hidden /> designations, codes, price and more
				</button>
			)}
		</section>
	);
}

/** What the other materials of its group are, for one click. */
function ProposedFamily({ sheet, take }: { sheet: Sheet; take: (family: string) => void }) {
	const { id, libraryId, group } = sheet.row;
	const isProject = libraryId.startsWith("project:");
	// asked once for a sheet, under a key of its own: what is typed meanwhile changes no other material
	const others = useQuery({
		queryKey: ["families of a group", libraryId, group],
		enabled: !isProject,
		staleTime: Number.POSITIVE_INFINITY,
		queryFn: async ({ signal }) => {
			const wanted = { library: libraryId, group: writeList([group]), limit: "50", sort: "name", values: "density" };
			const found = await call("findMaterials", wanted, signal);
			return found.ok ? found.value.rows : [];
		},
	});
	const family = familyOfOthers(others.data ?? [], id);
	if (family === null) return null;
	return (
		<button type="button" className="quiet-link caption text-ink2! whitespace-nowrap" onClick={() => take(family)}>
			{familyName(family)}, as others in its group
		</button>
	);
}

function FamilyLine(props: { family: string | null; onSave: ((family: string | null) => void) | null; children: ReactNode }) {
	const { family, onSave, children } = props;
	return (
		<Line label="Family">
			{onSave !== null ? (
				<select
					aria-label="Family"
					className="bg-transparent w-full h-6.5 font-semibold -ml-1"
					value={family ?? ""}
					onChange={(e) => onSave(e.target.value === "" ? null : e.target.value)}
				>
					<option value="" className="bg-card">
						unspecified
					</option>
					{FAMILIES.map((f) => (
						<option key={f.id} value={f.id} className="bg-card">
							{"\u2003".repeat(f.id.split(".").length - 1) + f.name}
						</option>
					))}
				</select>
			) : (
				<b>{family === null ? "unspecified" : familyName(family)}</b>
			)}
			{children}
		</Line>
	);
}

type RestProps = {
	sheet: Sheet;
	material: Material;
	mark: (field: Field) => Mark | undefined;
	set: ((field: Field, to: Material[Field]) => void) | null;
};

/** What a material is called elsewhere, what it costs, and where it stands. */
function Rest({ sheet, material, mark, set }: RestProps) {
	const { row } = sheet;
	const libraries = useRoute("listLibraries", {});
	const groups = libraries.data?.find((l) => l.id === row.libraryId)?.groups ?? [];
	const rowSaver = (field: RowField) => (set === null ? null : (text: string) => changeRow(sheet, field, text));
	return (
		<>
			<TextLine
				label="Designations"
				hint="GB-5; OS 12: G-5 (system: text)"
				mark={mark("designations")}
				value={designationsText(material.designations)}
				onSave={set !== null ? (t) => set("designations", designationsIn(t)) : null}
			/>
			{!row.libraryId.startsWith("project:") && (
				<TextLine label="Group" value={row.group} list={groups} onSave={rowSaver("group")} />
			)}
			<TextLine label="Item code" value={row.itemCode} onSave={rowSaver("itemCode")} />
			<TextLine label="Shop name" value={row.shopName} onSave={rowSaver("shopName")} />
			<TextLine
				label="Also known as"
				hint="drawing office: BZ-5; 4471 (where: name)"
				value={linksText(row.knownAs)}
				limit={4000}
				onSave={rowSaver("knownAs")}
			/>
			<PriceLine material={material} mark={mark("price")} onSave={set !== null ? (price) => set("price", price) : null} />
			<TextLine
				label="Links"
				hint="https://… separated by blanks"
				value={material.links.join(" ")}
				mark={mark("links")}
				limit={4000}
				onSave={
					set !== null
						? (t) =>
								set(
									"links",
									t.split(/\s+/).filter((l) => l !== ""),
								)
						: null
				}
			/>
			<TextLine
				label="Offered for"
				hint="structure; fastener; winding"
				value={sheet.offeredFor.join("; ")}
				onSave={rowSaver("offeredFor")}
			/>
			<ReviewLine review={sheet.review} onSave={rowSaver("review")} />
		</>
	);
}

function ReviewLine({ review, onSave }: { review: string | null; onSave: ((date: string) => void) | null }) {
	return (
		<Line label="Review date">
			{onSave !== null ? (
				<input
					type="date"
					aria-label="Review date"
					key={review}
					className={`h-6.5 px-1.5 -ml-2 bg-transparent border border-transparent hover:border-line rounded-md ${review === null ? "text-ink3" : `font-semibold ${isPast(review) ? "text-doubt" : ""}`}`}
					defaultValue={review ?? ""}
					onBlur={(e) => e.target.value !== (review ?? "") && onSave(e.target.value)}
				/>
			) : (
				<b>{review ?? <span className="font-normal text-ink3">blank</span>}</b>
			)}
			{isPast(review) && <span className="tag tag-doubt ml-1.5">review is due</span>}
		</Line>
	);
}

type RowField = "group" | "itemCode" | "shopName" | "knownAs" | "review" | "offeredFor";
const ROW_WORD: Readonly<Record<RowField, string>> = {
	group: "group",
	itemCode: "item code",
	shopName: "shop name",
	knownAs: "names elsewhere",
	review: "review date",
	offeredFor: "purposes",
};

async function changeRow(sheet: Sheet, field: RowField, text: string): Promise<void> {
	const list = text
		.split(";")
		.map((p) => p.trim())
		.filter((p) => p !== "");
	const to: Readonly<Partial<Record<RowField, unknown>>> = {
		offeredFor: list,
		knownAs: linksIn(text),
		review: text === "" ? null : text,
	};
	const result = await mutate("changeMaterial", { id: sheet.row.id, [field]: field in to ? to[field] : text });
	if (!result.ok) {
		showIssues(result.issues);
		// what is stored stands here again
		return refreshAll();
	}
	const what = `${ROW_WORD[field]} of ${sheet.row.name}`;
	showToast({
		tone: "plain",
		text: `Changed: ${what}. It counts at once, without a new revision.`,
		action: { label: "Undo", run: () => undoEvent(result.value.event, what) },
	});
}

function isPast(date: string | null): boolean {
	return date !== null && date < new Date().toISOString().slice(0, 10);
}

/** A field that came along from a base and waits for its confirmation. */
type Mark = { readonly carried: Carried; readonly confirm: (() => void) | null };

function Line({ label, mark, children }: { label: string; mark?: Mark | undefined; children: ReactNode }) {
	return (
		<div className="flex items-center min-h-8 border-b border-line2">
			<span className="w-29 shrink-0 text-ink2">{label}</span>
			<span className={`flex-1 min-w-0 flex items-center ${mark === undefined ? "" : "carried"}`}>{children}</span>
			{mark !== undefined && (
				<span className="caption shrink-0 flex items-center gap-1.5" title={`carried over from ${mark.carried.name}`}>
					<span className="tag tag-doubt">carried</span>
					{mark.confirm !== null && (
						<button
							type="button"
							className="quiet-link text-ink font-semibold"
							aria-label={`Confirm ${label.toLowerCase()}`}
							onClick={mark.confirm}
						>
							confirm
						</button>
					)}
				</span>
			)}
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
	mark?: Mark | undefined;
};

function TextLine({ label, value, onSave, hint, list, mark, limit = 400 }: TextProps) {
	const id = `list-${label}`;
	return (
		<Line label={label} mark={mark}>
			{onSave === null ? (
				<b className="break-words">{value || <span className="font-normal text-ink3">blank</span>}</b>
			) : (
				<>
					<input
						key={value}
						aria-label={label}
						className="w-full h-6.5 px-1.5 -ml-2 font-semibold bg-transparent border border-transparent hover:border-line rounded-md placeholder:font-normal"
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
function PriceLine({
	material,
	mark,
	onSave,
}: {
	material: Material;
	mark: Mark | undefined;
	onSave: ((price: Material["price"]) => void) | null;
}) {
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
			<TextLine
				label="Price per kg"
				value={shown}
				hint="4.35 EUR, date of the price"
				mark={mark}
				onSave={onSave === null ? null : save}
			/>
			{error && (
				<p role="alert" className="text-wrong">
					{error}
				</p>
			)}
		</div>
	);
}
