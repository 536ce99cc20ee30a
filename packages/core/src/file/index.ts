export { cleanFileName, endingOf, mismatch } from "./name";
export { type Sniffed, sniff } from "./sniff";
