import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import {
	beginMaterial,
	chooser,
	fixture,
	importFile,
	newProject,
	options,
	partRow,
	publish,
	totalMass,
	typeValue,
	unique,
	watchErrors,
} from "./helpers";

type Expected = { parts: { name: string; volume_mm3: number }[] };
const EXPECTED = JSON.parse(readFileSync(fixture("mount.expected.json"), "utf8")) as Expected;

test("from a typed value to the mass of an assembly, by keyboard, and after a reload", async ({ page }) => {
	const errors = watchErrors(page);
	const name = unique("Fork alloy");
	await beginMaterial(page, name);
	await typeValue(page, "Density", "2,66-2,69 g/cm³");
	await expect(page.locator("#line-density")).toContainText("2.66–2.69 g/cm3");
	await expect(page.locator("#line-density")).toContainText("works with 2.675");
	await publish(page, "from the data sheet");

	await newProject(page, unique("Mount"));
	await importFile(page, "mount.step");
	for (const part of EXPECTED.parts) await expect(partRow(page, part.name)).toBeVisible();
	await expect(page.getByTestId("total-mass")).toHaveText("no mass");
	await expect(page.getByText("0 of 9 parts, 0 % of the volume")).toBeVisible();

	// two parts by keyboard: arrows, Shift, type, Enter
	await partRow(page, "Azimuth ring").click();
	await page.keyboard.press("Shift+ArrowDown");
	await page.keyboard.type(name.slice(0, 6));
	const field = page.getByRole("combobox", { name: "Material for 2 parts" });
	await expect(field).toHaveValue(name.slice(0, 6));
	await field.fill(name);
	await expect(options(page)).toHaveCount(1);
	await page.keyboard.press("Enter");

	const volume = ["Azimuth ring", "Fork arm"].reduce(
		(v, n) => v + (EXPECTED.parts.find((p) => p.name === n)?.volume_mm3 ?? 0),
		0,
	);
	const mass = (volume * 2675) / 1e9;
	await expect(page.getByTestId("total-mass")).toHaveText(mass.toPrecision(4));
	await expect(page.getByText(/^2 of 9 parts/)).toBeVisible();
	const toast = page.getByRole("status").filter({ hasText: `2 parts: ${name}.` });
	await expect(toast).toContainText("no mass →");
	await toast.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByTestId("total-mass")).toHaveText("no mass");

	await partRow(page, "Fork arm").click();
	await page.keyboard.press("Enter");
	await chooser(page).fill(name);
	await page.keyboard.press("Enter");
	await expect(partRow(page, "Fork arm")).toContainText("rev 1");
	const before = await totalMass(page);
	await page.reload();
	await expect(partRow(page, "Fork arm")).toContainText(name);
	expect(await totalMass(page)).toBe(before);
	expect(errors).toEqual([]);
});

test("a nested assembly: names, occurrences, one part used twice, and volumes within 1e-9", async ({ page, request }) => {
	await newProject(page, unique("Block"));
	await importFile(page, "nested.step");
	await expect(partRow(page, "Sheave Ø90")).toContainText("2");
	await expect(page.getByRole("grid", { name: "Parts" }).getByRole("row")).toHaveCount(6);
	const id = page.url().split("/").at(-1);
	const { value } = (await (await request.get(`/api/v1/projects/${id}`)).json()) as {
		value: {
			occurrences: { path: string; partId: string | null }[];
			parts: { id: string; productId: string; volume_m3: number; area_m2: number }[];
		};
	};
	const expected = JSON.parse(readFileSync(fixture("nested.expected.json"), "utf8")) as {
		occurrences: { path: string }[];
		parts: { part_id: string; volume_mm3: number; area_mm2: number }[];
	};
	expect(value.occurrences.filter((o) => o.partId !== null).map((o) => o.path)).toEqual(expected.occurrences.map((o) => o.path));
	for (const part of expected.parts) {
		const found = value.parts.find((p) => p.productId === part.part_id);
		expect(Math.abs(((found?.volume_m3 ?? 0) * 1e9) / part.volume_mm3 - 1)).toBeLessThan(1e-9);
		expect(Math.abs(((found?.area_m2 ?? 0) * 1e6) / part.area_mm2 - 1)).toBeLessThan(1e-9);
	}
});
