import { expect } from "@playwright/test";
import { sheetOf, usedByEverybody } from "./everybody";

usedByEverybody([
	{ name: "materials with strips", path: async () => "/materials?strips=density,youngs_modulus&where=density:2500..9000" },
	{
		name: "cells of the grid",
		path: async () => "/materials?edit=1&library=orrisay",
		prepare: async (p) => {
			await p.getByRole("rowgroup", { name: /^Cells/ }).focus();
			await p.keyboard.type("soft");
			await p.keyboard.press("Enter");
			await expect(p.getByRole("alert")).toBeVisible();
		},
	},
	{ name: "a new material", path: async () => "/materials?create=blank" },
	{
		name: "the finder",
		path: async () => "/parts",
		prepare: async (p) => {
			await p.getByRole("combobox", { name: /^Find/ }).fill("bronze");
			await expect(p.locator("#found-0")).toContainText(/bronze/i);
		},
	},
	{
		name: "marked materials",
		path: async () => "/materials?library=orrisay",
		prepare: async (p) => {
			await p.getByRole("rowgroup", { name: /^Rows/ }).focus();
			await p.keyboard.press(" ");
			await expect(p.getByRole("toolbar", { name: "Marked materials" })).toBeVisible();
		},
	},
	{
		name: "merging two materials",
		path: async (p) => {
			const [keep, drop] = [await sheetOf(p, "Gudgeon bronze 5"), await sheetOf(p, "Gudgeon bronze 3")];
			return `/libraries/merge?keep=${keep.slice(11)}&drop=${drop.slice(11)}`;
		},
	},
	{ name: "a library", path: async () => "/libraries/orrisay" },
	{ name: "editions compared", path: async () => "/libraries/orrisay/editions?from=1&to=2" },
	{ name: "history", path: async () => "/history/library/orrisay" },
	{
		name: "notices",
		path: async () => "/materials",
		prepare: (p) => p.getByRole("button", { name: /^Notices/ }).click(),
	},
]);
