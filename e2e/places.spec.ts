import { networkInterfaces } from "node:os";
import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { options, serveDemo, watchErrors } from "./helpers";

async function sheetOf(page: Page, text: string): Promise<string> {
	const { value } = (await (await page.request.get(`/api/v1/materials?text=${encodeURIComponent(text)}`)).json()) as {
		value: { rows: { id: string }[] };
	};
	return `/materials/${value.rows[0]?.id}`;
}

/** As somebody who has not signed in: the session of the other tests goes on. */
async function signOutOf(page: Page): Promise<void> {
	await page.context().clearCookies();
	await page.reload();
	await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
}

/** Everything that was asked for is drawn. The stream of live news stays open, so the network never falls idle. */
async function arrived(page: Page): Promise<void> {
	await expect(page.locator('[role="status"][aria-label$="on the way"]')).toHaveCount(0);
	await page.waitForTimeout(400);
}

type Place = {
	readonly name: string;
	readonly path: (page: Page) => Promise<string>;
	readonly prepare?: (page: Page) => Promise<unknown>;
};

const PLACES: readonly Place[] = [
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
	{ name: "a library", path: async () => "/libraries/orrisay" },
	{ name: "editions compared", path: async () => "/libraries/orrisay/editions?from=1&to=2" },
	{
		name: "what a project follows",
		path: async () => "/parts/winch",
		prepare: (p) => p.getByRole("button", { name: /^What the project follows/ }).click(),
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
	{ name: "history", path: async () => "/history/library/orrisay" },
	{
		name: "notices",
		path: async () => "/materials",
		prepare: (p) => p.getByRole("button", { name: /^Notices/ }).click(),
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
];

for (const theme of ["day", "night"] as const) {
	for (const place of PLACES) {
		test(`${place.name} can be used by everybody, ${theme}`, async ({ page }) => {
			const errors = watchErrors(page);
			await page.addInitScript(
				([t]) =>
					localStorage.setItem(
						"alvek.preferences",
						JSON.stringify({
							state: {
								theme: t,
								unitSet: "engineering",
								wantedUse: "strength",
								target: null,
								filtersOpen: true,
								briefOpen: true,
							},
							version: 1,
						}),
					),
				[theme],
			);
			const path = await place.path(page);
			await page.goto(path);
			// the place itself, not the empty frame before it
			await expect(page.locator("main *").first()).toBeVisible();
			await arrived(page);
			await place.prepare?.(page);
			expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe(theme);
			const axe = new AxeBuilder({ page });
			// the night differs by its colours only
			const { violations } = await (theme === "night" ? axe.withRules(["color-contrast"]) : axe).analyze();
			const grave = violations.filter((v) => v.impact === "serious" || v.impact === "critical");
			expect(grave.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`)).toEqual([]);
			// nothing scrolls sideways at 1280 x 800
			expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
			expect(errors).toEqual([]);
		});
	}
}

test("works from another computer by address, without a secure context", async ({ browser }) => {
	const address = Object.values(networkInterfaces())
		.flat()
		.find((i) => i !== undefined && i.family === "IPv4" && !i.internal)?.address;
	test.skip(address === undefined, "this machine has no address but loopback");
	const server = await serveDemo({ HOST: "0.0.0.0" });
	try {
		const page = await browser.newPage();
		const errors = watchErrors(page);
		await page.goto(`http://${address}:${server.port}/materials`);
		expect(await page.evaluate(() => isSecureContext)).toBe(false);
		await page.getByRole("button", { name: /^Maren Vosk/ }).click();
		await page.getByRole("button", { name: "New material" }).click();
		await page.getByLabel("Name", { exact: true }).fill("By address");
		await page.getByRole("button", { name: "Begin the sheet" }).click();
		await expect(page.getByRole("heading", { name: "By address", level: 1 })).toBeVisible();
		await page.goto(`http://${address}:${server.port}/parts/winch`);
		await expect(page.locator("[data-ready=true]")).toBeVisible();
		await page.getByRole("button", { name: "Copy the mass table" }).click();
		await expect(page.getByText("The mass table is in the clipboard")).toBeVisible();
		expect(errors).toEqual([]);
		await page.close();
	} finally {
		await server.stop();
	}
});
