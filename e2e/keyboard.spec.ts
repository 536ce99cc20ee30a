import { expect, test } from "@playwright/test";
import { chooser, fixture, options, unique, watchErrors } from "./helpers";

test("an action has a key of one's own, which is found again after a reload; what belongs to others is refused", async ({
	page,
}) => {
	await page.goto("/account");
	const line = page.getByRole("button", { name: /^Key for New material/ });
	await line.focus();
	await page.keyboard.press("Control+Shift+N");
	await expect(page.getByRole("alert").filter({ hasText: "belongs to the browser" })).toBeVisible();
	await page.keyboard.press("Alt+M");
	await expect(line).toHaveAccessibleName("Key for New material: Alt M");
	await page.goto("/libraries");
	await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
	await page.keyboard.press("?");
	await expect(page.getByRole("dialog", { name: /all keys/ })).toContainText("Alt M");
	await page.keyboard.press("Escape");
	await page.keyboard.press("Alt+M");
	await expect(page.getByRole("button", { name: "Begin the sheet" })).toBeVisible();
	await page.goto("/account");
	await line.focus();
	await page.keyboard.press("Delete");
	await expect(line).toHaveAccessibleName("Key for New material: none");
});

test("a whole day by the keyboard alone: a material from typing to a part that weighs something", async ({ page }) => {
	const errors = watchErrors(page);
	const name = unique("Keyed alloy");
	/** Tab until the focus stands there; a stumble is a place that so many steps do not reach. */
	const tabTo = async (wanted: RegExp, most = 45, key = "Tab"): Promise<void> => {
		for (let i = 0; i < most; i++) {
			const said = await page.evaluate(() => {
				const e = document.activeElement as HTMLElement | null;
				const labels = (e as HTMLInputElement | null)?.labels;
				return `${e?.getAttribute("aria-label") ?? ""} ${labels?.[0]?.textContent ?? ""} ${e?.textContent?.slice(0, 80) ?? ""}`;
			});
			if (wanted.test(said)) return;
			await page.keyboard.press(key);
		}
		throw new Error(`${wanted} is not reached by ${most} steps`);
	};
	await page.goto("/materials");
	await expect(page.getByRole("grid", { name: "Materials" })).toBeVisible();
	await page.keyboard.press("Control+k");
	await page.keyboard.type("new material");
	await page.keyboard.press("Enter");
	await expect(page.getByLabel("Name", { exact: true })).toBeFocused();
	await page.keyboard.type(name);
	await page.keyboard.press("Enter");
	await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
	// several values in one line, then one more on its own line
	await tabTo(/Several at once/);
	await page.keyboard.type("rho 2.70 g/cm3; E 70 GPa");
	await page.keyboard.press("Enter");
	await expect(page.locator("#line-density")).toContainText("2.70");
	await tabTo(/Poisson’s ratio: blank, type a value/, 90);
	await page.keyboard.press("Enter");
	await page.keyboard.type("0.33");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await expect(page.locator("#line-poissons_ratio")).toContainText("0.33");
	await tabTo(/Publish draft…/, 120, "Shift+Tab");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("button", { name: "Publish revision 1" })).toBeVisible();
	await tabTo(/^ ?Note/);
	await page.keyboard.type("typed without a mouse");
	await tabTo(/Publish revision 1/);
	await page.keyboard.press("Enter");
	await expect(page.getByText(/^Revision 1 of .* is out\./).last()).toBeVisible();

	await page.keyboard.press("Control+k");
	await page.keyboard.type("go to the projects");
	await page.keyboard.press("Enter");
	await expect(page.getByLabel("Name of the new project")).toBeVisible();
	await tabTo(/Name of the new project/);
	await page.keyboard.type(unique("Keyed job"));
	await page.keyboard.press("Enter");
	await expect(page.getByText("No parts yet.")).toBeVisible();
	const chosen = page.waitForEvent("filechooser");
	await tabTo(/Add geometry/);
	await page.keyboard.press("Enter");
	await (await chosen).setFiles(fixture("mount.step"));
	await expect(page.getByText("mount.step is in.")).toBeVisible({ timeout: 30_000 });
	await tabTo(/^Rows: arrows walk/, 60);
	await page.keyboard.press("ArrowDown");
	await page.keyboard.press("Enter");
	await expect(chooser(page)).toBeFocused();
	await page.keyboard.type(name);
	await expect(options(page).first()).toContainText(name);
	await page.keyboard.press("Enter");
	const mass = page.getByTestId("total-mass");
	await expect(mass).not.toContainText("no mass");
	const weighed = (await mass.textContent()) ?? "";
	// taken back by a key
	await page.keyboard.press("Control+z");
	await expect(mass).not.toHaveText(weighed);
	expect(errors).toEqual([]);
});
