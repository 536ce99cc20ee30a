import { describe, expect, it } from "vitest";
import { ownKeyOf, whyNot } from "./ownKeys";

const press = (code: string, held: Partial<Record<"ctrlKey" | "metaKey" | "altKey" | "shiftKey", boolean>> = {}) => ({
	key: "",
	code,
	ctrlKey: false,
	metaKey: false,
	altKey: false,
	shiftKey: false,
	...held,
});

describe("a key of one's own", () => {
	it.each([
		[press("KeyN", { altKey: true }), { keys: "Alt+KeyN", shown: "Alt N" }],
		[press("Digit1", { ctrlKey: true, shiftKey: true }), { keys: "$mod+Shift+Digit1", shown: "Ctrl Shift 1" }],
		[press("KeyG", { metaKey: true }), { keys: "$mod+KeyG", shown: "Ctrl G" }],
		[press("F8"), { keys: "F8", shown: "F8" }],
		[press("AltLeft", { altKey: true }), null],
		[press("Enter", { altKey: true }), null],
		[press("F13"), null],
	])("%o", (pressed, key) => expect(ownKeyOf(pressed)).toEqual(key));

	it("is none that types, that belongs to the browser or to everything, or that another action has", () => {
		const others = new Map([["Alt+KeyN", "New material"]]);
		const why = (...p: Parameters<typeof press>): string | null => {
			const key = ownKeyOf(press(...p));
			return key === null ? "none" : whyNot(key, others);
		};
		expect(why("KeyN")).toContain("typing");
		expect(why("KeyN", { shiftKey: true })).toContain("typing");
		expect(why("KeyT", { ctrlKey: true })).toContain("the browser");
		expect(why("Digit3", { ctrlKey: true })).toContain("the browser");
		expect(why("F5")).toContain("the browser");
		expect(why("KeyK", { ctrlKey: true })).toContain("the finder");
		expect(why("KeyN", { altKey: true })).toBe("Alt N is “New material” already. Take it away there first.");
		expect([why("KeyM", { altKey: true }), why("F8"), why("KeyG", { ctrlKey: true, shiftKey: true })]).toEqual([
			null,
			null,
			null,
		]);
	});
});
