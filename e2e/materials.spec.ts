import { expect, test } from "@playwright/test";
import { settled, unique, watchErrors } from "./helpers";

const rows = (page: import("@playwright/test").Page) =>
	page
		.getByRole("grid", { name: "Materials" })
		.getByRole("row")
		.filter({ has: page.locator("a") });

test("text, library, readiness and group narrow the list with live counts, all in the address", async ({ page }) => {
	const errors = watchErrors(page);
	await page.goto("/materials");
	await page.getByRole("searchbox").fill("bush bronze");
	await expect(rows(page)).toHaveCount(1);
	await expect(page).toHaveURL(/text=bush\+bronze/);
	await page.getByRole("searchbox").fill("");
	await page.getByLabel("Tolvane, supplied").check();
	await page.getByRole("checkbox", { name: /^thermal\s*\d/ }).check();
	await expect(page).toHaveURL(/library=tolvane/);
	// the rows have followed the address
	await expect(page.getByRole("group", { name: "Filters in words" })).toContainText("thermal");
	await expect(rows(page).first()).toBeVisible();
	await expect(rows(page).filter({ hasNotText: "supplied" })).toHaveCount(0);
	const shown = await settled(page, () => rows(page).count());
	await page.reload();
	await expect(rows(page)).toHaveCount(shown);
	// a slip is forgiven, and said
	await page.getByRole("button", { name: "Clear", exact: true }).click();
	await page.getByRole("searchbox").fill("gugdeon");
	await expect(rows(page).first()).toContainText("Gudgeon");
	await expect(page.getByRole("group", { name: "Filters in words" })).toContainText("near names are shown");
	await page.getByRole("searchbox").fill("nothing has this name");
	await expect(page.getByText("No material passes these filters.")).toBeVisible();
	await page.getByRole("button", { name: "Clear all filters" }).click();
	await expect(rows(page).first()).toBeVisible();
	expect(errors).toEqual([]);
});

test("columns are chosen, sorted with blanks last, and shown in any unit set", async ({ page }) => {
	await page.goto("/materials?library=orrisay&columns=density,melting_temperature&sort=density&dir=desc");
	await expect(rows(page).first()).toContainText("Gudgeon bronze 5");
	await page.getByRole("button", { name: "Columns" }).click();
	await page.getByRole("dialog", { name: "Columns" }).getByLabel("Hardness").check();
	await page.keyboard.press("Escape");
	await expect(page.getByRole("columnheader", { name: "Hardness" })).toBeVisible();
	await expect(rows(page).first()).toContainText("75–90 HBW");
	await page.getByLabel("Units").selectOption("us");
	await expect(page.getByRole("columnheader", { name: /Density/ })).toContainText("lb/in3");
	await page.getByLabel("Units").selectOption("engineering");
	await expect(rows(page).first()).toContainText("8.78–8.91");
	await page.getByRole("button", { name: "last changed first" }).click();
	await expect(page).toHaveURL(/sort=changed/);
});

test("words as columns, filters by price and by the evidence of a property, rows copied with names and units", async ({
	page,
}) => {
	const errors = watchErrors(page);
	await page.goto("/materials?library=orrisay&columns=density&sort=name");
	await page.getByRole("button", { name: "Columns" }).click();
	const columns = page.getByRole("dialog", { name: "Columns" });
	for (const name of ["Item code", "Supplier", "Price"]) await columns.getByLabel(name, { exact: true }).check();
	await page.keyboard.press("Escape");
	await page.getByRole("columnheader", { name: "Item code" }).getByRole("button").click();
	await expect(rows(page).first()).toContainText("OW-0107");
	await page.getByRole("columnheader", { name: "Price" }).getByRole("button").click();
	await page.getByRole("columnheader", { name: "Price" }).getByRole("button").click();
	await expect(page).toHaveURL(/sort=price&dir=desc|dir=desc&sort=price/);

	// a price needs its currency; the one typed leads to those that have it
	await page.getByLabel("Filter by a value").selectOption("price");
	await page.getByLabel("Span of Price").fill("<= 5");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("alert")).toContainText("currency");
	await page.getByLabel("Span of Price").fill("<= 5 EUR");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("group", { name: "Filters in words" })).toContainText("Price ≤ 5 EUR/kg");
	await expect(rows(page).first()).toContainText("4.35 EUR/kg");
	await page.getByRole("button", { name: "Remove the filter on Price" }).first().click();

	await page.getByLabel("Filter by a value").selectOption("density");
	await page.getByLabel("Span of Density").fill("2-9");
	await page.keyboard.press("Enter");
	const any = await settled(page, () => rows(page).count());
	await page.getByLabel("Evidence of Density").selectOption({ label: "measured or standard" });
	await expect(page.getByRole("group", { name: "Filters in words" })).toContainText("measured or standard");
	const measured = await settled(page, () => rows(page).count());
	expect(measured).toBeGreaterThan(0);
	expect(measured).toBeLessThan(any);
	await page.reload();
	await expect(rows(page)).toHaveCount(measured);

	// the row in focus, then the marked ones
	const copied = () =>
		page.evaluate(() => {
			const data = new DataTransfer();
			const event = new ClipboardEvent("copy", { clipboardData: data, bubbles: true, cancelable: true });
			document.querySelector("[data-content]")?.dispatchEvent(event);
			return data.getData("text/plain").split("\r\n");
		});
	expect(await copied()).toHaveLength(2);
	await page.getByRole("rowgroup", { name: /^Rows/ }).focus();
	await page.keyboard.press("Control+a");
	await expect(page.getByRole("toolbar", { name: "Marked materials" })).toContainText(`${measured} materials marked`);
	const [head, ...body] = await copied();
	expect(head).toBe("Material\tLibrary\tItem code\tSupplier\tPrice\tDensity [g/cm^3]");
	expect(body).toHaveLength(measured);
	expect(errors).toEqual([]);
});

test("the keyboard alone: walk, to the tray, open", async ({ page }) => {
	await page.goto("/materials?library=orrisay&sort=name");
	await page.getByRole("rowgroup", { name: /^Rows/ }).focus();
	await page.keyboard.press("ArrowDown");
	await page.keyboard.press("ArrowDown");
	await page.keyboard.press("t");
	const tray = page.getByRole("region", { name: "Tray" });
	await expect(tray).toContainText("1 held");
	const focused = await page.getByRole("row", { selected: true }).locator("a").textContent();
	await expect(tray).toContainText(focused ?? "");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("heading", { level: 1, name: focused ?? "" })).toBeVisible();
	await page.reload();
	await expect(tray).toContainText(focused ?? "");
});

test("a supplied row is copied to the firm's library, into a group of choice; a taken name asks; all with undo", async ({
	page,
}) => {
	await page.goto("/materials?text=soda");
	const dialog = page.getByRole("dialog");
	const copy = async (): Promise<void> => {
		await rows(page).filter({ hasText: "supplied" }).click();
		await page.getByRole("button", { name: "Copy to Orrisay Works…" }).click();
	};
	await copy();
	await dialog.getByLabel("Group there").fill("Bought in");
	await dialog.getByRole("button", { name: "Copy to Orrisay Works" }).click();
	await expect(rows(page)).toHaveCount(2);
	await expect(page.getByRole("row", { name: /Bought in/ })).toBeVisible();
	await copy();
	// the same again is nothing to do, and the group of last time stands there
	await expect(dialog.getByText("Already there, value for value")).toBeVisible();
	await expect(dialog.getByLabel("Group there")).toHaveValue("Bought in");
	await expect(dialog.getByRole("button", { name: "Copy to Orrisay Works" })).toBeDisabled();
	await dialog.getByLabel("under another name").check();
	await dialog.getByLabel(/becomes$/).fill("Soda, our own");
	await dialog.getByRole("button", { name: "Copy to Orrisay Works" }).click();
	await expect(rows(page)).toHaveCount(3);
	const undo = page.getByRole("status").filter({ hasText: "copied to" }).getByRole("button", { name: "Undo" });
	await undo.last().click();
	await expect(rows(page)).toHaveCount(2);
	await page.getByRole("status").filter({ hasText: "copied to" }).getByRole("button", { name: "Undo" }).click();
	await expect(rows(page)).toHaveCount(1);
	await rows(page).first().locator("a").click();
	await expect(page.getByText("supplied, read-only")).toBeVisible();
	await expect(page.getByRole("button", { name: /blank, type a value/ })).toHaveCount(0);
});

test("a name of 10,000 characters and a missing one are refused in words, and nothing typed is lost", async ({ page }) => {
	await page.goto("/materials?create=blank");
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await expect(page.getByRole("alert")).toContainText("Give it a name");
	await page.getByLabel("Name", { exact: true }).fill("x".repeat(10_000));
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await expect(page.getByRole("alert")).toContainText("at most 200 characters");
	expect((await page.getByLabel("Name", { exact: true }).inputValue()).length).toBe(10_000);
	const name = unique(
		"A rather long name that goes on and on to see how rows, chips and headings take it, without breaking the page",
	);
	await page.getByLabel("Name", { exact: true }).fill(name);
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await page.getByRole("button", { name: "To tray" }).click();
	const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
	expect(overflow).toBeLessThanOrEqual(0);
});

test("unknown addresses say so", async ({ page }) => {
	await page.goto("/nowhere");
	await expect(page.getByText("There is no such place.")).toBeVisible();
	await page.goto("/materials/unknown-id");
	await expect(page.getByRole("alert")).toContainText("is not here");
	await page.goto("/parts/unknown-id");
	await expect(page.getByRole("alert")).toContainText("is not here");
});
