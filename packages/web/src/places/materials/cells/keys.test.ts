import { describe, expect, it } from "vitest";
import { type CellKey, typingCommand, walkingCommand } from "./keys";

const pressed = (key: string, more: Partial<CellKey> = {}): CellKey => ({
	key,
	ctrlKey: false,
	metaKey: false,
	altKey: false,
	shiftKey: false,
	...more,
});
const walk = (key: string, more: Partial<CellKey> = {}) => walkingCommand(pressed(key, more), 20);

describe("keys in cells", () => {
	it.each([
		["ArrowDown", { do: "rows", by: 1, extend: false }],
		["ArrowUp", { do: "rows", by: -1, extend: false }],
		["PageDown", { do: "rows", by: 20, extend: false }],
		["PageUp", { do: "rows", by: -20, extend: false }],
		["ArrowRight", { do: "columns", by: 1, extend: false }],
		["ArrowLeft", { do: "columns", by: -1, extend: false }],
		["Home", { do: "edge", end: "first", extend: false }],
		["End", { do: "edge", end: "last", extend: false }],
		["Enter", { do: "begin", text: null }],
		["7", { do: "begin", text: "7" }],
		["Delete", { do: "clear" }],
		["Backspace", { do: "clear" }],
		["Escape", { do: "leave" }],
	] as const)("%s", (key, command) => expect(walk(key)).toEqual(command));

	it("Shift extends every walk; Alt and down fills", () => {
		for (const key of ["ArrowDown", "PageUp", "ArrowLeft", "End"])
			expect(walk(key, { shiftKey: true })).toMatchObject({ extend: true });
		expect(walk("ArrowDown", { altKey: true })).toEqual({ do: "fill" });
	});

	it("leaves shortcuts and keys that mean nothing here to others", () => {
		for (const more of [{ ctrlKey: true }, { metaKey: true }, { altKey: true }]) expect(walk("c", more)).toBeNull();
		for (const key of ["F5", "Shift", "Dead"]) expect(walk(key)).toBeNull();
	});

	it("while something is typed only Enter, Tab and Escape are not the field's", () => {
		expect(typingCommand(pressed("Enter"))).toEqual({ do: "take", next: "below" });
		expect(typingCommand(pressed("Tab"))).toEqual({ do: "take", next: "right" });
		expect(typingCommand(pressed("Tab", { shiftKey: true }))).toEqual({ do: "take", next: "left" });
		expect(typingCommand(pressed("Escape"))).toEqual({ do: "drop" });
		for (const key of ["a", "ArrowLeft", "Delete", "Home"]) expect(typingCommand(pressed(key))).toBeNull();
	});
});
