import { expect } from "@playwright/test";
import { sheetOf, usedByEverybody } from "./everybody";

usedByEverybody([
	{
		name: "a sheet",
		path: (p) => sheetOf(p, "plate > 40"),
		prepare: (p) => p.getByRole("button", { name: /Evidence, source and more of Density/ }).click(),
	},
	{
		name: "publishing",
		path: (p) => sheetOf(p, "Havrin 34"),
		prepare: (p) => p.getByRole("button", { name: "Publish draft…" }).click(),
	},
	{ name: "a supplied sheet", path: (p) => sheetOf(p, "soda glass") },
	{
		name: "look and attachments",
		path: (p) => sheetOf(p, "Gudgeon bronze 5"),
		prepare: async (p) => {
			await expect(async () => {
				await p.getByRole("region", { name: "Look" }).evaluate((e) => e.scrollIntoView());
				await expect(p.locator("#section-look canvas")).toBeVisible({ timeout: 4000 });
			}).toPass();
		},
	},
	{
		name: "a page to read",
		path: async (p) => `${await sheetOf(p, "bush bronze")}/page`,
		prepare: async (p) => {
			await p
				.getByLabel("Text of the page")
				.fill("Typical values\nDensity 8.8 g/cm³\nProof stress min. 125 MPa\nElongation 12 %\nColour: red");
			await p.getByRole("button", { name: "Read it" }).click();
		},
	},
	{
		name: "a curve",
		path: async (p) => `${await sheetOf(p, "bush bronze")}/curve/stress_strain`,
		prepare: (p) => expect(p.getByRole("img", { name: /stress over strain/ })).toBeVisible(),
	},
	{
		name: "values beside the base",
		path: async (p) => `${await sheetOf(p, "5, cautious")}/values`,
		prepare: (p) => p.getByLabel("Tick all shown").check(),
	},
	{
		name: "a directional set",
		path: (p) => sheetOf(p, "CF 230 ply"),
		prepare: (p) => p.getByRole("button", { name: /^orthotropic, 9/ }).click(),
	},
]);
