import type { Issue } from "./issue";
import { SENTENCES } from "./sentences.data";

/** One English sentence from the facts of an issue; the same everywhere. A code of a newer server is told by its words. */
export function describeIssue(issue: Issue): string {
	const sentence = Object.hasOwn(SENTENCES, issue.code) ? SENTENCES[issue.code] : undefined;
	if (sentence !== undefined) return sentence(issue);
	const where = issue.path === undefined ? "" : `${issue.path}: `;
	const wanted = issue.expected === undefined ? "" : `, expected ${issue.expected}`;
	return `${where}${issue.code.replaceAll("-", " ")}${issue.actual == null ? "" : ` (${issue.actual})`}${wanted}.`;
}
