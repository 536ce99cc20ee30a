import { expect, test } from "@playwright/test";
import { importFile, newProject, unique } from "./helpers";

test("a material of one project: typed in one line, changed, promoted; a default that nobody has confirmed", async ({ page }) => {
	await newProject(page, unique("Own materials"));
	await importFile(page, "nested.step");
	await page.getByRole("row").filter({ hasText: "Becket" }).click();
	await page.keyboard.press("Enter");
	const name = unique("Gudgeon alloy");
	await page.getByRole("combobox", { name: /^Material for/ }).fill(`${name} 2.68 g/cm3`);
	await expect(page.getByText(`Enter makes ${name}, 2.68 g/cm³, in this project only.`)).toBeVisible();
	await page.keyboard.press("Enter");
	const row = page.getByRole("row").filter({ hasText: "Becket" });
	await expect(row).toContainText(name);
	await expect(row).toContainText("own");
	const mass = await page.getByTestId("total-mass").textContent();
	await page.reload();
	await expect(page.getByTestId("total-mass")).toHaveText(mass ?? "");
	// in no library
	await page.goto(`/materials?text=${encodeURIComponent(name)}`);
	await expect(page.getByText("No material passes these filters.")).toBeVisible();
	await page.goBack();
	await page.getByRole("row").filter({ hasText: "Becket" }).click();
	await page.getByRole("button", { name: "Into a library…" }).click();
	await page.getByLabel("Library", { exact: true }).selectOption({ label: "Orrisay Works" });
	const up = unique("Gudgeon alloy up");
	await page.getByLabel("Name there").fill(up);
	await page.getByRole("button", { name: "Make the draft" }).click();
	await expect(page.getByRole("heading", { level: 1, name: up })).toBeVisible();
	await expect(page.locator("#line-density")).toContainText("2.68");
	await page.goBack();
	// its part came along
	await expect(row).toContainText(up);
	await expect(page.getByTestId("total-mass")).toHaveText(mass ?? "");

	await page.getByRole("button", { name: /^What the project follows/ }).click();
	await page.getByRole("button", { name: "Choose a default…" }).click();
	await page.getByLabel("Find", { exact: true }).fill("gudgeon bronze 5");
	await page.getByRole("radio", { name: /^Gudgeon bronze 5 Orrisay/ }).check();
	await page.getByRole("button", { name: "Make it the default" }).click();
	await expect(page.getByText("default", { exact: true }).first()).toBeVisible();
	await page.getByRole("button", { name: /^Confirm on/ }).click();
	await expect(page.getByText("default", { exact: true })).toHaveCount(0);
	await page.getByRole("status").filter({ hasText: "Confirmed" }).getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("default", { exact: true }).first()).toBeVisible();

	// new projects begin with a default, until none is wanted; the choice is kept
	await page.goto("/parts");
	await page.getByRole("button", { name: "choose a default" }).click();
	await page.getByLabel("Find", { exact: true }).fill("mild plate");
	await page.getByRole("radio", { name: /Havrin mild plate/ }).check();
	await page.getByRole("button", { name: "Begin projects with it" }).click();
	await page.reload();
	await expect(page.getByText("Its parts begin with Havrin mild plate")).toBeVisible();
	await newProject(page, unique("Begun with one"));
	await importFile(page, "nested.step");
	await expect(page.getByRole("row").filter({ hasText: "Becket" })).toContainText("Havrin mild plate");
	await expect(page.getByText("default", { exact: true }).first()).toBeVisible();
	await page.goto("/parts");
	await page.getByRole("button", { name: "none", exact: true }).click();
	await expect(page.getByText("Its parts begin without a material.")).toBeVisible();
});

test("a use of the library's own: named with what it needs, then in readiness and filter; put away again", async ({ page }) => {
	const name = unique("wear on sand");
	await page.goto("/libraries/orrisay");
	await page.getByRole("button", { name: "New use" }).click();
	const form = page.getByRole("dialog");
	await form.getByLabel("Name of the use").fill(name);
	await expect(form.getByRole("button", { name: "Add the use" })).toBeDisabled();
	await form.getByLabel("Entries that it needs").selectOption({ label: "Density" });
	await form.getByLabel("Entries that it needs").selectOption({ label: "Hardness" });
	await form.getByLabel("Attached file that it needs").selectOption({ label: "certificate" });
	await form.getByRole("button", { name: "Add the use" }).click();
	const uses = page.getByRole("list", { name: "Uses of its own" });
	await expect(uses).toContainText("needs density, hardness and a certificate");
	await uses.getByRole("link", { name }).click();
	await expect(page.getByRole("checkbox", { name: `${name} 1`, exact: true })).toBeChecked();
	const rows = page.getByRole("rowgroup", { name: /^Rows/ }).getByRole("link");
	await expect(rows).toHaveText(["Gudgeon bronze 5"]);
	await page.reload();
	await rows.first().click();
	const rail = page.getByRole("complementary", { name: "Readiness, checks and revisions" });
	await expect(rail.getByRole("button", { name })).toBeVisible();
	await page.goto("/libraries/orrisay");
	await page.getByRole("button", { name: `Change the use ${name}` }).click();
	await page.getByRole("button", { name: "Put this use away" }).click();
	await expect(page.getByRole("button", { name: `Change the use ${name}` })).toHaveCount(0);
});
