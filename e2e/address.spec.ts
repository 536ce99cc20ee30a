import { networkInterfaces } from "node:os";
import { expect, test } from "@playwright/test";
import { serveDemo, watchErrors } from "./helpers";

test("works from another computer by address, without a secure context", async ({ browser }) => {
	const address = Object.values(networkInterfaces())
		.flat()
		.find((i) => i !== undefined && i.family === "IPv4" && !i.internal)?.address;
	test.skip(address === undefined, "this machine has no address but loopback");
	const server = await serveDemo({ HOST: "0.0.0.0" });
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
		await page.close();
	} finally {
		await server.stop();
	}
});
