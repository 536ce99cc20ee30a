export { type Difference, difference } from "./difference";
export { type Figure, meet } from "./numbers";
export { type CompareRow, compareRows, type Entry, entryOf, isUniform, type Side } from "./rows";
