import { expect } from "@playwright/test";
import { sheetOf, signOutOf, usedByEverybody } from "./everybody";
import { options } from "./helpers";

usedByEverybody([
	{
		name: "for the solver",
		path: async (p) => `/solver?ids=${(await sheetOf(p, "bush bronze")).slice(11)}&use=plasticity`,
		prepare: (p) => expect(p.getByText("true stress over plastic strain").first()).toBeVisible(),
	},
	{
		name: "a comparison",
		path: async (p) => {
			const ids = [await sheetOf(p, "bush bronze"), await sheetOf(p, "CF 230 ply"), await sheetOf(p, "ORS-AL 21 T6")];
			return `/compare?ids=${ids.map((i) => i.slice(11)).join(",")}`;
		},
		prepare: (p) => expect(p.getByRole("img", { name: /curve of/ })).toBeVisible(),
	},
	{ name: "on paper", path: async (p) => `/paper?ids=${(await sheetOf(p, "bush bronze")).slice(11)}` },
	{
		name: "what a project follows",
		path: async () => "/parts/winch",
		prepare: (p) => p.getByRole("button", { name: /^What the project follows/ }).click(),
	},
	{ name: "signing in", path: async () => "/materials", prepare: (p) => signOutOf(p) },
	{ name: "people and teams", path: async () => "/people" },
	{ name: "one's account", path: async () => "/account" },
	{ name: "projects", path: async () => "/parts" },
	{
		name: "parts with the chooser",
		path: async () => "/parts/winch",
		prepare: async (p) => {
			await p.getByRole("row").filter({ hasText: "Bearing bush" }).click();
			await p.keyboard.press("Enter");
			await expect(options(p).first()).toBeVisible();
		},
	},
	{
		name: "currency and rates",
		path: async () => "/parts/winch",
		prepare: (p) => p.getByRole("button", { name: "rates" }).click(),
	},
]);
