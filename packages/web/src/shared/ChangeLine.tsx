import { type Edit, isValuePlace, type Look, type MaterialValue, valueLabel } from "@alvek/core/material";
import { familyName } from "@alvek/core/property";
import { useUnitSet } from "../stores/preferences";
import { lookWords } from "../ui/look/words";
import { Swatch } from "../ui/marks";
import { SymbolText, wordsOf } from "../ui/Quantity";
import { changeNote, tellApart } from "./apart";

const PLACE_NAMES: Readonly<Record<string, string>> = {
	sources: "source",
	attachments: "attachment",
	carriedFields: "carried over",
	acknowledged: "check looked at",
};
const FIELD_NAMES: Readonly<Record<string, string>> = { productForm: "product form", colour: "colour" };

/** What the place of an edit is called. */
export function placeName(edit: Edit): string {
	if (isValuePlace(edit.at)) return valueLabel((edit.to ?? edit.from) as MaterialValue).name;
	const [place = "", field = ""] = edit.at.split(":");
	return PLACE_NAMES[place] ?? FIELD_NAMES[field] ?? field;
}

/** Nothing stands there: a value that is absent, an empty text or list. */
export function isBlank(content: unknown): boolean {
	return content == null || content === "" || (Array.isArray(content) && content.length === 0);
}

/** One side of an edit: what stands, or stood, at its place. */
export function ContentWords({ edit, side }: { edit: Edit; side: "from" | "to" }) {
	if (isValuePlace(edit.at)) return <ValueWords edit={edit} side={side} />;
	const words = fieldWords(edit[side]);
	if (words === "") return <>blank</>;
	if (edit.at === "field:family") return <>{familyName(words) ?? words}</>;
	if (edit.at !== "field:colour") return <>{words}</>;
	return (
		<span className="inline-flex items-center gap-1.5">
			<Swatch colour={words} /> {words}
		</span>
	);
}

/** One place of a document, before and after. */
export function ChangeLine({ edit }: { edit: Edit }) {
	const value = (edit.to ?? edit.from) as MaterialValue;
	const symbol = isValuePlace(edit.at) ? valueLabel(value).symbol : "";
	return (
		<li className="grid grid-cols-[30px_minmax(90px,3fr)_minmax(0,4fr)_16px_minmax(0,5fr)_80px] gap-x-2.5 items-baseline py-1.5 border-b border-line2">
			<span aria-hidden className="font-semibold italic">
				<SymbolText symbol={symbol} />
			</span>
			<span className="capitalize-first min-w-0 break-words">{placeName(edit)}</span>
			<span className={`text-ink3 text-right min-w-0 break-words ${isBlank(edit.from) ? "" : "line-through decoration-1"}`}>
				<ContentWords edit={edit} side="from" />
			</span>
			<span aria-hidden className="text-ink3 text-center">
				→
			</span>
			<span className="font-semibold min-w-0 break-words">
				<ContentWords edit={edit} side="to" />
			</span>
			<span className="caption whitespace-nowrap text-right">{changeNote(edit)}</span>
		</li>
	);
}

function ValueWords({ edit, side }: { edit: Edit; side: "from" | "to" }) {
	const unitSet = useUnitSet();
	const value = edit[side] as MaterialValue | null;
	if (value === null) return <>blank</>;
	const apart = tellApart(edit.from as MaterialValue | null, edit.to as MaterialValue | null, unitSet);
	const words = [wordsOf(value, unitSet), ...apart[side === "from" ? 0 : 1]].join(", ");
	// what stood there is struck through, and a dash would be lost in the stroke
	return <>{side === "from" ? words.replaceAll("–", " to ") : words}</>;
}

/** The short texts of a record: a source's title, a price, a mark's origin. */
function wordsInside(content: object): string {
	const { title, text, name, reason } = content as Record<string, unknown>;
	return String(title ?? text ?? name ?? reason ?? Object.values(content).join(" ")).slice(0, 80);
}

function fieldWords(content: unknown): string {
	if (content === null || content === undefined) return "";
	if (Array.isArray(content))
		return content.map((d: unknown) => (typeof d === "string" ? d : wordsInside(d as object))).join(", ");
	if (typeof content === "object") return "roughness" in content ? lookWords(content as Look) : wordsInside(content);
	const text = String(content);
	return text.length > 60 ? `${text.slice(0, 60)}…` : text;
}
