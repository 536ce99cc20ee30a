import { BLANK } from "../material";
import { factsOf, type TableQuery, type TableRow } from "./index";

/** Makers that tests share; nothing else imports this. */
const FACTS = factsOf(BLANK, []);
export const ASK: TableQuery = { spans: [], facets: {}, text: "", sort: "group", descending: false, counts: true };
export const VIEWER = { person: "ann", libraries: new Set(["a", "b"]) };

export function row(id: string, change: Partial<TableRow> = {}, facts: Partial<TableRow["facts"]> = {}): TableRow {
	return {
		id,
		person: null,
		name: id,
		library: "a",
		group: "",
		codes: "",
		itemCode: "",
		offeredFor: [],
		marks: [],
		changedAt: 0,
		review: null,
		...change,
		facts: { ...FACTS, ...facts },
	};
}
