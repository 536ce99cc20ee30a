import { describe, expect, it } from "vitest";

import { helpAt } from "./help.data";

describe("help of a place", () => {
	it("is that of the closest address", () => {
		const name = (path: string) => helpAt(path)?.name;
		expect([name("/materials"), name("/materials/abc"), name("/materials/abc/curve/x")]).toEqual([
			"Materials",
			"A sheet",
			"A sheet",
		]);
		expect([name("/parts"), name("/parts/winch"), name("/libraries/orrisay/editions")]).toEqual([
			"Projects",
			"Parts",
			"Libraries",
		]);
		expect([name("/libraries/publish"), name("/nowhere"), name("/partsbin")]).toEqual(["Publishing", undefined, undefined]);
	});

	it("says what one does and something to try, wherever the bar and the actions lead", () => {
		for (const path of ["/materials", "/parts", "/libraries", "/compare", "/paper", "/solver", "/people", "/account"]) {
			const help = helpAt(path);
			expect([help?.says.length ?? 0, help?.sample.every((text) => text.length > 2)], path).toEqual([expect.any(Number), true]);
			expect(help?.says.length, path).toBeGreaterThan(80);
		}
	});
});
