import { expect, test } from "@playwright/test";
import { beginMaterial, chooser, importFile, newProject, options, publish, typeValue, unique, watchErrors } from "./helpers";

test("a library of one's own: new materials go there, nothing asks for a lock, a first draft is thrown away", async ({
	page,
}) => {
	const errors = watchErrors(page);
	const library = unique("Bench notes");
	await page.goto("/libraries");
	await page.getByRole("button", { name: "New", exact: true }).click();
	// the dialog begins in its first field, not on the button that closes it
	await expect(page.getByRole("radio").first()).toBeFocused();
	await page.getByLabel("Name", { exact: true }).fill(library);
	await page.getByRole("button", { name: "Make the library", exact: true }).click();
	await expect(page.getByRole("heading", { level: 1, name: library })).toBeVisible();
	await expect(page.getByRole("region", { name: "Lock" })).toHaveCount(0);

	await page.goto("/materials");
	await page.getByLabel("Library for new materials").selectOption({ label: library });
	await expect(page.getByRole("button", { name: "New material" })).toContainText(`in ${library.slice(0, 10)}`);
	const kept = unique("Own steel");
	await beginMaterial(page, kept);
	await typeValue(page, "Density", "7.85 g/cm3");
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByLabel("Note", { exact: true }).fill("typed from the bench");
	await page.getByRole("button", { name: "Publish revision 1" }).click();
	await expect(page.getByText(/^Revision 1 of .* is out/).last()).toBeVisible();

	const vain = unique("Begun in vain");
	await beginMaterial(page, vain);
	await typeValue(page, "Density", "1.2 g/cm3");
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByRole("button", { name: "Throw the draft away" }).click();
	await expect(page.getByText(`${vain} is thrown away; it was never published.`)).toBeVisible();
	await page.getByRole("button", { name: "Undo", exact: true }).last().click();
	await page.goto(`/materials?text=${encodeURIComponent(vain)}`);
	await expect(page.getByRole("row").filter({ hasText: vain })).toBeVisible();

	// in one click, in the list of filters and in the list of libraries
	await page.goto("/materials");
	await page.getByRole("button", { name: "kept by me" }).click();
	await expect(page.getByRole("group", { name: "Filters in words" })).toContainText(library);
	await page.goto("/libraries");
	await page.getByRole("button", { name: "opened to me by others" }).click();
	await expect(page.getByRole("region", { name: "Libraries" })).not.toContainText(library);
	expect(page.url()).toContain("keeper=others");
	expect(errors).toEqual([]);
});

test("the keyboard: past the filters at once, mark all, publish what is drafted; every key is listed; Back takes a filter back", async ({
	page,
}) => {
	const errors = watchErrors(page);
	const names = [unique("Marked one"), unique("Marked two")];
	const tail = unique("").trim();
	for (const name of names) {
		await beginMaterial(page, `${name} ${tail}`);
		await typeValue(page, "Density", "3.3 g/cm3");
	}
	await page.goto(`/materials?text=${tail}`);
	await expect(page.getByRole("row").filter({ hasText: tail })).toHaveCount(2);
	await page.keyboard.press("Tab");
	await expect(page.getByRole("button", { name: "Skip to the content" })).toBeFocused();
	await page.keyboard.press("Enter");
	await expect(page.getByLabel(/^Rows: arrows walk/)).toBeFocused();
	await page.keyboard.press("Control+a");
	const bar = page.getByRole("toolbar", { name: "Marked materials" });
	await expect(bar).toContainText("2 materials marked");
	await expect(bar.getByRole("link", { name: "Publish …" })).toBeVisible();
	// Space, after a click on a row
	await page.getByRole("row").filter({ hasText: names[0] }).click();
	await page.keyboard.press("Space");
	await expect(bar).toContainText("1 material marked");
	await page.keyboard.press("Space");
	await bar.getByRole("link", { name: "Publish …" }).click();
	await expect(page.getByRole("heading", { level: 1, name: "2 materials" })).toBeVisible();
	await page.goBack();

	await page.getByLabel(/^Rows: arrows walk/).focus();
	await page.keyboard.press("?");
	await expect(page.getByRole("dialog", { name: /^What the marks mean/ })).toContainText("mark all that pass");
	// with what one does in this place, and something to try
	await expect(page.getByRole("dialog", { name: /^What the marks mean/ })).toContainText(">= 200 MPa");
	await page.keyboard.press("Escape");
	await expect(page.getByLabel(/^Rows: arrows walk/)).toBeFocused();

	await page.goto("/materials");
	await page.getByRole("checkbox", { name: /^linear static/ }).check();
	await page.getByRole("checkbox", { name: /^modal/ }).check();
	// what was ticked shows at once; Back is for the address, which follows a moment later
	await expect(page).toHaveURL(/ready=linear_static%2Cmodal|ready=linear_static,modal/);
	await page.goBack();
	await expect(page.getByRole("checkbox", { name: /^modal/ })).not.toBeChecked();
	await expect(page.getByRole("checkbox", { name: /^linear static/ })).toBeChecked();
	await page.goBack();
	await expect(page.getByRole("group", { name: "Filters in words" })).toHaveCount(0);
	expect(errors).toEqual([]);
});

test("news covers nothing and goes by itself, unless somebody is at it", async ({ page }) => {
	await page.goto("/materials");
	const row = page.getByRole("row").filter({ hasText: "Dunmar grey iron 2" });
	await row.click();
	await page.keyboard.press("w");
	const news = page.getByRole("status").filter({ hasText: "working list" });
	await expect(news).toBeVisible();
	const box = await news.boundingBox();
	// in a strip of its own: what is at its middle is the news, and the grid ends above it
	const grid = await page.getByRole("grid").boundingBox();
	expect((grid?.y ?? 0) + (grid?.height ?? 0)).toBeLessThanOrEqual((box?.y ?? 0) + 1);
	await news.hover();
	await page.waitForTimeout(6_000);
	await expect(news).toBeVisible();
	await page.getByRole("button", { name: "Undo", exact: true }).click();
	await expect(news.filter({ hasNotText: "Undone" })).toHaveCount(0);
});

test.describe("on a phone", () => {
	test.use({ viewport: { width: 390, height: 800 } });

	test("a material is made, a file brought in and a part weighed; nothing is cut off", async ({ page }) => {
		const errors = watchErrors(page);
		const fits = async () =>
			expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
		const name = unique("Pocket alloy");
		await beginMaterial(page, name);
		await typeValue(page, "Density", "2.70 g/cm3");
		await fits();
		await publish(page, "from the shop floor");
		await newProject(page, unique("Pocket job"));
		await importFile(page, "mount.step");
		await fits();
		const row = page.getByRole("grid", { name: "Parts" }).getByRole("row").nth(1);
		await row.click();
		await page.getByRole("button", { name: "Give material" }).click();
		await chooser(page).fill(name);
		await expect(options(page).first()).toContainText(name);
		// the whole list hangs inside the screen
		const list = await page.getByRole("listbox", { name: "Materials" }).boundingBox();
		expect(list?.x ?? -1).toBeGreaterThanOrEqual(0);
		expect((list?.x ?? 0) + (list?.width ?? 999)).toBeLessThanOrEqual(390);
		await page.keyboard.press("Enter");
		await expect(row).toContainText(name);
		await expect(page.getByTestId("total-mass")).not.toContainText("no mass");
		await page.getByRole("button", { name: "Figures" }).click();
		await expect(page.getByRole("complementary", { name: "Figures" })).toContainText("Volume");
		await page.getByRole("button", { name: "3D view" }).click();
		await expect(page.getByRole("application")).toBeVisible();
		await fits();
		// filters have the whole width, and the way back in them
		await page.goto("/materials");
		await page.getByRole("button", { name: "Filters" }).click();
		await page.getByLabel("Orrisay Works").check();
		await page.getByRole("button", { name: /^Show \d+ materials?$/ }).click();
		await expect(page.getByRole("grid", { name: "Materials" })).toBeVisible();
		await fits();
		expect(errors).toEqual([]);
	});
});
