import { type Edit, freshValueId, type Material, makeValue } from "@alvek/core/material";
import { readEntry } from "@alvek/core/page";
import { property, propertyById } from "@alvek/core/property";
import { ClipboardPaste, TextCursorInput } from "lucide-react";
import { useMemo } from "react";
import { Link } from "react-router";
import { useKeptText } from "../../draft/text";
import type { Draft } from "../../draft/useDraft";
import { usePreferences, useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { wordsOf } from "../../ui/Quantity";
import { counted } from "../../ui/words";
import { useSheet } from "./context";
import { EntryProvenance, provenanceOf } from "./EntryProvenance";
import { useKeptSources } from "./keptSources";
import { placeFor } from "./paste/rows";

/** Several values typed in one line: `rho 2.71 g/cm3; E 68.9 GPa; nu 0.33`. */
export function EntryLine({ material, draft: { commit, keptAs } }: { material: Material; draft: Draft }) {
	const unitSet = useUnitSet();
	const { sheet } = useSheet();
	const [text, setText] = useKeptText(keptAs("several"), "");
	const entry = useMemo(
		() => readEntry(text, (id) => (propertyById(id)?.scales === true ? undefined : propertyById(id)?.units[unitSet])),
		[text, unitSet],
	);
	const kept = useKeptSources(sheet.row.libraryId);
	const enteredAs = usePreferences((p) => p.enteredAs);
	const { details, added } = provenanceOf(enteredAs, { material, kept });
	const made = entry.taken.flatMap((t) => {
		const { id, held } = placeFor(material, t.property);
		const value = makeValue({ id, property: t.property }, t.text, t.mark === undefined ? {} : { decimalMark: t.mark }, {
			...details,
			...(t.qualifier === undefined ? {} : { qualifier: t.qualifier }),
			...(t.condition === undefined ? {} : { condition: t.condition }),
		});
		return value.ok ? [{ id, value: value.value, held }] : [];
	});
	const price = entry.prices.at(-1);
	const count = made.length + (price === undefined ? 0 : 1);
	const save = (): void => {
		if (count === 0) return;
		const edits: Edit[] = [];
		if (added !== null && made.length > 0) edits.push({ at: `sources:${added.id}`, from: null, to: added.content });
		if (price !== undefined)
			edits.push({ at: "field:price", from: material.price, to: { ...price, date: new Date().toISOString().slice(0, 10) } });
		const used = new Set<string>();
		for (const { id, value, held } of made) {
			// the same property twice in one line makes two values
			const at = used.has(id)
				? freshValueId(
						{ ...material, values: { ...material.values, ...Object.fromEntries([...used].map((u) => [u, value])) } },
						id,
					)
				: id;
			used.add(at);
			edits.push({ at, from: at === id ? held : null, to: { ...value, id: at } });
		}
		const said = `${counted(count, "value")} entered`;
		commit(edits, said);
		// what was not understood stays in the line, to be corrected
		setText([...entry.asks.map((a) => a.text), ...entry.left.map((l) => l.text)].join("; "));
		showToast({ tone: "plain", text: `${said}.` });
	};
	const open = [
		...entry.asks.map((a) => `${a.text}: ${a.question} ${a.choices.map((c) => c.text).join(" or ")}`),
		...entry.left.map((l) => `${l.text}: ${l.why}`),
	];
	return (
		<div className="mt-3 relative">
			<div className="flex items-center gap-2 bg-paper border border-line rounded-md h-8 px-2.5 focus-within:outline-2 focus-within:outline-primary">
				<TextCursorInput size={15} aria-hidden className="text-ink2 shrink-0" />
				<label htmlFor="entry-line" className="text-ink2 shrink-0">
					Several at once:
				</label>
				<input
					id="entry-line"
					className="flex-1 min-w-0 bg-transparent outline-none!"
					value={text}
					maxLength={4000}
					placeholder="rho 8.81 g/cm3; nu 0.33; Rm 260-310 N/mm2"
					aria-describedby="entry-reading"
					onChange={(e) => setText(e.target.value)}
					onKeyDown={(e) => {
						if (e.key === "Enter") save();
						if (e.key === "Escape") setText("");
					}}
				/>
				<Link to="page" className="quiet-link caption text-ink2! shrink-0 flex items-center gap-1.5">
					<ClipboardPaste size={13} aria-hidden /> or paste a page
				</Link>
			</div>
			<div id="entry-reading" role="status">
				{text.trim() !== "" && (
					<div className="bg-accent-soft border border-line border-t-0 rounded-b-md px-2.5 py-1.5 text-sm flex flex-wrap gap-x-4 gap-y-0.5">
						{made.length > 0 && <EntryProvenance material={material} kept={kept} />}
						{made.map(({ id, value, held }) => (
							<span key={id}>
								{property(id).symbol === "" ? property(id).name : <i>{property(id).symbol.replace("_", "")}</i>}{" "}
								<b>{wordsOf(value, unitSet)}</b>
								{held !== null && <span className="text-doubt"> replaces {wordsOf(held, unitSet)}</span>}
							</span>
						))}
						{open.map((piece) => (
							<span key={piece} className="text-doubt">
								not understood: {piece}
							</span>
						))}
						{price !== undefined && (
							<span>
								price <b>{`${price.amount} ${price.currency}/kg`}</b>
								{material.price !== null && (
									<span className="text-doubt"> replaces {`${material.price.amount} ${material.price.currency}`}</span>
								)}
							</span>
						)}
						{count > 0 && (
							<span className="ml-auto whitespace-nowrap">
								<kbd className="kbd kbd-xs">Enter</kbd> takes {count}
							</span>
						)}
					</div>
				)}
			</div>
		</div>
	);
}
