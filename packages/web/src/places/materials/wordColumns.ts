import type { MaterialRow } from "@alvek/contract";
import { WORD_COLUMNS, type WordColumnId } from "@alvek/core/table";
import type { ColumnChoice } from "./view";

/** A column of words: they stand before the numbers, and no cell of them is typed in. */
export type WordColumn = { readonly id: WordColumnId; readonly name: string; readonly width: number };

const WIDTHS: Readonly<Record<WordColumnId, number>> = { code: 104, supplier: 128, condition: 96, price: 96, review: 96 };

export function wordColumns(choices: readonly ColumnChoice[]): readonly WordColumn[] {
	return choices.flatMap(({ id, width }): WordColumn[] => {
		const known = WORD_COLUMNS.find((c) => c.id === id);
		return known === undefined ? [] : [{ ...known, width: width ?? WIDTHS[known.id] }];
	});
}

/** What a material says in a column of words; "" where nothing is said. Prices as they were typed. */
export function wordIn(row: MaterialRow, id: WordColumnId): string {
	const { document } = row;
	switch (id) {
		case "code":
			return row.itemCode;
		case "supplier":
			return document.supplier;
		case "condition":
			return document.condition;
		case "price":
			return document.price === null ? "" : `${document.price.amount} ${document.price.currency}/kg`;
		case "review":
			return row.reviewAt ?? "";
	}
}
