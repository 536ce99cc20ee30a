import { expect, test } from "@playwright/test";
import { beginMaterial, documentOf, file, line, POINTS, paste, saved, unique } from "./helpers";

test("two properties over temperature in one block become two tables, and both survive", async ({ page }) => {
	await beginMaterial(page, unique("Warm bronze"));
	await page.getByRole("button", { name: "Young’s modulus: blank, type a value" }).hover();
	await line(page, "youngs_modulus").getByLabel("More ways to say Young’s modulus").click();
	await page.getByRole("link", { name: "Over temperature…" }).click();
	await paste(page, POINTS, file("over-temperature.txt"));
	await expect(page.getByText("5 points. Thermal conductivity taken too.")).toBeVisible();
	await page.getByLabel("Read it at a temperature").fill("20 °C");
	// 14.87 Msi by the exact factor
	await expect(page.getByText("102.5 GPa", { exact: true })).toBeVisible();
	await page.getByLabel("Read it at a temperature").fill("300 °C");
	await expect(page.getByText("end value held")).toBeVisible();
	await page.getByRole("link", { name: /^Warm bronze/ }).click();
	await saved(page);
	await page.reload();
	const expected = JSON.parse(file("over-temperature.expected.json")) as Record<string, number[]>;
	const { values } = await documentOf(page);
	for (const id of ["youngs_modulus", "thermal_conductivity"]) {
		const columns = (values[id] as { columns: { si: number[] }[] }).columns;
		for (const [i, t] of (expected.temperature_k as number[]).entries()) {
			expect(Math.abs((columns[0]?.si[i] as number) - t)).toBeLessThan(1e-9);
			expect(Math.abs((columns[1]?.si[i] as number) / (expected[id]?.[i] as number) - 1)).toBeLessThan(1e-12);
		}
	}
	await expect(line(page, "thermal_conductivity")).toContainText("5 points");
});

test("the curve editor by keyboard: type, correct, delete, undo", async ({ page }) => {
	await beginMaterial(page, unique("Typed curve"));
	await page.getByRole("link", { name: "blank, paste or type points" }).first().click();
	await page.getByLabel("Strain, row 1").focus();
	for (const text of ["0", "0", "0.1", "70", "0.2", "120"]) {
		await page.keyboard.type(text);
		await page.keyboard.press("Enter");
	}
	await expect(page.getByText("3 points")).toBeVisible();
	// the form is not said, so nothing is derived and the use is not ready
	await expect(page.getByText(/does not say whether it is true or engineering/).first()).toBeVisible();
	await page.getByLabel("Stress, row 3").fill("abc");
	await page.getByLabel("Stress, row 3").press("Tab");
	await expect(page.getByText(/1 cell does not read yet/)).toBeVisible();
	await page.getByLabel("Stress, row 3").fill("130");
	await page.getByLabel("Stress, row 3").press("Tab");
	await page.getByLabel("Stress, row 2").focus();
	await page.keyboard.press("Control+Delete");
	await expect(page.getByText("2 points")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(page.getByText("3 points")).toBeVisible();
	await page.getByLabel("Scale Stress").click();
	await page.getByLabel("Column times").fill("2");
	await page.keyboard.press("Enter");
	await expect(page.getByLabel("Stress, row 3")).toHaveValue("260");
	await page.goBack();
	await saved(page);
	await page.reload();
	await expect(line(page, "stress_strain")).toContainText("3 points");
});

test("expansion is counted from another temperature, and a mark can become a table", async ({ page }) => {
	await beginMaterial(page, unique("Stretching"));
	await line(page, "thermal_expansion").hover();
	await line(page, "thermal_expansion").getByLabel("More ways to say Thermal expansion").click();
	await page.getByRole("button", { name: "Unknown" }).click();
	await expect(line(page, "thermal_expansion")).toContainText("unknown");
	await line(page, "thermal_expansion").getByLabel("Evidence, source and more of Thermal expansion").click();
	await page.getByRole("button", { name: "Make it blank" }).click();
	await line(page, "thermal_expansion").hover();
	await line(page, "thermal_expansion").getByLabel("More ways to say Thermal expansion").click();
	await page.getByRole("link", { name: "Over temperature…" }).click();
	await paste(page, POINTS, "T [°C]\tα [10^-6/K]\n100\t12.1\n200\t12.7\n");
	await expect(page.getByText("2 points", { exact: true })).toBeVisible();
	await page.getByLabel("Count the expansion from another temperature").fill("100 °C");
	await expect(page.getByText("Say first what the table is counted from.")).toBeVisible();
	await page.getByLabel("Counted from").fill("20 °C");
	await page.getByLabel("Counted from").press("Enter");
	// lengths: L(100)/L(20) = 1 + 12.1e-6 x 80, L(200)/L(20) = 1 + 12.7e-6 x 180; their ratio over 100 K is 13.167e-6
	await expect(page.getByText("13.17 10⁻⁶/K")).toBeVisible();
});

test("a long record is thinned to what a curve holds, and says how near it stays", async ({ page }) => {
	await beginMaterial(page, unique("Long record"));
	await page.getByRole("link", { name: "blank, paste or type points" }).first().click();
	// 12,000 points of a saturating curve: σ = 400 (1 − exp(−ε / 2 %))
	const rows = Array.from({ length: 12_000 }, (_, i) => {
		const strain = i / 1000;
		return `${strain.toFixed(3)}\t${(400 * (1 - Math.exp(-strain / 2))).toFixed(4)}`;
	});
	await paste(page, POINTS, ["Strain [%]\tStress [MPa]", ...rows].join("\n"));
	await expect(page.getByText(/A curve holds 5000 points: \d+ of 12000 stay/)).toBeVisible();
	await page.getByRole("button", { name: "Use these points" }).click();
	await page.getByRole("link", { name: /^Long record/ }).click();
	await saved(page);
	const { values } = await documentOf(page);
	const [strain, stress] = (values.stress_strain as { columns: { si: number[] }[] }).columns.map((c) => c.si);
	expect(strain?.length).toBeLessThan(5000);
	expect([strain?.[0], strain?.at(-1)]).toEqual([0, 0.11999]);
	// between the points that stay, the straight line is within the 0.01 % of the height that it says
	for (let i = 1; i < (strain?.length ?? 0); i++) {
		const middle = ((strain?.[i - 1] ?? 0) + (strain?.[i] ?? 0)) / 2;
		const line = ((stress?.[i - 1] ?? 0) + (stress?.[i] ?? 0)) / 2;
		expect(Math.abs(line - 4e8 * (1 - Math.exp(-middle / 0.02)))).toBeLessThan(4e8 * 1.1e-4);
	}
});

test("curves over two conditions are drawn as lines of equal height too, which the address keeps", async ({ page }) => {
	await beginMaterial(page, unique("Hot steel"));
	await page.getByRole("link", { name: "blank, paste or type points" }).first().click();
	const rows = [20, 200, 400].flatMap((t) => [0.5, 2, 8].map((e) => `${t}\t${e}\t${700 - t / 2 + 10 * e}`));
	await paste(page, POINTS, ["Temperature [°C]\tStrain [%]\tStress [MPa]", ...rows].join("\n"));
	await expect(page.getByText("9 points").first()).toBeVisible();
	await page.getByRole("button", { name: "contour", exact: true }).click();
	// 505 to 770 MPa: round lines 50 apart
	await expect(
		page.getByRole("img", { name: "stress over strain and temperature: lines at 550, 600, 650, 700, 750 MPa" }),
	).toBeVisible();
	await page.reload();
	await expect(page.getByRole("button", { name: "contour", exact: true })).toHaveAttribute("aria-pressed", "true");
	await page.getByRole("button", { name: "curves", exact: true }).click();
	await expect(page.getByRole("img", { name: /^stress over strain, / })).toBeVisible();
});
