export { postgres } from "./postgres";
export { sqlite } from "./sqlite";
export { type ColumnType, type Dialect, sameOrNull } from "./types";
