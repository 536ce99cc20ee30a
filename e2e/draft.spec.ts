import { expect, test } from "@playwright/test";
import { beginMaterial, typeValue, unique } from "./helpers";

test("typed without a connection: other places say so, closing asks, and the next page offers it again", async ({
	page,
	context,
}) => {
	const name = unique("Kept typing");
	await beginMaterial(page, name);
	const sheet = page.url();
	// a window of its own keeps the browser open
	const other = await context.newPage();
	await context.setOffline(true);
	await typeValue(page, "Density", "1.21 g/cm3");
	await expect(page.getByText("not saved yet, trying again")).toBeVisible();
	// elsewhere it is still said, with the way back
	await page.getByRole("link", { name: "Materials", exact: true }).first().click();
	const bar = page.getByRole("status").filter({ hasText: "Not saved yet:" });
	await expect(bar).toContainText(`${name} (1 change)`);
	// the page is not closed without a question; answered, it goes, and nothing is lost with it
	const asked = new Promise<string>((resolve) =>
		page.once("dialog", async (dialog) => {
			resolve(dialog.type());
			await dialog.accept();
		}),
	);
	const closed = page.waitForEvent("close");
	await page.close({ runBeforeUnload: true });
	expect(await asked).toBe("beforeunload");
	await closed;
	await context.setOffline(false);

	const next = other;
	await next.goto("/materials");
	const offer = next.getByRole("status").filter({ hasText: "not saved before the page was closed" });
	await expect(offer).toContainText(name);
	await offer.getByRole("button", { name: "Save now" }).click();
	await expect(offer).toHaveCount(0);
	await next.goto(sheet);
	await expect(next.locator("#line-density")).toContainText("1.21");
	await next.reload();
	await expect(next.locator("#line-density")).toContainText("1.21");
});

test("text in an open field outlives a reload: one that reads is entered, one that does not stands open again", async ({
	page,
}) => {
	page.on("dialog", (dialog) => dialog.accept());
	await beginMaterial(page, unique("Open field"));
	await page.getByRole("button", { name: "Density: blank, type a value" }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("2.71 furlongs");
	await page.reload();
	const field = page.getByRole("textbox", { name: "Density", exact: true });
	await expect(field).toHaveValue("2.71 furlongs");
	await field.fill("2.71 g/cm3");
	await page.reload();
	// it was entered on leaving: saved at once, or offered again
	const offer = page.getByRole("status").filter({ hasText: "not saved before the page was closed" });
	const savedOrOffered = async (isShown: () => Promise<boolean>): Promise<void> => {
		await expect.poll(async () => (await offer.isVisible()) || (await isShown())).toBe(true);
		if (await offer.isVisible()) await offer.getByRole("button", { name: "Save now" }).click();
		await expect.poll(isShown).toBe(true);
	};
	const density = page.locator("#line-density");
	await savedOrOffered(async () => (await density.textContent())?.includes("2.71") === true);
	const notes = page.getByRole("textbox", { name: "Notes" });
	await notes.fill("weighed wet");
	await page.reload();
	await savedOrOffered(async () => (await notes.inputValue()) === "weighed wet");
	await expect(page.getByText(/^Draft, saved/)).toBeVisible();
});
