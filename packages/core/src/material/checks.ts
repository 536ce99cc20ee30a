import { axisById, type OwnProperty, property, propertyById, type UnitSetId } from "../property";
import { significant } from "../quantity";
import { gravestFirst, type Severity } from "../result";
import { canonicalJson } from "./canonical";
import { curveChecks } from "./checks-curves";
import { elasticChecks } from "./checks-elastic";
import { kelvinChecks, orderChecks, scaleChecks } from "./checks-order";
import { originChecks, textChecks } from "./checks-origin";
import { franzChecks, magnetChecks } from "./checks-physics";
import { bandChecks, ownChecks } from "./checks-plausible";
import type { Acknowledgement, Material } from "./types";

/** What looks wrong: the rule, its figures, a remedy. Never refuses by itself. */
export type Check = {
	readonly code: string;
	readonly severity: Exclude<Severity, "asked">;
	readonly title: string;
	/** `{0}`, `{1}` stand for the figures, which are shown in the reader's own units: see `checkText`. */
	readonly detail: string;
	readonly figures: readonly Figure[];
	/** Value ids that it is about. */
	readonly values: readonly string[];
	/** The slip that would explain it: the ratio, and the two units or `a factor of 10`. */
	readonly slip?: { readonly ratio: number; readonly said: string };
	/** Why somebody let it pass, while the values are still those that were looked at. */
	readonly acknowledged?: string;
};

/** A number in SI, in the unit of that property or axis. */
export type Figure = { readonly si: number; readonly property: string };

/** What a material began from: that revision, and the newest one where it is another and may be read. */
export type CheckedBase = { readonly name: string; readonly document: Material; readonly head?: Material };

/** What a check may compare a material with beside its own content. */
export type CheckContext = {
	readonly base: CheckedBase | null;
	/** Own properties as the library says them today, which is what counts for a value that was entered before. */
	readonly own: readonly OwnProperty[];
};

/** The detail with its figures written in. */
export function checkText(check: Check, write: (figure: Figure) => string = siText): string {
	return check.detail.replace(/\{(\d)\}/g, (_, n: string) => {
		const figure = check.figures[Number(n)];
		return figure === undefined ? "" : write(figure);
	});
}

function siText(figure: Figure): string {
	return `${significant(figure.si, 4)} ${figureUnits(figure).base}`;
}

/** The units that a figure shows in. */
export function figureUnits(figure: Figure): Readonly<Record<UnitSetId, string>> {
	return (propertyById(figure.property) ?? axisById(figure.property) ?? property(figure.property)).units;
}

/** All checks of a material, the gravest first; those that somebody acknowledged last. */
export function checkMaterial(material: Material, context: CheckContext): readonly Check[] {
	const found: Check[] = [
		...elasticChecks(material),
		...textChecks(material),
		...orderChecks(material),
		...scaleChecks(material),
		...kelvinChecks(material),
		...franzChecks(material),
		...magnetChecks(material),
		...curveChecks(material),
		...bandChecks(material),
		...ownChecks(material, context.own),
		...originChecks(material, context),
	].map((check) => {
		const known = material.acknowledged[checkKey(check)];
		return known !== undefined && known.seen === seenBy(check, material) ? { ...check, acknowledged: known.reason } : check;
	});
	const isOpen = (c: Check): boolean => c.acknowledged === undefined;
	return [...gravestFirst(found.filter(isOpen)), ...gravestFirst(found.filter((c) => !isOpen(c)))];
}

/** The key that an acknowledgement stands under. */
export function checkKey(check: Check): string {
	return `${check.code} ${[...check.values].sort().join(" ")}`.slice(0, 280);
}

/** An acknowledgement of a check as it stands now; it lapses when a value that it is about changes. */
export function acknowledge(check: Check, material: Material, reason: string): Acknowledgement {
	return { reason, seen: seenBy(check, material) };
}

/** A short fingerprint (FNV-1a, 32 bits) of the values that a check is about: tells whether they are still the same. */
function seenBy(check: Check, material: Material): string {
	const text = canonicalJson(check.values.map((id) => material.values[id] ?? null));
	let hash = 0x811c9dc5;
	for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
	return (hash >>> 0).toString(16);
}
