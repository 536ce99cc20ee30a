import { linkText, type NameLink } from "@alvek/contract";
import type { Material } from "@alvek/core/material";

/** `OS 12: G-5; GB-5`: what a name belongs to in front of a colon, several apart by semicolons. */
function namesIn(text: string): readonly { readonly of: string | null; readonly text: string }[] {
	const names = [...new Set(text.split(";").map((t) => t.trim()))].filter((t) => t !== "");
	return names.map((name) => {
		const cut = /^([^:]{1,40}):\s*(\S.*)$/.exec(name);
		return cut === null ? { of: null, text: name } : { of: (cut[1] as string).trim(), text: cut[2] as string };
	});
}

export const designationsIn = (text: string): Material["designations"] =>
	namesIn(text).map(({ of, text: name }) => (of === null ? { text: name } : { system: of, text: name }));

export const designationsText = (designations: Material["designations"]): string =>
	designations.map((d) => (d.system ? `${d.system}: ${d.text}` : d.text)).join("; ");

export const linksIn = (text: string): readonly NameLink[] =>
	namesIn(text).map(({ of, text: name }) => ({ scope: of ?? "", name }));

export const linksText = (links: readonly NameLink[]): string => links.map(linkText).join("; ");
