export { undo } from "./undo";
