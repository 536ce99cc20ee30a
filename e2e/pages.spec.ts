import { expect, test } from "@playwright/test";
import { beginMaterial, documentOf, file, line, PAGE_TEXT, paste, saved, unique, watchErrors } from "./helpers";

test("several grades side by side: nothing is taken before one is chosen, and a left line is named by hand", async ({ page }) => {
	const errors = watchErrors(page);
	await beginMaterial(page, unique("One of three"));
	await page.getByRole("link", { name: "or paste a page" }).click();
	await paste(page, PAGE_TEXT, file("sheets/06-three-steels-side-by-side.txt"));
	await expect(page.getByText("Nothing of these columns is taken before you choose.")).toBeVisible();
	await expect(page.getByRole("button", { name: "Take 0 values" })).toBeDisabled();
	await page.getByRole("radio", { name: "Ternholm T24" }).check();
	await expect(page.getByRole("button", { name: "Take 7 values" })).toBeVisible();
	// a line that nothing was made of becomes a value when a person says of what
	await page.getByRole("button", { name: "Line 10 is left; name its property" }).click();
	await page.getByLabel("Property of line 10").selectOption("service_temperature_max");
	await page.getByRole("button", { name: /^Correct Highest service temperature/ }).click();
	await page.getByLabel(/^Highest service temperature as written/).fill("890 °C");
	await page.keyboard.press("Enter");
	await page.getByRole("button", { name: "Take 8 values" }).click();
	await expect(line(page, "yield_strength")).toContainText("685");
	await saved(page);
	await page.reload();
	const { values } = await documentOf(page);
	expect(values.tensile_strength).toMatchObject({ low: 880e6, high: 1180e6 });
	expect(values.service_temperature_max).toMatchObject({ low: 1163.15 });
	expect(values.elongation).toMatchObject({ qualifier: "A", low: 0.09, high: null });
	expect(errors).toEqual([]);
});

test("temperatures over the columns become tables, and a certificate readings by heat with its composition", async ({ page }) => {
	const errors = watchErrors(page);
	await beginMaterial(page, unique("Hot nickel"));
	await page.getByRole("link", { name: "or paste a page" }).click();
	await paste(page, PAGE_TEXT, file("sheets/08-nickel-temperature-columns.txt"));
	await expect(page.getByText("a table of the page").first()).toBeVisible();
	await page.getByRole("button", { name: /^Take \d+ values$/ }).click();
	await saved(page);
	const hot = await documentOf(page);
	expect(hot.values.youngs_modulus).toMatchObject({
		kind: "table",
		columns: [{ si: [293.15, 473.15, 673.15, 873.15, 1073.15] }, { si: [214e9, 205e9, 193e9, 180e9, 163e9] }],
	});

	await beginMaterial(page, unique("Certified"));
	await page.getByRole("link", { name: "or paste a page" }).click();
	await paste(page, PAGE_TEXT, file("sheets/26-inspection-certificate.txt"));
	await page.getByLabel("Take the composition H73305").check();
	await page.getByRole("button", { name: /^Take \d+ values$/ }).click();
	await saved(page);
	await page.reload();
	await expect(line(page, "yield_strength")).toContainText("n\u20094");
	const certified = await documentOf(page);
	expect(certified.values.yield_strength).toMatchObject({
		kind: "readings",
		readings: [318e6, 321e6, 309e6, 327e6],
		labels: ["H73301 1", "H73301 2", "H73305 1", "H73312 1"],
	});
	expect((certified as unknown as { composition: { name: string; max: string }[] }).composition).toContainEqual({
		name: "Cr",
		min: "17",
		max: "17",
	});
	expect(errors).toEqual([]);
});

test("several readings are entered from the value's menu; a changed number loses the page's source", async ({ page }) => {
	const errors = watchErrors(page);
	await beginMaterial(page, unique("Pulled bars"));
	await line(page, "tensile_strength").hover();
	await page.getByLabel("More ways to say Tensile strength").click();
	await page.getByRole("button", { name: "Several readings…" }).click();
	await page.getByLabel("Readings of Tensile strength").fill("261\n264\n258");
	await expect(page.getByRole("button", { name: "Keep 3 readings" })).toBeEnabled();
	await page.getByRole("button", { name: "Keep 3 readings" }).click();
	await expect(line(page, "tensile_strength")).toContainText("n\u20093");
	await page.getByRole("link", { name: "or paste a page" }).click();
	await paste(page, PAGE_TEXT, "Bar, typical values\nDensity 7.85 g/cm³ ± 1 %\n");
	await page.getByRole("button", { name: "Take 1 value" }).click();
	await saved(page);
	expect((await documentOf(page)).values.density).toMatchObject({ basis: "typical", evidence: "data-sheet", low: 7850 * 0.99 });
	await line(page, "density").getByRole("button", { name: /7\.85/ }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("7.9");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await saved(page);
	const { values } = await documentOf(page);
	expect(values.density).toMatchObject({ entered: "7.9 g/cm^3", low: 7900 });
	expect(values.density).not.toHaveProperty("sourceId");
	expect(values.density).not.toHaveProperty("evidence");
	// a number whose size only fits the base unit is asked, with both readings
	await page.getByRole("button", { name: "Thermal expansion: blank, type a value" }).click();
	await page.getByRole("textbox", { name: "Thermal expansion", exact: true }).fill("18e-6");
	await page.getByRole("button", { name: "18e-6 /K", exact: true }).click();
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await saved(page);
	expect((await documentOf(page)).values.thermal_expansion).toMatchObject({ low: 18e-6 });
	expect(errors).toEqual([]);
});
