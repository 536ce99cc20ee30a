import { spawn } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { networkInterfaces, tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { options, watchErrors } from "./helpers";

async function sheetOf(page: Page, text: string): Promise<string> {
	const { value } = (await (await page.request.get(`/api/v1/materials?text=${encodeURIComponent(text)}`)).json()) as {
		value: { rows: { id: string }[] };
	};
	return `/materials/${value.rows[0]?.id}`;
}

for (const theme of ["day", "night"] as const) {
	test(`every place is accessible, ${theme}`, async ({ page }) => {
		test.setTimeout(180_000);
		const errors = watchErrors(page);
		await page.addInitScript(
			([t]) =>
				localStorage.setItem(
					"alvek.preferences",
					JSON.stringify({
						state: { theme: t, unitSet: "engineering", wantedUse: "strength", target: null, filtersOpen: true, briefOpen: true },
						version: 1,
					}),
				),
			[theme],
		);
		const places: [string, (page: Page) => Promise<void>][] = [
			["/materials", async () => undefined],
			["/materials?create=blank", async () => undefined],
			[
				await sheetOf(page, "plate > 40"),
				async (p) => p.getByRole("button", { name: /Evidence, source and more of Density/ }).click(),
			],
			[await sheetOf(page, "Havrin 34"), async (p) => p.getByRole("button", { name: "Publish draft…" }).click()],
			[await sheetOf(page, "soda glass"), async () => undefined],
			["/parts", async () => undefined],
			[
				"/parts/winch",
				async (p) => {
					await p.getByRole("row").filter({ hasText: "Bearing bush" }).click();
					await p.keyboard.press("Enter");
					await expect(options(p).first()).toBeVisible();
				},
			],
		];
		for (const [path, prepare] of places) {
			await page.goto(path);
			await page.waitForLoadState("networkidle");
			await prepare(page);
			expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe(theme);
			const { violations } = await new AxeBuilder({ page }).analyze();
			const grave = violations.filter((v) => v.impact === "serious" || v.impact === "critical");
			expect(
				grave.map((v) => `${path}: ${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(" | ")}`),
				path,
			).toEqual([]);
			// nothing scrolls sideways at 1280 x 800
			expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
		}
		expect(errors).toEqual([]);
	});
}

test("works from another computer by address, without a secure context", async ({ browser }) => {
	const address = Object.values(networkInterfaces())
		.flat()
		.find((i) => i !== undefined && i.family === "IPv4" && !i.internal)?.address;
	test.skip(address === undefined, "this machine has no address but loopback");
	const port = 4398;
	const server = spawn(process.execPath, [fileURLToPath(new URL("../demo/dist/main.js", import.meta.url))], {
		env: { ...process.env, HOST: "0.0.0.0", PORT: String(port), ALVEK_DATA: mkdtempSync(join(tmpdir(), "alvek-lan-")) },
		stdio: ["ignore", "pipe", "inherit"],
	});
	try {
		await new Promise<void>((resolve) => server.stdout.on("data", (d) => String(d).includes("Alvek is at") && resolve()));
		const page = await browser.newPage();
		const errors = watchErrors(page);
		await page.goto(`http://${address}:${port}/materials`);
		expect(await page.evaluate(() => isSecureContext)).toBe(false);
		await page.getByRole("button", { name: "New material" }).click();
		await page.getByLabel("Name", { exact: true }).fill("By address");
		await page.getByRole("button", { name: "Begin the sheet" }).click();
		await expect(page.getByRole("heading", { name: "By address", level: 1 })).toBeVisible();
		await page.goto(`http://${address}:${port}/parts/winch`);
		await expect(page.locator("[data-ready=true]")).toBeVisible();
		await page.getByRole("button", { name: "Copy the mass table" }).click();
		await expect(page.getByText("The mass table is in the clipboard")).toBeVisible();
		expect(errors).toEqual([]);
		await page.close();
	} finally {
		server.kill();
	}
});
