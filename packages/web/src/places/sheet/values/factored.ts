import type { Sheet } from "@alvek/contract";
import { isNumber, type Material, makeValue, type NumberValue, strengthsOf, timesFactor } from "@alvek/core/material";
import { describeIssue } from "@alvek/core/result";

/** A strength, what a factor makes of it, or why it is left as it is. */
export type FactoredLine = { readonly from: NumberValue; readonly to: NumberValue | null; readonly why: string };

/**
 * Every strength times a factor. It is taken from the base where that has the value, so that another factor later does
 * not come on top of the first; definition, basis and condition stay, evidence becomes estimated, the reason is the source.
 */
export function factored(
	material: Material,
	base: Sheet["base"],
	{ factor, reason }: { readonly factor: string; readonly reason: string },
): readonly FactoredLine[] {
	return strengthsOf(material).map((own): FactoredLine => {
		const theirs = base?.document?.values[own.id];
		const ofBase = theirs !== undefined && theirs.property === own.property && isNumber(theirs);
		const from = ofBase ? theirs : own;
		const text = timesFactor(from, factor);
		if (!text.ok) return { from, to: null, why: text.issues.map(describeIssue).join(" ") };
		const of = !ofBase || base === null ? "" : ` of ${base.name} rev ${base.revision}`;
		const { qualifier, basis, condition } = from;
		const made = makeValue(
			{ id: own.id, property: own.property },
			text.value,
			{ decimalMark: "." },
			{
				...(qualifier === undefined ? {} : { qualifier }),
				...(basis === undefined ? {} : { basis }),
				...(condition === undefined ? {} : { condition }),
				evidence: "estimated",
				source: `${factor} times ${from.entered}${of}: ${reason}`.slice(0, MOST_SOURCE),
			},
		);
		return made.ok ? { from, to: made.value, why: "" } : { from, to: null, why: made.issues.map(describeIssue).join(" ") };
	});
}

/** Letters that the words of a source may have. */
const MOST_SOURCE = 400;
