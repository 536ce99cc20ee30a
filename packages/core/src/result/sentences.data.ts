import type { Facts } from "./issue";

/** Where, in front of a sentence. */
const at = ({ path }: Facts): string => (path === undefined || path === "" ? "" : `${path}: `);

/** Every code of a failure with its sentence, made from its facts: what is wrong and what to do. */
export const SENTENCES = {
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
	"unclear-number": (i) =>
		`“${i.actual}” can mean ${i.choices?.join(" or ")}. Choose one${i.expected === undefined ? "" : `: ${i.expected}`}.`,
	"not-finite": (i) => `“${i.actual}” is too large for any material.`,
	"not-a-picture": (i) => `The content looks like ${i.actual}, not like ${i.expected}. Nothing was stored.`,
	"picture-too-large": (i) => `The picture has ${i.actual} pixels; at most ${i.expected} along a side. Make it smaller first.`,
	"not-a-currency": (i) => `“${i.actual}” is not a currency; use three capital letters such as EUR.`,
	"rate-twice": (i) => `${i.actual} has two rates, or is the currency of the sums itself. Keep one.`,
	"not-a-factor": (i) => `“${i.actual}” is not a factor; type a number such as 0.9, with at most six decimals.`,
	"not-a-rate": (i) => `“${i.actual}” is not a rate for ${i.path}; type a positive number such as 0.92.`,
	"not-a-date": (i) => `“${i.actual}” is not a date for ${i.path}; type one such as 2026-11-02.`,
	"name-taken": (i) => `The library already has a material named “${i.actual}”. Choose another name.`,
	"same-name-as-base": (i) => `The new material needs a name other than its base, “${i.actual}”.`,
	conflict: () => "This value was changed elsewhere in the meantime. Both versions are shown; choose one.",
	"not-found": (i) => `${i.path ?? "This"} is not here, or you may not see it.`,
	"read-only": () => "This library is supplied and read-only. Copy the material to a library of your own to change it.",
	forbidden: (i) => `You may not ${i.actual ?? "do this"} here.`,
	"upload-too-large": (i) => `The file is larger than ${i.expected}. Nothing was stored.`,
	"newer-change": (i) => `It was changed again since (${i.actual}), so this step can no longer be undone.`,
	"draft-moved": (i) =>
		`Your draft of “${i.actual}” was published or thrown away elsewhere. What you typed since is kept here; put it into a new draft, or leave it.`,
	"sign-in-busy": () => "Many people are signing in at this moment. Try again in a few seconds.",
	"too-many-requests": (i) => `More was asked than is answered at once. Try again in ${i.expected ?? "a few seconds"}.`,
	"not-an-address": (i) =>
		`“${i.actual}” is no address of the web; one begins with https:// or http://. Other places fit into the title.`,
	"not-as-seen": (i) => `The draft of “${i.actual}” is not what you saw any more. Look at it once more, then publish.`,
	"undo-approval": (i) => `“${i.actual}” asks for a second person, so this is proposed again rather than brought back.`,
	"worker-crashed": (i) => `The work stopped by itself (${i.actual}). Nothing was changed; try again.`,
	"out-of-memory": () => "It needs more memory than there is for one work. Bring it in in smaller parts; nothing was changed.",
	"zip-broken": (i) => `${at(i)}the archive cannot be unpacked (${i.actual}). Pack it again.`,
	"too-many-entries": (i) => `The archive holds ${i.actual} files; at most ${i.expected} are unpacked.`,
	"unpacks-too-large": (i) => `Unpacked, the archive would take ${i.actual}; at most ${i.expected} are. Nothing was unpacked.`,
	"zip-path": (i) => `“${i.actual}” leads out of the archive, so it is not unpacked.`,
	"zip-link": (i) => `“${i.actual}” is only a link, so there is nothing to unpack.`,
	"zip-entry-twice": (i) => `“${i.actual}” stands in the archive more than once, so it is not known which one is meant.`,
	"zip-locked": (i) => `“${i.actual}” is locked by a password.`,
	"zip-method": (i) => `“${i.actual}” is packed by a method that is not read here.`,
	"zip-part-too-large": (i) => `“${i.actual}” is too large to be unpacked.`,
	"zip-one-file": (i) => `The archive holds ${i.actual}; one ${i.expected} is read at a time. Nothing was imported.`,
	"not-step": () => "This is not a STEP file: it does not begin with ISO-10303-21. Nothing was imported.",
	truncated: (i) => `The file ends early, at line ${i.line}: ${i.expected} is missing. Export it again. Nothing was imported.`,
	"dangling-reference": (i) =>
		`Line ${i.line}: ${i.path} refers to ${i.actual}, which the file does not contain. Nothing was imported.`,
	"missing-parameter": (i) =>
		`Line ${i.line}: ${i.path} has ${i.actual} parameters, ${i.expected} are needed. Nothing was imported.`,
	"assembly-loop": (i) => `The assembly contains itself: ${i.actual}. Nothing was imported.`,
	"no-solids": (i) =>
		`The file holds no solid, so nothing has a volume${i.actual === undefined ? "" : ` (it holds ${i.actual})`}. Export solids (not surfaces or wires). Nothing was imported.`,
	"bad-placement": (i) =>
		`${i.line === undefined ? "" : `Line ${i.line}: `}${i.path ?? "a placement"} has ${i.actual} where ${i.expected} belongs, so it is not known where its part stands. Nothing was imported.`,
	"bad-radius": (i) => `Line ${i.line}: ${i.path} has the radius ${i.actual}; it must be ${i.expected}. Nothing was imported.`,
	"no-length-unit": (i) =>
		`${i.line === undefined ? "" : `Line ${i.line}: `}the file does not say in which unit its lengths are${i.path === undefined ? "" : ` (${i.path})`}. Export it with its unit. Nothing was imported.`,
	"unknown-length-unit": (i) =>
		`Line ${i.line}: ${i.path} measures lengths by ${i.actual}, which is not known. Export the file in millimetres. Nothing was imported.`,
	"empty-data": (i) =>
		`The DATA section, at line ${i.line}, is empty: the file holds no geometry. Export it again. Nothing was imported.`,
	"not-finite-coordinate": (i) =>
		`Line ${i.line}: a coordinate of ${i.path} is “${i.actual}”, not a number. Nothing was imported.`,
	syntax: (i) => `Line ${i.line}: ${i.expected} was expected, “${i.actual}” was found. Nothing was imported.`,
	"solid-failed": (i) => `The solid ${i.path} could not be read: ${i.actual}. Nothing was imported.`,
	"open-shell": (i) => `The solid ${i.path} is not closed, so it has no volume. Nothing was imported.`,
	"time-limit": (i) => `Reading took longer than ${i.expected} and was stopped. Nothing was imported.`,
	cancelled: () => "Cancelled. Nothing was imported.",
	"kernel-crashed": (i) => `The geometry kernel stopped while reading ${i.path ?? "the file"}. Nothing was imported.`,
	"link-taken": (i) => `“${i.expected}” stands for “${i.actual}” already. A name elsewhere stands for one material of a library.`,
	"own-taken": (i) => `This library has a property “${i.actual}” already.`,
	"own-unit": (i) =>
		`${i.actual} measures something else than ${i.expected}; the values that stand there would mean something else. Make another property.`,
	"code-taken": (i) => `The item code ${i.actual}; choose ${i.expected}.`,
	"id-taken": () => "This id is in use already. Try again; a new one is made.",
	"first-draft": (i) => `“${i.actual}” was never published, so there is nothing to go back to. Delete the material instead.`,
	"no-origin": (i) => `“${i.actual}” did not begin from a library's material. It goes into a library as an entry of its own.`,
	"own-draft": (i) => `You have a draft of “${i.actual}” already. Publish it or throw it away first.`,
	"nothing-changed": (i) => `Nothing differs from ${i.actual}, so there is nothing to publish.`,
	"nothing-behind": () => "None of these parts stands on an older revision.",
	"not-published": (i) => `“${i.actual}” has no published revision to copy yet.`,
	"empty-file": (i) => `“${i.actual}” is empty (0 bytes). Export it again. Nothing was taken in.`,
	"same-name": (i) =>
		`This project has a file “${i.actual}” already, with other content. Say whether this one takes its place or stands beside it. Nothing was imported yet.`,
	"already-imported": (i) => `“${i.actual}” is in this project already, byte for byte. Nothing was imported again.`,
	"upload-broken": () => "The file did not arrive whole. Nothing was stored; send it again.",
	"upload-refused": (i) => `The file was not taken. It needs ${i.expected}.`,
	interrupted: () => "The server stopped in the middle. Nothing was imported; start it again.",
	internal: (i) =>
		`Something went wrong on our side. What you typed is kept; try again.${i.actual === undefined ? "" : ` Whoever runs the server finds it in the log as ${i.actual}.`}`,
	"merge-itself": () => "A material cannot be merged with itself.",
	"merge-retired": (i) => `“${i.actual}” is retired already. Bring it back into use first, or leave it.`,
	"merge-moved": () => "One of the two was changed in the meantime. Look at them again; nothing was merged.",
	"use-taken": (i) => `There is a use named “${i.actual}” already. Choose another name.`,
	"too-many-uses": (i) => `A library adds ${i.expected} uses at most. Change one that is there.`,
	"copy-moved": () => "What bears these names there was changed in the meantime. Look at it again; nothing was copied.",
	"move-waits": (i) =>
		`In ${i.actual} a second person approves what is published, so nothing can be moved there in one step. Copy it; once the copy is approved, retire this one with it as successor.`,
	"nothing-to-copy": (i) =>
		`Nothing in the group ${i.actual} is published yet, so there is nothing to copy. Publish its drafts first.`,
	"merge-approval": (i) =>
		`In ${i.actual} a second person approves what is published. Take the values over in a draft and have it approved, then merge without taking any.`,
	"disk-full": () =>
		"The server's disk is full, so nothing was changed. What you typed is kept in this page; try again once there is room.",
	"disk-failing": () =>
		"The server's disk reports an error, so nothing was changed. Whoever runs the server should look at it now.",
	"folder-read-only": (i) =>
		`Alvek may not write to its data folder${i.path === undefined ? "" : ` ${i.path}`}, so nothing was changed. Give its user the right to write there.`,
	"folder-in-use": (i) => `Another Alvek is running on ${i.actual}. Stop it first; one process at a time may use a data folder.`,
	"database-busy": () => "The database was busy for too long, so nothing was changed. Try again.",
	"database-damaged": () =>
		"The database is damaged, so nothing is written any more. Stop the server, keep a copy of the data folder, and restore the last backup (docs/operate.md).",
	"data-newer": (i) =>
		`These data were written by a newer Alvek (it knows ${i.actual}, this one only ${i.expected}). Nothing was touched; start the newer version again.`,
	"file-missing": (i) =>
		`The file ${i.actual} is missing on the server's disk. It can be had back from a backup (docs/operate.md).`,
	"file-damaged": (i) =>
		`The file ${i.actual} is damaged on the server's disk: it is not what was stored. It can be had back from a backup (docs/operate.md).`,
	"restore-unfinished": (i) =>
		`Restoring a backup was broken off in ${i.actual}. Run npm run restore again with the same file; nothing is lost.`,
	"not-a-backup": (i) => `${i.path} is not a whole backup of Alvek: ${i.actual}. Nothing was changed.`,
	"no-data": (i) => `There is no data folder at ${i.actual}. Set ALVEK_DATA to where it lies.`,
	"reference-loop": (i) => `Line ${i.line}: ${i.path} contains itself. Nothing was imported.`,
	"duplicate-entity": (i) => `Line ${i.line}: ${i.actual} is defined twice. Export the file again. Nothing was imported.`,
	"too-many-occurrences": (i) =>
		`The assembly unfolds into more occurrences than can be shown (${i.expected}). Nothing was imported.`,
	"scaled-placement": (i) =>
		`Line ${i.line}: a part is placed with a scale, which would change its mass. Export it in its true size. Nothing was imported.`,
	"too-long": (i) => `${i.path === "name" ? "The name" : `“${i.path}”`} is too long: ${i.actual} characters; use ${i.expected}.`,
	"name-missing": () => "A name is needed.",
	"unknown-property": (i) => `There is no property “${i.actual ?? i.path}”.`,
	"si-mismatch": (i) => `The number stored for ${i.path} is not what its text says (${i.expected}).`,
	"paste-too-large": (i) =>
		`The paste is too large: ${i.actual}, ${i.expected} can be read at once. Nothing was taken; paste a part.`,
	"held-otherwise": (i) =>
		`${i.path} is held as ${i.actual === "" ? "something else" : `a ${i.actual}`}; change it on the sheet.`,
	"beyond-grid": () => "There is no row or column for this cell.",
	"no-numbers": () => "No row of numbers was found. Paste rows of numbers, perhaps under a row of headings.",
	"wrong-count": (i) => `${i.actual} were found where ${i.expected} are announced. Correct the one or the other.`,
	"not-json": (i) => `The file is no JSON: ${i.actual}.`,
	"bad-host": (i) => `Requests from ${i.actual} are not answered; use ${i.expected}.`,
	"body-too-large": (i) => `The request is too large; it may hold ${i.expected}.`,
	locked: () => "The lock of this library is closed. Open it, then try again; drafts need no lock.",
	"locked-by": (i) => `${i.actual} holds the lock of this library. Take it over, or wait until it closes.`,
	"in-use": (i) => `${i.actual}. Say that it may go all the same, or retire it instead.`,
	"library-taken": (i) => `There is a library named “${i.actual}” already. Choose another name.`,
	"group-taken": (i) => `The group “${i.actual}” is there already.`,
	"group-deep": (i) => `Groups stand at most ${i.expected} deep, one inside the other.`,
	"group-loop": () => "A group cannot stand under itself.",
	"retired-loop": () => "A material cannot be followed by itself or by one that it follows.",
	"own-approval": () => "Somebody else has to approve what you proposed.",
	"nothing-to-freeze": () => "The library holds no published material yet, so there is nothing to freeze.",
	"same-as-edition": (i) => `Nothing has changed since edition ${i.actual}.`,
	"density-missing": (i) => `“${i.actual}” holds no density. Type a name, then a density such as 2.68 g/cm3.`,
	"one-library": () => "Choose materials of one library at a time.",
	"note-missing": () => "A note is needed: why, and from what source.",
	"proposal-stale": (i) => `“${i.actual}” was changed since it was proposed. Its author has to propose it again.`,
	"last-owner": () => "A project needs an owner. Give somebody else the role first.",
	"nothing-default": () => "None of these parts stands on an unconfirmed default.",
	"not-an-edition": (i) => `This is no edition of a library; it takes ${i.expected}.`,
	"newer-file": (i) =>
		`The file is of ${i.actual === "undefined" ? "no version" : `version ${i.actual}`}; ${i.expected} is read here.`,
	"twice-in-file": (i) => `${i.path}: “${i.actual}” stands twice in the file. Nothing was taken in.`,
	"damaged-file": (i) => `${i.path}: the content is not what its checksum says. Nothing was taken in; get the file again.`,
	"own-library": (i) => `“${i.actual}” is a library of this installation's own, so it is not taken in again.`,
	"older-edition": (i) => `Edition ${i.actual} is here already or older; it takes one ${i.expected}.`,
	"left-out": (i) => `${i.expected} left out, because the name is taken there: ${i.actual}.`,
	"signed-out": () => "You are not signed in any more. Sign in again; what you typed is kept in the page.",
	"wrong-sign-in": () => "Name and password do not fit together. An administrator can make a link for a new password.",
	"too-many-tries": (i) => `Too many tries. Wait ${i.expected}, or ask an administrator for a link.`,
	"ticket-gone": () => "This link was used already, has expired or was replaced by a newer one. Ask for another.",
	"password-length": (i) => `The password has ${i.actual} characters; use ${i.expected}.`,
	"password-is-name": () => "The password must not hold the name that you sign in with.",
	"wrong-password": () => "The present password is not right. Nothing was changed.",
	"no-password-here": () => "This account has no password. An administrator can make a link that sets one.",
	"bad-login": (i) => `“${i.actual}” cannot be signed in with; use 2 to 80 letters, digits, dots or dashes, without spaces.`,
	"login-taken": (i) => `Somebody signs in as “${i.actual}” already. Choose another name.`,
	"team-taken": (i) => `There is a team named “${i.actual}” already. Choose another name.`,
	"last-administrator": () => "Somebody has to be the administrator. Make another person one first.",
	"same-person": () => "Choose another person to hand over to.",
	unreachable: () => "The server does not answer. What you typed is kept here; try again.",
	"wrong-type": (i) => `${at(i)}${i.expected ?? "something else"} belongs here${i.actual == null ? "" : `, not “${i.actual}”`}.`,
	"unknown-choice": (i) => `${at(i)}“${i.actual}” is not known here${i.expected ? `; use ${i.expected}` : ""}.`,
	"bad-input": (i) =>
		`${at(i)}${i.actual == null ? "this" : `“${i.actual}”`} cannot be taken as it is${i.expected ? ` (${i.expected})` : ""}.`,
	"bad-key": (i) => `${at(i)}this is no name of a value${i.expected ? `; use ${i.expected}` : ""}.`,
	"unknown-key": (i) => `A material holds nothing called “${i.path}”.`,
	"unknown-schema": (i) => `The material is of schema ${i.actual}; ${i.expected} can be read here.`,
	"too-many": (i) => `${at(i)}${i.actual == null ? "too many" : `${i.actual} are too many`}; ${i.expected} can be held.`,
	"no-material": (i) => `${at(i)}it has no material; it needs ${i.expected}.`,
	"bad-file": (i) => `${at(i)}the content is not what was asked for; it should be ${i.expected}. Load the page anew.`,
	"bad-mesh": (i) => `The shape of a part did not arrive whole: ${i.actual} where ${i.expected} belongs. Load the page anew.`,
} as const satisfies Readonly<Record<string, (facts: Facts) => string>>;
