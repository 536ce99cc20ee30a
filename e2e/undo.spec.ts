import { expect, test } from "@playwright/test";
import { importFile, newProject, partRow, unique, watchErrors } from "./helpers";
import { newLibrary, newMaterial } from "./team";

test("the last step is taken back by a key, also after a reload; older ones in the history and on the account", async ({
	page,
}) => {
	const errors = watchErrors(page);
	const library = await newLibrary(page, unique("Yard steps"));
	await page.getByRole("button", { name: "Open the lock" }).click();
	const name = unique("Step plate");
	await newMaterial(page, { library, name, density: "2.65 g/cm3" });
	await newProject(page, unique("Steps"));
	await importFile(page, "nested.step");
	await page.getByRole("row").filter({ hasText: "Becket" }).click();
	await page.keyboard.press("Enter");
	await page.getByRole("combobox", { name: /^Material for/ }).fill(name);
	await expect(page.getByRole("listbox", { name: "Materials" }).getByRole("option").first()).toContainText(name);
	await page.keyboard.press("Enter");
	await expect(partRow(page, "Becket")).toContainText(name);

	await page.reload();
	await expect(partRow(page, "Becket")).toContainText(name);
	await page.locator("main").click({ position: { x: 700, y: 20 } });
	await page.keyboard.press("Control+z");
	await expect(page.getByText(/^Undone: you gave .* to Becket/)).toBeVisible();
	await expect(partRow(page, "Becket")).not.toContainText(name);

	// a row of the library is deleted; its history takes it back
	await page.goto(`/materials?library=${library}`);
	await page.getByRole("rowgroup", { name: /^Rows/ }).focus();
	await page.keyboard.press(" ");
	await page.getByRole("toolbar", { name: "Marked materials" }).getByRole("button", { name: "Delete" }).click();
	await expect(page.getByText("No material passes these filters.")).toBeVisible();
	await page.goto(`/history/library/${library}`);
	await page.getByRole("button", { name: "Take back: moved to the bin" }).click();
	await expect(page.getByText("taken back", { exact: true })).toBeVisible();
	await page.goto(`/materials?library=${library}`);
	await expect(page.getByRole("grid").getByRole("link")).toHaveText([name]);

	// in a field the key is the field's own
	await page.goto("/account");
	const steps = page.getByRole("list", { name: "Your latest steps" });
	await expect(steps.getByRole("listitem").first()).toBeVisible();
	const before = await steps.getByRole("listitem").first().textContent();
	await page.getByLabel("Name", { exact: true }).focus();
	await page.keyboard.press("Control+z");
	await page.reload();
	await expect(steps.getByRole("listitem").first()).toHaveText(before ?? "");
	expect(errors).toEqual([]);
});
