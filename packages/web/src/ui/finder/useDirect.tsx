import type { Found } from "@alvek/contract";
import { firstValue } from "@alvek/core/material";
import { property } from "@alvek/core/property";
import { Copy } from "lucide-react";
import { useEffect, useState } from "react";
import { useRoute } from "../../api/queries";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { copyText } from "../copy";
import { EvidenceLetter, plainUnit, SymbolText, unitFor, valueText } from "../Quantity";
import type { Direct } from "./direct";
import type { Answer } from "./FinderPanel";

/** Materials whose value answers; more would push away what is called as typed. */
const MOST_VALUES = 3;

type Reader = (text: string) => Direct | null;

/** What the text asks for itself: Enter copies it. The words of properties are loaded when the finder first opens. */
export function useDirect(text: string, done: () => void): { readonly answers: readonly Answer[]; readonly fresh: boolean } {
	const unitSet = useUnitSet();
	const [reader, setReader] = useState<{ readonly read: Reader } | null>(null);
	const wanted = text !== "" && reader === null;
	useEffect(() => {
		if (!wanted) return;
		// without it, as while there is no connection, names are found all the same
		void import("./direct").then(
			({ directOf }) => setReader({ read: directOf }),
			() => setReader({ read: () => null }),
		);
	}, [wanted]);
	const asked = reader === null || text === "" ? null : reader.read(text);
	const material = asked?.kind === "values" ? asked.material : "";
	const found = useRoute("search", { text: material === "" ? "-" : material }, { enabled: material !== "" });
	const take = (answer: string): void => {
		done();
		if (copyText(answer)) showToast({ tone: "plain", text: `${answer} is in the clipboard.` });
	};
	if (asked?.kind === "converted") {
		const show = <DirectLine before={`${asked.from} =`} answer={asked.answer} />;
		return { answers: [{ key: "converted", rank: FIRST, show, take: () => take(asked.answer) }], fresh: true };
	}
	if (asked === null) return { answers: [], fresh: reader !== null || text === "" };
	const answers = (found.data ?? []).flatMap((f) => valueAnswer(f, asked.properties, unitSet, take)).slice(0, MOST_VALUES);
	return { answers, fresh: !found.isPending && !found.isPlaceholderData };
}

/** Before anything that is only called alike. */
const FIRST = -1;

function valueAnswer(
	found: Found,
	properties: readonly string[],
	unitSet: ReturnType<typeof useUnitSet>,
	take: (answer: string) => void,
): readonly Answer[] {
	if (found.kind !== "material") return [];
	const value = properties.flatMap((id) => firstValue(found.row.document, id) ?? [])[0];
	if (value === undefined) return [];
	const { symbol, name } = property(value.property);
	const answer = `${valueText(value, unitSet)} ${plainUnit(unitFor(value, unitSet))}`.trim();
	const show = (
		<DirectLine
			before={
				<>
					{symbol === "" ? name : <SymbolText symbol={symbol} />} of <b>{found.row.name}</b>
				</>
			}
			answer={answer}
			after={<EvidenceLetter value={value} />}
		/>
	);
	return [{ key: `value ${found.row.id}`, rank: FIRST, show, take: () => take(answer) }];
}

function DirectLine(props: { before: React.ReactNode; answer: string; after?: React.ReactNode }) {
	const { before, answer, after } = props;
	return (
		<>
			<Copy size={13} aria-hidden className="text-ink3 shrink-0" />
			<span className="truncate">{before}</span>
			<span className="sr-only">: </span>
			<b className="whitespace-nowrap">{answer}</b>
			{after}
			<span className="caption ml-auto whitespace-nowrap">Enter copies</span>
		</>
	);
}
