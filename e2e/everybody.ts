import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { watchErrors } from "./helpers";

/** The address of the first material that a text finds. */
export async function sheetOf(page: Page, text: string): Promise<string> {
	const { value } = (await (await page.request.get(`/api/v1/materials?text=${encodeURIComponent(text)}`)).json()) as {
		value: { rows: { id: string }[] };
	};
	return `/materials/${value.rows[0]?.id}`;
}

/** As somebody who has not signed in: the session of the other tests goes on. */
export async function signOutOf(page: Page): Promise<void> {
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

const PREFERENCES = {
	theme: "day",
	unitSet: "engineering",
	wantedUse: "strength",
	target: null,
	filtersOpen: true,
	briefOpen: true,
};

/** @param rules all when not given */
async function grave(page: Page, rules?: readonly string[]): Promise<string[]> {
	// naming every element that is right takes longer than looking at it; there are no frames to gather from
	const axe = new AxeBuilder({ page }).options({ resultTypes: ["violations"] }).setLegacyMode();
	const { violations } = await (rules === undefined ? axe : axe.withRules([...rules])).analyze();
	return violations
		.filter((v) => v.impact === "serious" || v.impact === "critical")
		.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`);
}

/** Each place, by day and by night: nothing serious for those who see or move otherwise, no scrolling sideways, no error. */
export function usedByEverybody(places: readonly Place[]): void {
	for (const place of places)
		test(`${place.name} can be used by everybody`, async ({ page }) => {
			const errors = watchErrors(page);
			await page.addInitScript(
				(state) => localStorage.setItem("alvek.preferences", JSON.stringify({ state, version: 1 })),
				PREFERENCES,
			);
			await page.goto(await place.path(page));
			// the place itself, not the empty frame before it
			await expect(page.locator("main *").first()).toBeVisible();
			await arrived(page);
			await place.prepare?.(page);
			await arrived(page);
			await expect(page.locator("html")).toHaveAttribute("data-theme", "day");
			expect(await grave(page)).toEqual([]);
			expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
			// the night differs by its colours only; half way from day to night they are neither
			await page.addStyleTag({ content: "*, ::before, ::after { transition: none !important }" });
			await page.evaluate(() => document.documentElement.setAttribute("data-theme", "night"));
			expect(await grave(page, ["color-contrast"])).toEqual([]);
			expect(errors).toEqual([]);
		});
}
