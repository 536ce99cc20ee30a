import type { Issue } from "./issue";

/** Sentences for codes that need more than their facts. Each says what is wrong and what to do. */
const SENTENCES: Readonly<Record<string, (issue: Issue) => string>> = {
	empty: () => "Nothing was typed. Type a number, or leave the line blank.",
	"not-a-number": (i) => `“${i.actual}” is not a number. Type one such as 2.71, 101-109 or 22.5e-6.`,
	"unknown-unit": (i) =>
		i.choices !== undefined && i.choices.length > 0
			? `“${i.actual}” is not a unit; did you mean ${i.choices.join(" or ")}?`
			: `“${i.actual}” is not a unit known here; use ${i.expected}.`,
	"unit-missing": (i) => `“${i.actual}” has no unit; add ${i.expected}.`,
	"wrong-dimension": (i) => `The unit ${i.actual} does not fit; this value is measured in ${i.expected}.`,
	"out-of-bounds": (i) =>
		`${i.actual} is impossible here; it must be ${i.expected}${i.unit && i.unit !== "1" ? ` ${i.unit}` : ""}.`,
	"reversed-range": (i) => `The range ${i.actual} runs downward; type the smaller end first.`,
	"ambiguous-number": (i) => `“${i.actual}” can mean ${i.choices?.join(" or ")}. Choose one, or type it without the mark.`,
	"not-finite": (i) => `“${i.actual}” is too large for any material.`,
	"name-taken": (i) => `The library already has a material named “${i.actual}”. Choose another name.`,
	"same-name-as-base": (i) => `The new material needs a name other than its base, “${i.actual}”.`,
	conflict: () => "This value was changed elsewhere in the meantime. Both versions are shown; choose one.",
	"not-found": (i) => `${i.path ?? "This"} is not here, or you may not see it.`,
	"read-only": () => "This library is supplied and read-only. Copy the material to a library of your own to change it.",
	forbidden: (i) => `You may not ${i.actual ?? "do this"} here.`,
	"upload-too-large": (i) => `The file is larger than ${i.expected}. Nothing was stored.`,
	"newer-change": (i) => `It was changed again since (${i.actual}), so this step can no longer be undone.`,
	"not-step": () => "This is not a STEP file: it does not begin with ISO-10303-21.",
	truncated: (i) => `The file ends early, at line ${i.line}: ${i.expected} is missing. Export it again.`,
	"dangling-reference": (i) => `Line ${i.line}: ${i.path} refers to ${i.actual}, which the file does not contain.`,
	"missing-parameter": (i) => `Line ${i.line}: ${i.path} has ${i.actual} parameters, ${i.expected} are needed.`,
	"assembly-loop": (i) => `The assembly contains itself: ${i.actual}. Nothing was imported.`,
	"no-solids": () => "The file holds no solid, so nothing has a volume. Export solids (not surfaces or wires).",
	"not-finite-coordinate": (i) =>
		`Line ${i.line}: a coordinate of ${i.path} is “${i.actual}”, not a number. Nothing was imported.`,
	syntax: (i) => `Line ${i.line}: ${i.expected} was expected, “${i.actual}” was found.`,
	"solid-failed": (i) => `The solid ${i.path} could not be read: ${i.actual}. Nothing was imported.`,
	"open-shell": (i) => `The solid ${i.path} is not closed, so it has no volume. Nothing was imported.`,
	"time-limit": (i) => `Reading took longer than ${i.expected} and was stopped. Nothing was imported.`,
	cancelled: () => "Cancelled. Nothing was imported.",
	"kernel-crashed": (i) => `The geometry kernel stopped while reading ${i.path ?? "the file"}. Nothing was imported.`,
	"code-taken": (i) => `The item code ${i.actual}; choose ${i.expected}.`,
	"id-taken": () => "This id is in use already. Try again; a new one is made.",
	"first-draft": (i) => `“${i.actual}” was never published, so there is nothing to go back to. Delete the material instead.`,
	"nothing-changed": (i) => `Nothing differs from ${i.actual}, so there is nothing to publish.`,
	"nothing-behind": () => "None of these parts stands on an older revision.",
	"not-published": (i) => `“${i.actual}” has no published revision to copy yet.`,
	"empty-file": (i) => `“${i.actual}” is empty (0 bytes). Export it again.`,
	"already-imported": (i) => `“${i.actual}” is in this project already, byte for byte.`,
	"upload-broken": () => "The file did not arrive whole. Nothing was stored; send it again.",
	"upload-refused": (i) => `The file was not taken. It needs ${i.expected}.`,
	interrupted: () => "The server stopped in the middle. Nothing was imported; start it again.",
	internal: () => "Something went wrong on our side. What you typed is kept; try again.",
	"reference-loop": (i) => `Line ${i.line}: ${i.path} contains itself. Nothing was imported.`,
	"duplicate-entity": (i) => `Line ${i.line}: ${i.actual} is defined twice. Export the file again.`,
	"too-many-occurrences": (i) => `The assembly unfolds into more occurrences than can be shown (${i.expected}).`,
	"scaled-placement": (i) =>
		`Line ${i.line}: a part is placed with a scale, which would change its mass. Export it in its true size.`,
	"too-long": (i) => `${i.path === "name" ? "The name" : `“${i.path}”`} is too long: ${i.actual} characters; use ${i.expected}.`,
	"name-missing": () => "A name is needed.",
	"unknown-property": (i) => `There is no property “${i.actual ?? i.path}”.`,
	"si-mismatch": (i) => `The number stored for ${i.path} is not what its text says (${i.expected}).`,
	"bad-host": (i) => `Requests from ${i.actual} are not answered; use ${i.expected}.`,
	"body-too-large": (i) => `The request is too large; it may hold ${i.expected}.`,
	unreachable: () => "The server does not answer. What you typed is kept here; try again.",
};

/** One English sentence from the facts of an issue; the same everywhere. */
export function describeIssue(issue: Issue): string {
	const sentence = Object.hasOwn(SENTENCES, issue.code) ? SENTENCES[issue.code] : undefined;
	if (sentence !== undefined) return sentence(issue);
	const where = issue.path === undefined ? "" : `${issue.path}: `;
	const wanted = issue.expected === undefined ? "" : `, expected ${issue.expected}`;
	return `${where}${issue.code.replaceAll("-", " ")}${issue.actual == null ? "" : ` (${issue.actual})`}${wanted}.`;
}
