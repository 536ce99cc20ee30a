/** A key as it is written on the keyboard, and what it does. */
export type KeyLine = readonly [key: string, does: string];

/** Every key that does something, by where it does. */
export const KEYS: readonly { readonly where: string; readonly keys: readonly KeyLine[] }[] = [
	{
		where: "everywhere",
		keys: [
			["Ctrl K", "find a material, part, project or action"],
			["Ctrl Z", "take back the last step, also after a reload; in a field what was typed"],
			["Alt held", "show every value in all its units and as it was typed"],
			["Tab, then Enter", "at the top: skip to the content, past bar and filters"],
			["Escape", "close what is open"],
			["?", "help for this place, marks and keys"],
		],
	},
	{
		where: "rows of materials",
		keys: [
			["↑ ↓ Page Home End", "walk"],
			["Enter", "open the sheet"],
			["Space", "mark or unmark the row"],
			["Shift ↑ ↓", "mark on the way"],
			["Ctrl A", "mark all that pass"],
			["Escape", "unmark all"],
			["T, S, W", "to the tray; star; working list"],
			["Alt ↑ ↓", "in the order of my stars: move the row"],
		],
	},
	{
		where: "cells",
		keys: [
			["arrows, Home, End", "walk; with Shift a block"],
			["Ctrl click", "one more block"],
			["typing", "overwrites; Enter edits what is there"],
			["Enter, Tab", "take it and go below, or to the right"],
			["Ctrl Enter", "put what is typed into all chosen cells"],
			["Alt ↓", "fill the block with its first row"],
			["Ctrl C, Ctrl V", "copy the block, paste one"],
			["Delete", "clear the block"],
			["Escape", "drop what is typed; leave the cells"],
		],
	},
	{
		where: "a sheet",
		keys: [
			["Enter", "take the value and go to the next one that the use needs"],
			["Escape", "leave the value as it was"],
			["C", "beside the base: confirm a value carried over"],
			["Ctrl Enter", "readings: take them"],
			["Ctrl Delete", "curve table: take the point out"],
		],
	},
	{
		where: "parts",
		keys: [
			["↑ ↓", "walk; in the tree ← → fold and unfold"],
			["Enter or a letter", "choose a material for the chosen parts"],
			["Ctrl A", "choose all"],
			["Delete", "take the material away"],
			["arrows, + −, F", "in the view: turn, zoom, fit"],
		],
	},
	{ where: "groups of a library", keys: [["Alt ← →", "move the group out, or under the one above"]] },
];
