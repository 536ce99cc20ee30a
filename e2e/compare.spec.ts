import { readFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { watchErrors } from "./helpers";

async function idsOf(page: Page, ...names: string[]): Promise<string> {
	const ids: string[] = [];
	for (const text of names) {
		const reply = await page.request.get(`/api/v1/materials?${new URLSearchParams({ text })}`);
		const { value } = (await reply.json()) as { value: { rows: { id: string; name: string }[] } };
		ids.push(value.rows.find((r) => r.name === text)?.id ?? "");
	}
	return ids.join(",");
}

test("compare: against the part's present material, differences only, table and picture, given with undo", async ({ page }) => {
	const errors = watchErrors(page);
	const ids = await idsOf(page, "ORS-AL 21 T6", "Ternay CF 230 ply");
	const project = (await (await page.request.get("/api/v1/projects/winch")).json()) as {
		value: { parts: { id: string; name: string }[] };
	};
	const part = project.value.parts.find((p) => p.name === "Thrust ring")?.id;
	await page.goto(`/compare?ids=${ids}&part=winch/${part}`);
	const density = page.getByRole("row", { name: /Density/ }).first();
	// 2.70 against the 8.77 of the revision that the ring stands on: 1 - 2.70/8.77 = 69 %
	await expect(density).toContainText("69 % lighter");
	await expect(density).toContainText("present");
	await expect(page.getByRole("row", { name: /Young’s modulus/ })).toContainText("128 along, 8.4 across");
	await expect(page.getByRole("row", { name: /Proof|proof/ })).toContainText("blank");
	await expect(page.getByRole("img", { name: /Stress-strain curve of Gudgeon bronze 5/ })).toBeVisible();

	await page.getByRole("button", { name: "only differences" }).click();
	await expect(page).toHaveURL(/only=differences/);
	const download = async (name: string): Promise<Buffer> => {
		await page.getByRole("button", { name: "Write" }).click();
		const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name }).click()]);
		await page.keyboard.press("Escape");
		return readFileSync(await file.path());
	};
	const csv = (await download("Table as CSV")).toString();
	expect(csv).toContain("Density,g/cm³");
	expect(csv).toContain("ORS-AL 21 T6, rev 1: works with");
	expect(csv).toMatch(/"Young’s modulus, across axis 1",GPa,.*8\.4,8\.4,8\.4,"data sheet, directional set"/);
	const png = await download("Picture as PNG");
	expect(png.subarray(1, 4).toString()).toBe("PNG");
	// twice as many pixels as on screen: 3 columns of 200 beside 210 and two margins of 20
	expect(png.readUInt32BE(16)).toBe(2 * (40 + 210 + 600));

	await page
		.getByRole("row", { name: /would weigh/ })
		.getByRole("button", { name: /^Give to/ })
		.first()
		.click();
	await expect(page.getByText("Thrust ring is made of ORS-AL 21 T6 now.")).toBeVisible();
	await page.getByRole("status").filter({ hasText: "Thrust ring" }).getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("Undone: Thrust ring is made of ORS-AL 21 T6 now")).toBeVisible();
	expect(errors).toEqual([]);
});

test("cost and carbon roll up with coverage, and only at rates that somebody gave", async ({ page }) => {
	await page.goto("/parts/winch");
	const figures = page.getByRole("complementary", { name: "Figures" });
	await expect(figures).toContainText("Prices in USD are left out: no rate is given.");
	const before = await figures.getByText(/EUR$/).textContent();
	await figures.getByRole("button", { name: "rates" }).click();
	const form = page.getByRole("dialog", { name: "Currency and rates" });
	await form.getByLabel("Rate 1", { exact: true }).fill("nothing");
	await form.getByRole("button", { name: "Keep" }).click();
	await expect(form.getByRole("alert")).toContainText("is not a rate for USD");
	await form.getByLabel("Rate 1", { exact: true }).fill("0.92");
	await form.getByRole("button", { name: "Keep" }).click();
	await expect(figures).not.toContainText("left out");
	await expect(figures.getByText(/EUR$/)).not.toHaveText(before ?? "");
	await page.reload();
	await expect(figures).not.toContainText("left out");
	const reply = (await (await page.request.get("/api/v1/projects/winch")).json()) as {
		value: {
			totals: { costs: { cost: number } };
			parts: {
				quantity: number;
				mass_kg: { mass: number } | null;
				assignment: { price: { amount: string; currency: string } | null } | null;
			}[];
		};
	};
	// the plain sum over the parts, each by hand
	const sum = reply.value.parts.reduce((total, p) => {
		const price = p.assignment?.price;
		if (!price || p.mass_kg === null) return total;
		return total + p.quantity * p.mass_kg.mass * Number(price.amount) * (price.currency === "USD" ? 0.92 : 1);
	}, 0);
	expect(reply.value.totals.costs.cost).toBeCloseTo(sum, 9);
	await expect(figures).toContainText(`${sum.toFixed(2)} EUR`);
});
