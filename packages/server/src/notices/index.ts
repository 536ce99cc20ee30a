export { changeNotices, listNotices } from "./notices";
