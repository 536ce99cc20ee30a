import { fileURLToPath } from "node:url";
import { expect, type Page } from "@playwright/test";

export const fixture = (name: string): string => fileURLToPath(new URL(`../fixtures/${name}`, import.meta.url));

let count = 0;
/** A name that no other test uses. */
export const unique = (name: string): string => `${name} ${process.pid}-${++count}`;

/** Problems that the page itself reports; a test ends with none. */
export function watchErrors(page: Page): string[] {
	const errors: string[] = [];
	page.on("pageerror", (e) => errors.push(String(e)));
	page.on("console", (m) => {
		const expected = /Failed to load resource|GPU stall|GL Driver/.test(m.text());
		if (m.type() === "error" && !expected) errors.push(m.text());
	});
	return errors;
}

/** A new blank material, by the form. */
export async function beginMaterial(page: Page, name: string, group = "Metals / Test"): Promise<void> {
	await page.goto("/materials");
	await page.getByRole("button", { name: "New material" }).click();
	await page.getByLabel("Name", { exact: true }).fill(name);
	await page.getByLabel("Group", { exact: true }).fill(group);
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
}

/** Clicks a line's value and types; Enter goes on, so Escape leaves the next line. */
export async function typeValue(page: Page, property: string, text: string): Promise<void> {
	await page.getByRole("button", { name: `${property}: blank, type a value` }).click();
	await page.getByRole("textbox", { name: property, exact: true }).fill(text);
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
}

export async function publish(page: Page, note: string): Promise<void> {
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByLabel("Note", { exact: true }).fill(note);
	await page.getByRole("button", { name: /^Publish revision/ }).click();
	await expect(page.getByText(/^Revision \d+ of .* is out\./)).toBeVisible();
}

export async function newProject(page: Page, name: string): Promise<void> {
	await page.goto("/parts");
	await page.getByLabel("Name of the new project").fill(name);
	await page.getByRole("button", { name: "New project" }).click();
	await expect(page.getByText("No parts yet.")).toBeVisible();
}

export async function importFile(page: Page, file: string): Promise<void> {
	await page.getByLabel("STEP file").setInputFiles(fixture(file));
	await expect(page.getByText(`${file} is in.`)).toBeVisible({ timeout: 30_000 });
}

export const partRow = (page: Page, name: string) =>
	page.getByRole("grid", { name: "Parts" }).getByRole("row").filter({ hasText: name });

/** The main figure of the parts place, as a number. */
export async function totalMass(page: Page): Promise<number> {
	return Number((await page.getByTestId("total-mass").textContent())?.replace(/\s/g, ""));
}

/** Materials that the chooser offers. */
export const options = (page: Page) => page.getByRole("listbox", { name: "Materials" }).getByRole("option");

/** The text field of the chooser. */
export const chooser = (page: Page) => page.getByRole("combobox", { name: /^Material for/ });
