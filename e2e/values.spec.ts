import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { beginMaterial, documentOf, file, line, PAGE_TEXT, paste, publish, saved, typeValue, unique } from "./helpers";

test("several values in one line, readings, ± and an own working value", async ({ page }) => {
	await beginMaterial(page, unique("Entry"));
	const entry = page.getByLabel("Several at once:");
	await entry.fill("rho 2.71 g/cm3; E 68.9; nu 0.33; colour blue");
	await expect(page.locator("#entry-reading")).toContainText("not understood: colour blue");
	await page.getByLabel("Evidence of all").selectOption({ label: "measured" });
	await page.getByLabel("Source of all").fill("bench notes 4");
	await entry.press("Enter");
	await expect(line(page, "density")).toContainText("2.71");
	await expect(line(page, "density")).toContainText("measured");
	await expect(line(page, "poissons_ratio")).toContainText("bench notes 4");
	await expect(line(page, "youngs_modulus")).toContainText("68.9 GPa");
	// what was not understood stays to be corrected, and what follows from two others is shown
	await expect(entry).toHaveValue("colour blue");
	await expect(line(page, "shear_modulus")).toContainText("25.9 GPa");
	await expect(line(page, "shear_modulus")).toContainText("derived from E and ν");
	await typeValue(page, "Tensile strength", "5 specimens: 261 264 258 266 262 MPa");
	// mean 262.2, s by hand: sqrt((1.44 + 3.24 + 17.64 + 14.44 + 0.04)/4) = 3.033
	await expect(line(page, "tensile_strength")).toContainText("262.2 s 3.03 n 5");
	await line(page, "tensile_strength").getByLabel("Evidence, source and more of Tensile strength").click();
	await expect(line(page, "tensile_strength")).toContainText("works with 258");
	await page.getByLabel("Working value", { exact: true }).selectOption("mean");
	await expect(line(page, "tensile_strength")).toContainText("works with 262.2, chosen");
	await typeValue(page, "Thermal expansion", "23 ± 2 10^-6/K");
	await expect(line(page, "thermal_expansion")).toContainText("23 ± 2");
	await saved(page);
	await page.reload();
	await expect(line(page, "thermal_expansion")).toContainText("23 ± 2");
	await expect(line(page, "tensile_strength")).toContainText("works with 262.2, chosen");
	await expect(line(page, "density")).toContainText("2.71");
});

test("directional sets: the four of the input file are judged, and the isotropic numbers stay", async ({ page }) => {
	const { sets } = JSON.parse(file("directional.json")) as {
		sets: (Record<string, number> & { name: string; sound: boolean })[];
	};
	await beginMaterial(page, unique("Ply"));
	await typeValue(page, "Young’s modulus", "70 GPa");
	await page.locator("#section-elastic").getByRole("button", { name: "more elastic properties" }).click();
	await line(page, "elastic_set").getByRole("button", { name: "blank, fill in" }).click();
	for (const set of sets) {
		for (const name of ["E1", "E2", "E3", "nu12", "nu13", "nu23", "G12", "G13", "G23"]) {
			const field = page.getByLabel(new RegExp(`^${name}, `));
			await field.fill(`${set[name]}${name.startsWith("nu") ? "" : " GPa"}`);
			await field.press("Enter");
		}
		const said = line(page, "elastic_set");
		await expect(said, set.name).toContainText(set.sound ? "Sound: the compliance is positive definite." : "Impossible:");
		const check = page.getByText("This directional set cannot exist");
		if (set.sound) await expect(check).toHaveCount(0);
		else await expect(check).toBeVisible();
	}
	await page.getByLabel("use for analysis").check();
	await saved(page);
	const { values } = await documentOf(page);
	expect(values.youngs_modulus).toMatchObject({ entered: "70 GPa" });
	expect(Object.keys(values.elastic_set?.components as object)).toHaveLength(9);
});

test("a variant follows its base, shows behind when it moves on, and is brought forward", async ({ page }) => {
	const name = unique("Mother grade");
	await beginMaterial(page, name);
	await page.getByLabel("Several at once:").fill("rho 8.8 g/cm3; Rm >= 260 MPa; HB 80");
	await page.getByLabel("Several at once:").press("Enter");
	await page.getByLabel("Designations").fill("MG-1");
	await page.getByLabel("Designations").press("Enter");
	await publish(page, "first");
	const base = page.url();
	await page.getByRole("link", { name: "Make a variant or a similar one" }).click();
	await page.getByLabel("Name", { exact: true }).fill(`${name}, cautious`);
	await page.getByRole("radio", { name: /^a variant/ }).check();
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await expect(line(page, "density")).toContainText("follows base");
	// own, lower strengths with their reason
	await page.getByRole("link", { name: "beside the base" }).click();
	await page.getByRole("button", { name: "Factor on strengths…" }).click();
	const dialog = page.getByRole("dialog", { name: "A factor on strengths" });
	await expect(dialog.getByRole("button", { name: "Apply to 1 value" })).toBeDisabled();
	await dialog.getByLabel("Reason").fill("house rule 12");
	await dialog.getByRole("button", { name: "Apply to 1 value" }).click();
	await expect(page.getByRole("row", { name: /Tensile strength/ })).toContainText("234");
	await page.getByRole("link", { name: `${name}, cautious` }).click();
	await expect(line(page, "tensile_strength")).toContainText("0.9 times >= 260 MPa");
	await expect(page.getByText("Designation still the base’s")).toBeVisible();
	await page.getByLabel("Confirm designations").click();
	await expect(page.getByText("Designation still the base’s")).toHaveCount(0);
	await publish(page, "nine tenths, house rule");
	const variant = page.url();

	await page.goto(base);
	await line(page, "density").getByRole("button", { name: /8\.8/ }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("8.85 g/cm3");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await publish(page, "weighed again");
	await expect(page.getByRole("link", { name: `${name}, cautious` })).toBeVisible();

	await page.goto(variant);
	await expect(line(page, "density")).toContainText("follows, behind");
	await expect(page.getByRole("complementary").getByText(`${name} moved on`)).toBeVisible();
	await page.getByRole("link", { name: "beside the base" }).click();
	await expect(page.getByRole("row", { name: /Density/ })).toContainText("−0.56 %");
	await expect(page.getByRole("row", { name: /Tensile strength/ })).toContainText("−10 %");
	await page.getByRole("button", { name: "Bring forward to rev 2" }).click();
	await expect(page.getByRole("row", { name: /Density/ })).toContainText("follows");
	await page.getByRole("link", { name: `${name}, cautious` }).click();
	await expect(line(page, "density")).toContainText("8.85");
	await expect(line(page, "tensile_strength")).toContainText("234");
});

test("carried-over values: confirmed with one key, by source in a go, strength one by one", async ({ page }) => {
	const name = unique("Old grade");
	await beginMaterial(page, name);
	await page.getByRole("link", { name: "or paste a page" }).click();
	await paste(
		page,
		PAGE_TEXT,
		"Old grade, typical values\nDensity 8.8 g/cm³\nThermal conductivity 62 W/(m·K)\nTensile strength 260-310 MPa\nHardness 80 HBW\n",
	);
	await page.getByRole("button", { name: "Take 4 values" }).click();
	await publish(page, "first");
	await page.getByRole("link", { name: "Make a variant or a similar one" }).click();
	await page.getByLabel("Name", { exact: true }).fill(`${name} hard`);
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await page.getByLabel("Condition, temper").fill("cold drawn");
	await page.getByLabel("Condition, temper").press("Enter");
	await expect(page.getByText("4 carried-over values")).toBeVisible();
	// the source confirms two; strength and hardness hang on the temper and stay
	await page.getByRole("button", { name: "confirm 2 carried over" }).click();
	await expect(page.getByText("2 carried-over values")).toBeVisible();
	await page.getByRole("link", { name: "Go through them" }).click();
	await page.getByLabel("Tick all shown").check();
	await expect(page.getByText(/the condition differs from the base’s/)).toBeVisible();
	await expect(page.getByRole("button", { name: "Confirm 0" })).toBeDisabled();
	await page.getByLabel("Tick Hardness").focus();
	await page.keyboard.press("c");
	await expect(page.getByRole("row", { name: /Hardness/ })).toHaveCount(0);
	await page.getByLabel("Tick all shown").check();
	await page.getByLabel("Set basis").selectOption("guaranteed-minimum");
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(page.getByRole("row", { name: /Tensile strength/ })).toContainText("typical");
});

test("a check can be let pass with a reason, and opens again when its value changes", async ({ page }) => {
	await beginMaterial(page, unique("Odd steel"));
	await page.getByLabel("Family").selectOption("metal.steel");
	await typeValue(page, "Density", "7.1 g/cm3");
	await expect(page.getByText("Density is unusual for this family")).toBeVisible();
	await page.getByRole("button", { name: "It is right, because…" }).click();
	await page.getByLabel(/^Why Density/).fill("sintered, 9 % pores");
	await page.keyboard.press("Enter");
	await expect(page.getByText("Density is unusual for this family: sintered, 9 % pores")).toBeVisible();
	await saved(page);
	await page.reload();
	await expect(page.getByText("Density is unusual for this family: sintered, 9 % pores")).toBeVisible();
	await line(page, "density").getByRole("button", { name: /7\.1/ }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("6.2 g/cm3");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("button", { name: "It is right, because…" })).toBeVisible();
});

test("for the solver: numbers, units, rules and doubts on screen, copied and downloaded", async ({ page }) => {
	const expected = JSON.parse(file("solver.expected.json")) as { sets: Record<string, { values: Record<string, number> }> };
	await beginMaterial(page, unique("Solver alloy"));
	await page
		.getByLabel("Several at once:")
		.fill("rho 2700 kg/m3; E 69.5 GPa; nu 0.33; alpha 23.2e-6 /K; k 151 W/(m·K); cp 897 J/(kg·K); Rp0.2 262 MPa");
	await page.getByLabel("Several at once:").press("Enter");
	await saved(page);
	await page.getByRole("link", { name: "For the solver" }).first().click();
	await page.getByLabel("Use", { exact: true }).selectOption("all");
	for (const set of Object.keys(expected.sets)) {
		await page.getByLabel("Consistent units").selectOption(set);
		const download = page.waitForEvent("download");
		await page.getByRole("button", { name: "JSON" }).click();
		const reply = JSON.parse(readFileSync(await (await download).path(), "utf8")) as {
			materials: { values: Record<string, number>; units: Record<string, string> }[];
		};
		for (const [id, value] of Object.entries(expected.sets[set]?.values ?? {})) {
			expect(Math.abs((reply.materials[0]?.values[id] as number) / value - 1), `${set} ${id}`).toBeLessThan(1e-12);
			expect(reply.materials[0]?.units[id]).toBeTruthy();
		}
	}
	await page.getByLabel("Consistent units").selectOption("mm-t-s");
	await expect(page.getByRole("row", { name: /Density/ })).toContainText("t/mm3");
	await page.getByLabel("Use", { exact: true }).selectOption("plasticity");
	await expect(page.getByText("missing: Stress-strain curve or Plasticity model")).toBeVisible();
	await page.getByRole("button", { name: "Copy" }).click();
	await expect(page.getByText("The table is on the clipboard, tab-separated.")).toBeVisible();
	await page.reload();
	await expect(page.getByLabel("Use", { exact: true })).toHaveValue("plasticity");
});

test("a property of the library's own stands on every sheet", async ({ page }) => {
	await beginMaterial(page, unique("Worn"));
	const own = unique("Scratch index");
	await page.locator("#section-general").getByRole("button", { name: "more general properties" }).click();
	await page.getByRole("button", { name: "a property of our own" }).click();
	await page.getByLabel("Name of the property").fill(own);
	await page.getByLabel("Unit shown").fill("mm^3/m");
	await page.getByLabel("Lowest possible, SI").fill("0");
	await page.getByLabel("Likely to, SI").fill("10e-9");
	await page.getByRole("checkbox", { name: "fatigue" }).check();
	await page.getByRole("button", { name: /^Add to/ }).click();
	await page.getByRole("button", { name: `${own}: blank, type a value` }).click();
	await page.getByRole("textbox", { name: own, exact: true }).fill("-3");
	await expect(page.getByText(/is impossible here/)).toBeVisible();
	await page.getByRole("textbox", { name: own, exact: true }).fill("12-14");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await saved(page);
	await page.reload();
	await expect(page.locator("#section-general")).toContainText("12–14 mm3/m");
	// the likely span is a check; the use that needs it says so on a sheet without it
	await expect(page.getByText(`${own} is unusual`)).toBeVisible();
	// it can be said better later; a unit of another kind is refused, because numbers stand there
	await page.locator("#section-general").getByRole("button", { name: "more general properties" }).click();
	await page.getByRole("button", { name: `Change the property ${own}` }).click();
	const form = page.getByRole("form", { name: `The property ${own}` });
	await expect(form.getByLabel("Likely to, SI")).toHaveValue("1e-8");
	await form.getByLabel("Likely to, SI").fill("20e-9");
	await form.getByLabel("Unit shown").fill("kg");
	await form.getByRole("button", { name: "Save" }).click();
	await expect(form.getByRole("alert")).toContainText("kg measures something else than mm^3/m");
	await form.getByLabel("Unit shown").fill("mm^3/m");
	await form.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText(`${own} is changed on every sheet`)).toBeVisible();
	await expect(page.getByText(`${own} is unusual`)).toBeHidden();
	await beginMaterial(page, unique("Not worn"));
	await page.getByRole("button", { name: /more uses$/ }).click();
	await expect(page.getByRole("button", { name: /^fatigue/ })).toHaveAttribute(
		"title",
		new RegExp(`fatigue: not ready .*${own}, which the library asks for, is missing`),
	);
	await page.locator("#section-general").getByRole("button", { name: "more general properties" }).click();
	await expect(page.getByRole("button", { name: `${own}: blank, type a value` })).toBeVisible();
});

test("values narrow the list by what they work with or may reach, typed in any unit, in the address", async ({ page }) => {
	await page.goto("/materials");
	await page.getByLabel("Filter by a value").selectOption("density");
	await page.getByLabel("Span of Density").fill("8.9-9 g/cm2");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("alert")).toContainText("does not fit");
	await page.getByLabel("Span of Density").fill("0.3216-0.33 lb/in3");
	await page.keyboard.press("Enter");
	// 8.90 to 9.13 g/cm3: the bronze's 8.78 to 8.91 works with 8.845, and may reach in
	await expect(page).toHaveURL(/where=density/);
	const rows = page.getByRole("grid", { name: "Materials" }).getByRole("row").filter({ hasText: "Gudgeon bronze 5" });
	await expect(rows).toHaveCount(0);
	await page.getByRole("button", { name: /may reach/ }).click();
	await expect(page).toHaveURL(/where=density[^&]*%7E/);
	await expect(rows.first()).toBeVisible();
	await expect(page.getByRole("grid", { name: "Materials" })).not.toContainText("Havrin");
	await page.reload();
	const sentence = page.getByRole("group", { name: "Filters in words" });
	await expect(sentence).toContainText("8.902–9.134 g/cm³");
	await sentence.getByLabel("Remove the filter on Density").click();
	await expect(page).not.toHaveURL(/where/);
	await expect(page.getByRole("heading", { level: 1 })).toContainText(/Materials(\d+) of \1$/);
});
