export { type AlikePair, type AlikeRows, alikePairs, alikeTo } from "./alike";
export { FACTS_VERSION, type Facts, factsOf, numbersOf, type TableFacts, withAbove } from "./facts";
export {
	CARRIES,
	FACETS,
	type FacetId,
	facetRow,
	facetWordName,
	MARKS,
	OPEN,
	WORD_COLUMNS,
	type WordColumnId,
} from "./filter.data";
export type { Numbers, StoredTable, TableImage } from "./image";
export { NameIndex } from "./nameindex";
export { compareNames } from "./names";
export { type PackedColumns, packColumns, unpackColumns } from "./packed";
export type { TableAnswer, TableQuery, TableRow, Viewer } from "./query";
export { distance, foldName, lettersOf, nearWords, RANKS, rankName, wordsOf } from "./rank";
export { blankSpans, failOutside, type Spans } from "./spans";
export { type Bins, binStrip, numberAt, placeOn, type StripAxis, stripAxis } from "./strip";
export { MaterialTable } from "./table";
