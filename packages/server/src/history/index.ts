export { history, historyTable, listSteps } from "./history";
