import { cleanName, makeValue, type NumberValue } from "../material";
import { property } from "../property";
import { parseQuantity } from "../quantity";
import { fail, ok, type Result } from "../result";
import { readEntry } from "./entry";
import { cleanPaste } from "./text";

export type NewMaterialLine = {
	readonly name: string;
	/** The density first; further entries after semicolons. */
	readonly values: readonly NumberValue[];
	/** Pieces that name no property. */
	readonly left: readonly string[];
};

/**
 * Reads a material typed in one line: a name, then its density with a unit, then more entries after semicolons. A name
 * may hold numbers: the density begins at the first word from which the rest reads as one.
 * @example readNewMaterial("Gudgeon alloy 2.68 g/cm3; E 68.9 GPa")
 * @returns `name-missing`, or `density-missing` where no word begins a density
 */
export function readNewMaterial(text: string): Result<NewMaterialLine> {
	const [first = "", ...rest] = cleanPaste(text).slice(0, 2000).split(/[;\n]/);
	const words = first.trim().split(/\s+/);
	const spec = property("density");
	for (let at = 1; at < words.length; at++) {
		const number = words.slice(at).join(" ");
		if (!/^[~≈<>≤≥]*\d/.test(number) || !parseQuantity(number, spec, {}).ok) continue;
		const name = cleanName(
			words
				.slice(0, at)
				.join(" ")
				.replace(/[,:=]$/, ""),
		);
		if (!name.ok) return name;
		const density = makeValue("density", number);
		if (!density.ok) return density;
		const more = readEntry(rest.join(";"), () => undefined);
		const values: NumberValue[] = [density.value];
		const left = [...more.left.map((l) => l.text), ...more.asks.map((a) => a.text)];
		for (const t of more.taken) {
			const made = makeValue(t.property, t.text, t.mark === undefined ? {} : { decimalMark: t.mark }, {
				...(t.qualifier === undefined ? {} : { qualifier: t.qualifier }),
				...(t.condition === undefined ? {} : { condition: t.condition }),
			});
			if (made.ok && !values.some((v) => v.id === t.property)) values.push(made.value);
			else left.push(t.text);
		}
		return ok({ name: name.value, values, left });
	}
	return words.join("") === ""
		? fail({ code: "name-missing", path: "name" })
		: fail({ code: "density-missing", actual: first.trim().slice(0, 80) });
}
