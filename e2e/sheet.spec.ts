import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { beginMaterial, publish, typeValue, unique, watchErrors } from "./helpers";

test("a value field reads, converts, asks, refuses, and Enter goes to what the wanted use needs", async ({ page }) => {
	const errors = watchErrors(page);
	await beginMaterial(page, unique("Alloy"));
	await page.getByRole("button", { name: /^linear static/ }).click();

	await page.getByRole("button", { name: "Density: blank, type a value" }).click();
	const field = page.getByRole("textbox", { name: "Density", exact: true });
	await field.fill("512 lb/ft3");
	await expect(page.locator("#density-reading")).toContainText("8.20 g/cm³");
	await field.fill("2.71 g/cm2");
	await expect(page.locator("#density-reading")).toContainText("does not fit");
	await page.keyboard.press("Enter");
	await expect(field).toHaveAttribute("aria-invalid", "true");
	await field.fill("-2 kg/m3");
	await expect(page.locator("#density-reading")).toContainText("impossible");
	// a bare number takes the unit of the field
	await field.fill("2.70");
	await page.keyboard.press("Enter");
	await expect(page.locator("#line-density")).toContainText("2.70 g/cm3");
	// Enter went on to Young's modulus, which linear statics need
	const modulus = page.getByRole("textbox", { name: "Young’s modulus", exact: true });
	await expect(modulus).toBeFocused();
	await modulus.fill("1,234 MPa");
	await page.getByRole("button", { name: "1234 MPa" }).click();
	await expect(page.locator("#youngs_modulus-reading")).toContainText("1.234 GPa");
	await modulus.fill("69500 MPa");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("textbox", { name: "Poisson’s ratio", exact: true })).toBeFocused();
	await page.keyboard.type("0,33");
	await page.keyboard.press("Enter");
	await expect(page.getByText("The wanted use needs nothing more.")).toBeVisible();
	// no evidence yet: ready with doubts, in words
	await expect(page.getByRole("button", { name: /^linear static/ })).toContainText("has no evidence");
	expect(errors).toEqual([]);
});

test("digits stay as typed through unit sets, reload, publish and the downloaded file", async ({ page }) => {
	await beginMaterial(page, unique("Digits"));
	await typeValue(page, "Density", "0.2620 lb/in^3");
	await expect(page.getByText(/^Draft, saved/)).toBeVisible();
	const line = page.locator("#line-density");
	await expect(line).toContainText("7.252 g/cm3");
	const units = page.getByLabel("Units");
	for (const [set, text] of [
		["us", "0.2620 lb/in3"],
		["base", "7252 kg/m3"],
		["engineering", "7.252 g/cm3"],
		["us", "0.2620 lb/in3"],
	] as const) {
		await units.selectOption(set);
		await expect(line).toContainText(text);
	}
	await page.keyboard.down("Alt");
	for (const text of ["7.252 g/cm³", "7252 kg/m³", "0.2620 lb/in³"]) await expect(line).toContainText(text);
	await expect(line).toContainText("as typed: 0.2620 lb/in^3");
	await page.keyboard.up("Alt");
	await expect(line).not.toContainText("as typed: ");
	await page.reload();
	await expect(line).toContainText("0.2620 lb/in3");
	const download = page.waitForEvent("download");
	await page.getByRole("link", { name: "Export the sheet as JSON" }).click();
	const file = JSON.parse(readFileSync(await (await download).path(), "utf8")) as {
		document: { values: { density: { entered: string; low: number } } };
	};
	// 0.262 lb/in3 in SI, from exact fractions
	expect(file.document.values.density).toMatchObject({ entered: "0.2620 lb/in^3", low: 7252.135034073218 });
});

test("two windows on one value: both versions are shown, and one is chosen", async ({ page, context }) => {
	const name = unique("Twice");
	await beginMaterial(page, name);
	await expect(page.getByRole("button", { name: "Density: blank, type a value" })).toBeVisible();
	const other = await context.newPage();
	await other.goto(page.url());
	await expect(other.getByRole("button", { name: "Density: blank, type a value" })).toBeVisible();
	await typeValue(page, "Density", "2.70 g/cm3");
	await expect(page.getByText(/^Draft, saved/)).toBeVisible();
	await typeValue(other, "Density", "2.80 g/cm3");
	const alert = other.getByRole("alert").filter({ hasText: "Changed elsewhere to" });
	await expect(alert).toContainText("2.70 g/cm³");
	await expect(alert).toContainText("you typed 2.80 g/cm³");
	await alert.getByRole("button", { name: "Keep mine" }).click();
	await expect(other.locator("#line-density")).toContainText("2.80");
	await page.reload();
	await expect(page.locator("#line-density")).toContainText("2.80");
});

test("from a similar one: carried over until confirmed; a name of its own is required", async ({ page }) => {
	await page.goto("/materials?text=AL-7");
	await page.getByRole("button", { name: "Make a similar one" }).click();
	await page.getByLabel("Name", { exact: true }).fill("Tolvane AL-7 T6");
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await expect(page.getByRole("alert")).toContainText("other than its base");
	const name = unique("Similar");
	await page.getByLabel("Name", { exact: true }).fill(name);
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
	await expect(page.getByText("8 carried-over values")).toBeVisible();
	await page.locator("#line-density").getByRole("button", { name: "confirm" }).click();
	await expect(page.getByText("7 carried-over values")).toBeVisible();
	await expect(page.locator("#line-density")).not.toContainText("carried over");
	// undo is one key away
	await page.locator("#section-general h2").click();
	await page.keyboard.press("Control+z");
	await expect(page.getByText("8 carried-over values")).toBeVisible();
	await expect(page.getByText("Undone: Density confirmed")).toBeVisible();
});

test("publishing makes revisions that can be opened; a draft can be thrown away and brought back", async ({ page }) => {
	const name = unique("Revised");
	await beginMaterial(page, name);
	await typeValue(page, "Density", "7.85 g/cm3");
	await publish(page, "first revision");
	await page.locator("#line-density").getByRole("button", { name: "7.85" }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("7.81 g/cm3");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await publish(page, "weighed again");
	await page.getByRole("link", { name: "Rev 1 · first revision" }).click();
	await expect(page.getByText("revision 1, read only")).toBeVisible();
	await expect(page.locator("#line-density")).toContainText("7.85");
	await page.getByRole("link", { name: "back to the newest" }).click();
	await expect(page.locator("#line-density")).toContainText("7.81");

	await page.locator("#line-density").getByRole("button", { name: "7.81" }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("");
	await page.keyboard.press("Enter");
	await expect(page.locator("#line-density")).toContainText("blank");
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByRole("button", { name: "Throw the draft away" }).click();
	await expect(page.locator("#line-density")).toContainText("7.81");
	await page.getByRole("status").filter({ hasText: "thrown away" }).getByRole("button", { name: "Undo" }).click();
	await expect(page.locator("#line-density")).toContainText("blank");
});

test("what is typed while the server does not answer is kept and saved later", async ({ page, context }) => {
	await beginMaterial(page, unique("Offline"));
	await context.setOffline(true);
	await typeValue(page, "Density", "1.20 g/cm3");
	await expect(page.locator("#line-density")).toContainText("1.20");
	await expect(page.getByText("not saved yet, trying again")).toBeVisible();
	await context.setOffline(false);
	await expect(page.getByText(/^Draft, saved/)).toBeVisible({ timeout: 15_000 });
	await page.reload();
	await expect(page.locator("#line-density")).toContainText("1.20");
});

test("identity, evidence and source are edited in place; deleting can be undone", async ({ page }) => {
	const name = unique("Named");
	await beginMaterial(page, name);
	await page.getByLabel("Family").selectOption("metal.copper");
	await page.getByLabel("Supplier").fill("Gudgeon Metals");
	await page.getByLabel("Supplier").press("Enter");
	await page.getByLabel("Price per kg").fill("14,20 eur, 2026-09-01");
	await page.getByLabel("Price per kg").press("Enter");
	await expect(page.getByLabel("Price per kg")).toHaveValue("14.20 EUR, 2026-09-01");
	await typeValue(page, "Density", "2.7 g/cm3");
	await expect(page.getByText("Density is unusual for this family")).toBeVisible();
	await page.getByRole("button", { name: "Evidence, source and more of Density" }).click();
	await page.getByLabel("Evidence", { exact: true }).selectOption("measured");
	await page.getByLabel("Source", { exact: true }).selectOption("new");
	await page.getByLabel("Kind of source").selectOption("person");
	await page.getByLabel("Title").fill("weighed, 12 Nov");
	await page.getByRole("button", { name: "Keep this source" }).click();
	await expect(page.locator("#line-density")).toContainText("weighed, 12 Nov");
	await expect(page.getByText(/^Draft, saved/)).toBeVisible();
	await page.reload();
	await expect(page.getByLabel("Family")).toHaveValue("metal.copper");
	await expect(page.getByLabel("Supplier")).toHaveValue("Gudgeon Metals");
	// the record is one of the sheet, and of the library for the next material
	await expect(page.locator("#section-sources")).toContainText("weighed, 12 Nov");
	await page.getByRole("button", { name: "Delete this material" }).click();
	await expect(page).toHaveURL(/\/materials$/);
	await page.getByRole("status").filter({ hasText: "deleted" }).getByRole("button", { name: "Undo" }).click();
	await page.getByRole("searchbox").fill(name);
	await expect(page.getByRole("row").filter({ hasText: name })).toBeVisible();
});
