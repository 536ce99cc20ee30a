import { chromium, expect, test } from "@playwright/test";
import { serveDemo, watchErrors } from "./helpers";

test("works from another computer by address, without a secure context", async ({ launchOptions }) => {
	// a name that only this browser knows: as foreign to it as the address of another computer, on machines without a network too
	const address = "yard-office.test";
	const args = [...(launchOptions.args ?? []), `--host-resolver-rules=MAP ${address} 127.0.0.1`];
	const browser = await chromium.launch({ ...launchOptions, args });
	const server = await serveDemo({ HOST: "0.0.0.0", ALVEK_HOSTS: address });
	try {
		const page = await browser.newPage();
		const errors = watchErrors(page);
		await page.goto(`http://${address}:${server.port}/materials`);
		expect(await page.evaluate(() => isSecureContext)).toBe(false);
		await page.getByRole("button", { name: /^Maren Vosk/ }).click();
		await page.getByRole("button", { name: "New material" }).click();
		await page.getByLabel("Name", { exact: true }).fill("By address");
		await page.getByRole("button", { name: "Begin the sheet" }).click();
		await expect(page.getByRole("heading", { name: "By address", level: 1 })).toBeVisible();
		await page.goto(`http://${address}:${server.port}/parts/winch`);
		await expect(page.locator("[data-ready=true]")).toBeVisible();
		await page.getByRole("button", { name: "Copy the mass table" }).click();
		await expect(page.getByText("The mass table is in the clipboard")).toBeVisible();
		expect(errors).toEqual([]);
	} finally {
		await browser.close();
		await server.stop();
	}
});
