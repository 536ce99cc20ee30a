import { expect, test } from "@playwright/test";
import { beginMaterial, ORIGIN, typeValue, unique } from "./helpers";
import { asPerson, newLibrary } from "./team";

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

test("a right taken away while somebody types: what they typed stays on the sheet, to be copied or tried again", async ({
	page,
	browser,
}) => {
	const library = await newLibrary(page, unique("Two hands"));
	const grant = async (role: string): Promise<void> => {
		const data = { by: "person", subject: "okke", role };
		const reply = await page.request.post(`/api/v1/libraries/${library}/grants`, { headers: ORIGIN, data });
		expect(reply.ok(), await reply.text()).toBe(true);
	};
	await grant("editor");
	const okke = await asPerson(browser, "okke");
	const id = unique("taken").replace(/\W/g, "-");
	const data = { id, libraryId: library, name: unique("Taken away"), group: "Metals" };
	expect((await okke.request.post("/api/v1/materials", { headers: ORIGIN, data })).ok()).toBe(true);
	await okke.goto(`/materials/${id}`);
	await okke.getByRole("button", { name: "Hardness: blank, type a value" }).click();
	await okke.getByRole("textbox", { name: "Hardness", exact: true }).fill("95 HB");
	await grant("reader");
	await okke.keyboard.press("Enter");
	const strip = okke.getByRole("alert", { name: "Not saved" });
	await expect(strip).toContainText("95 HB");
	await expect(strip.getByRole("button", { name: "Copy" })).toBeVisible();
	await grant("editor");
	await strip.getByRole("button", { name: "Try again" }).click();
	await expect(strip).toHaveCount(0);
	// the strip goes as soon as it is tried again, which is before it is stored
	const stored = async (): Promise<string> => (await okke.request.get(`/api/v1/materials/${id}`)).text();
	await expect.poll(stored).toContain("95 HB");
	await okke.context().close();
});
