import { parametersOf, refOf, refsOf } from "./parameters";
import type { Part21 } from "./scan";

const PREDEFINED: Readonly<Record<string, string>> = {
	red: "#ff0000",
	green: "#00ff00",
	blue: "#0000ff",
	yellow: "#ffff00",
	magenta: "#ff00ff",
	cyan: "#00ffff",
	black: "#000000",
	white: "#ffffff",
};

/** Styled item (a solid or a face, by entity number) -> `#rrggbb`. */
export function colours(file: Part21, styledItems: readonly number[]): ReadonlyMap<number, string> {
	const found = new Map<number, string>();
	for (const index of styledItems) {
		const [, styles, item] = parametersOf(file, index);
		for (const style of refsOf(styles)) {
			const colour = colourBelow(file, style);
			if (colour !== null) found.set(refOf(item), colour);
		}
	}
	return found;
}

/** The first colour in the style's tree; surface styles come before curve styles in practice. */
function colourBelow(file: Part21, entity: number): string | null {
	const queue = [entity];
	for (let step = 0; step < queue.length && step < 60; step++) {
		const index = file.byNumber.get(queue[step] as number);
		if (index === undefined) continue;
		const type = file.types[index];
		if (type === "COLOUR_RGB") return hex(parametersOf(file, index).flatMap((p) => (p.kind === "number" ? [p.value] : [])));
		if (type === "DRAUGHTING_PRE_DEFINED_COLOUR") {
			const [name] = parametersOf(file, index);
			const key = name?.kind === "text" ? name.value : "";
			return Object.hasOwn(PREDEFINED, key) ? (PREDEFINED[key] as string) : null;
		}
		for (let r = file.refStarts[index] as number; r < (file.refStarts[index + 1] as number); r++)
			queue.push(file.refs[r] as number);
	}
	return null;
}

function hex(channels: readonly number[]): string {
	const two = (x: number): string =>
		Math.round(Math.min(Math.max(x, 0), 1) * 255)
			.toString(16)
			.padStart(2, "0");
	return `#${two(channels[0] ?? 0)}${two(channels[1] ?? 0)}${two(channels[2] ?? 0)}`;
}
