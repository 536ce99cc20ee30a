export { CARRIES, FACTS_VERSION, type Facts, factsOf, MARKS, OPEN, type TableFacts } from "./facts";
export { NameIndex } from "./nameindex";
export { compareNames } from "./names";
export { type PackedColumns, packColumns, unpackColumns } from "./packed";
export { FACETS, type FacetId, type Seer, type TableAnswer, type TableQuery, type TableRow } from "./query";
export { distance, foldName, lettersOf, nearWords, RANKS, rankName, wordsOf } from "./rank";
export { blankSpans, failOutside, type Spans } from "./spans";
export { type Bins, binStrip, numberAt, placeOn, type StripAxis, stripAxis } from "./strip";
export { MaterialTable } from "./table";
