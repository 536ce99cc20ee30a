// @vitest-environment happy-dom

import { act, renderHook } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { hasOpenText, keptFieldOf, useKeptText } from "./text";

afterEach(() => sessionStorage.clear());

function field(name: string | null, initial = "") {
	const { result, unmount } = renderHook(() => useKeptText(name, initial));
	return {
		text: () => result.current[0],
		type: (text: string) => act(() => result.current[1](text)),
		done: () => act(() => result.current[2]()),
		/** The place is left, or the page is loaded anew. */
		gone: unmount,
	};
}

describe("text of an open field", () => {
	it("is there again when the field is", () => {
		const before = field("maren.m1.density", "2.7");
		before.type("2.71");
		expect([before.text(), hasOpenText()]).toEqual(["2.71", true]);
		before.gone();
		expect(hasOpenText()).toBe(false);
		const after = field("maren.m1.density", "2.7");
		expect(after.text()).toBe("2.71");
		after.gone();
	});

	it("is kept no more once it was entered, given up, or is what it was", () => {
		const one = field("maren.m1.density", "2.7");
		one.type("2.71");
		one.done();
		expect([sessionStorage.length, hasOpenText()]).toEqual([0, false]);
		one.type("2.72");
		one.type("2.7");
		expect([sessionStorage.length, hasOpenText()]).toEqual([0, false]);
		one.gone();
	});

	it("belongs to its person and its field", () => {
		const one = field("maren.m1.density");
		one.type("9");
		const other = field("okke.m1.density");
		expect([other.text(), keptFieldOf("maren.m1."), keptFieldOf("okke.m1."), keptFieldOf("maren.m2.")]).toEqual([
			"",
			"density",
			null,
			null,
		]);
		one.gone();
		other.gone();
	});

	it("without a name is kept nowhere", () => {
		const one = field(null);
		one.type("9");
		one.done();
		expect([one.text(), sessionStorage.length, hasOpenText()]).toEqual(["9", 0, false]);
		one.gone();
	});
});
