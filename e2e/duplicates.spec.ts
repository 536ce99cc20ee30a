import { expect, test } from "@playwright/test";
import { importFile, newProject, partRow, totalMass, typeValue, unique, watchErrors } from "./helpers";
import { asPerson, newLibrary, newMaterial } from "./team";

test("entered twice: told while naming and before publishing, found, merged value by value, brought forward, taken back", async ({
	page,
}) => {
	const errors = watchErrors(page);
	const library = await newLibrary(page, unique("Yard doubles"));
	await page.getByRole("button", { name: "Open the lock" }).click();
	const tail = unique("").trim();
	const first = await newMaterial(page, { library, name: `Keelson bronze ${tail}`, density: "8.70 g/cm3" });

	// while it is typed
	await page.goto(`/materials?library=${library}`);
	await page.getByRole("button", { name: "New material" }).click();
	await page.getByLabel("Name", { exact: true }).fill(`Keelsno bronze ${tail}`);
	const told = page.getByRole("region", { name: "Perhaps it is here already" });
	await expect(told).toContainText(`Keelson bronze ${tail}`);
	await expect(told).toContainText("names a slip apart");

	// a name that somebody else uses for it says so, too
	await page.goto(`/materials/${first}`);
	const more = page.getByRole("button", { name: "designations, codes, price and more" });
	if (await more.isVisible()) await more.click();
	await page.getByLabel("Also known as").fill(`drawing office: KB ${tail}; 77-${tail}`);
	await page.getByLabel("Also known as").press("Enter");
	await expect(page.getByText(/Changed: names elsewhere of/)).toBeVisible();
	await page.reload();
	await page.goto(`/materials?library=${library}`);
	await page.getByRole("button", { name: "New material" }).click();
	await page.getByLabel("Name", { exact: true }).fill(`kb ${tail}`);
	await expect(told).toContainText("called so by drawing office");
	await page.keyboard.press("Escape");
	await page.getByRole("combobox", { name: "Find a material, part or action" }).fill(`77-${tail}`);
	await expect(page.getByRole("listbox", { name: "Found" }).getByRole("option").first()).toContainText(`known as 77-${tail}`);
	await page.keyboard.press("Escape");

	// and while one that is there gets another name; whoever only looks has not renamed it
	await page.goto(`/materials/${first}`);
	await page.getByRole("button", { name: `Keelson bronze ${tail}` }).click();
	const other = `Gudgeon bronze 55`;
	await page.getByLabel("Name", { exact: true }).fill(other);
	await expect(page.getByRole("region", { name: /is here/ })).toContainText("names apart by 55 / 5");
	await page
		.getByRole("region", { name: /is here/ })
		.getByRole("link")
		.first()
		.click();
	await expect(page.getByRole("heading", { level: 1 })).not.toContainText(other);
	await page.goto(`/materials/${first}`);
	await expect(page.getByRole("heading", { level: 1 })).toContainText(`Keelson bronze ${tail}`);

	// before it is published; it stands in nobody's way
	const second = await newMaterial(page, { library, name: `Keelsno bronze ${tail}`, density: "8.80 g/cm3" });
	await page.goto(`/materials/${second}`);
	await typeValue(page, "Young’s modulus", "110 GPa");
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await expect(page.getByRole("region", { name: /^Likely duplicates of Keelsno/ })).toContainText(`Keelson bronze ${tail}`);
	await page.getByLabel("Note", { exact: true }).fill("stiffness from the supplier");
	await page.getByRole("button", { name: /^Publish revision/ }).click();
	await page.waitForURL((url) => !url.pathname.startsWith("/libraries/publish"));

	await newProject(page, unique("Doubles"));
	await importFile(page, "nested.step");
	const project = page.url();
	await page.getByRole("row").filter({ hasText: "Becket" }).click();
	await page.keyboard.press("Enter");
	await page.getByRole("combobox", { name: /^Material for/ }).fill(`Keelsno bronze ${tail}`);
	await expect(page.getByRole("listbox", { name: "Materials" }).getByRole("option").first()).toContainText("Keelsno");
	await page.keyboard.press("Enter");
	await expect(partRow(page, "Becket")).toContainText("Keelsno");
	const before = await totalMass(page);

	// the finder, and the two side by side
	await page.goto(`/libraries/${library}`);
	await page.getByRole("button", { name: "Look for them" }).click();
	const pairs = page.getByRole("list", { name: "Pairs" });
	await expect(pairs.getByRole("listitem")).toHaveCount(1);
	await pairs.getByRole("link", { name: "Look and merge…" }).click();
	const merge = page.getByRole("region", { name: "Merge" });
	if (!(await merge.getByRole("heading", { level: 1 }).textContent())?.startsWith("Keelson"))
		await merge.getByRole("link", { name: "Keep the other" }).click();
	await expect(merge.getByRole("heading", { level: 1 })).toHaveText(`Keelson bronze ${tail} stays`);
	await expect(merge.getByRole("radio", { name: "Young’s modulus: the other's" })).toBeChecked();
	await expect(merge.getByRole("radio", { name: "Density: as it stands" })).toBeChecked();
	await expect(merge).toContainText("Becket");
	await merge.getByLabel("Note", { exact: true }).fill("entered twice");
	await merge.getByRole("button", { name: "Merge them" }).click();
	await expect(page.getByText(/is retired; .* takes its place/)).toBeVisible();
	await expect(page.getByRole("heading", { level: 1 })).toContainText("Keelson");
	await expect(page.locator("#line-youngs_modulus")).toContainText("110");
	await expect(page.locator("#line-density")).toContainText("8.70");

	// nothing moved by itself; the part is behind and is brought forward
	await page.goto(project);
	expect(await totalMass(page)).toBe(before);
	await expect(page.getByText("1 behind")).toBeVisible();
	await page.goto(`/materials/${second}`);
	await expect(page.getByText(/retired/i).first()).toBeVisible();

	// the step is in the history, narrowed there, and was one step: undone after a reload
	await page.goto(`/history/library/${library}?what=published`);
	await expect(page.getByText(`merged Keelsno bronze ${tail} into it`)).toBeVisible();
	await page.getByLabel("By", { exact: true }).selectOption("rhea");
	await expect(page.getByText("No step passes these filters.")).toBeVisible();
	await expect(page).toHaveURL(/by=rhea/);
	await page.getByLabel("By", { exact: true }).selectOption("");
	const download = page.waitForEvent("download");
	await page.getByRole("link", { name: "CSV" }).click();
	expect((await download).suggestedFilename()).toMatch(/^history of library .*\.csv$/);
	expect(first).not.toBe(second);
	expect(errors).toEqual([]);
});

test("merging is taken back by the toast, across a reload by nothing newer", async ({ page }) => {
	const library = await newLibrary(page, unique("Yard undone"));
	await page.getByRole("button", { name: "Open the lock" }).click();
	const tail = unique("").trim();
	const keep = await newMaterial(page, { library, name: `Thwart ash ${tail}`, density: "0.70 g/cm3" });
	const drop = await newMaterial(page, { library, name: `Twhart ash ${tail}`, density: "0.71 g/cm3" });
	await page.goto(`/libraries/merge?keep=${keep}&drop=${drop}`);
	await page.getByLabel("Note", { exact: true }).fill("twice");
	await page.getByRole("button", { name: "Merge them" }).click();
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText(/^Undone/)).toBeVisible();
	await page.goto(`/materials?library=${library}`);
	await expect(page.getByRole("grid").getByRole("link")).toHaveCount(2);
});

test("notices: a mark on the bell, what it is about, gone once looked at; a kind can be left out", async ({ page, browser }) => {
	const library = await newLibrary(page, unique("Yard bell"));
	await page.getByRole("button", { name: "Open the lock" }).click();
	const name = unique("Told plate");
	const id = await newMaterial(page, { library, name, density: "2.65 g/cm3" });
	await page.goto(`/libraries/${library}`);
	await page.getByLabel("Give a role to").selectOption("everyone:");
	await page.getByRole("button", { name: "Give", exact: true }).click();
	await expect(page.getByText(/^Everyone here reads it\./)).toBeVisible();
	const tove = await asPerson(browser, "tove");
	await tove.goto(`/materials/${id}`);
	await tove.goto(`/materials?library=${library}`);
	await tove.getByRole("rowgroup", { name: /^Rows/ }).focus();
	await tove.keyboard.press("s");
	await expect(tove.getByRole("button", { name: /^Remove the star of/ })).toHaveCount(1);
	await tove.getByRole("button", { name: /^Notices/ }).click();
	await tove.keyboard.press("Escape");

	await page.goto(`/materials/${id}`);
	await page.locator("#line-density").getByRole("button", { name: "2.65" }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("2.68 g/cm3");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByLabel("Note", { exact: true }).fill("weighed again");
	await page.getByRole("button", { name: /^Publish revision/ }).click();
	await page.waitForURL((url) => !url.pathname.startsWith("/libraries/publish"));

	const bell = tove.getByRole("button", { name: /^Notices, [1-9]/ });
	await bell.click();
	const list = tove.getByRole("dialog", { name: "Notices" });
	await expect(list).toContainText(`${name} revision 2 is out, by Maren Vosk`);
	await expect(list).toContainText("weighed again");
	await list.getByRole("link", { name: new RegExp(name) }).click();
	await expect(tove.getByRole("heading", { level: 1 })).toContainText(name);
	await expect(tove.getByRole("button", { name: "Notices, nothing new" })).toBeVisible();

	await tove.goto("/account");
	await tove.getByLabel(/^a new revision of something/).click();
	await expect(tove.getByLabel(/^a new revision of something/)).not.toBeChecked();
	await tove.reload();
	await expect(tove.getByLabel(/^a new revision of something/)).not.toBeChecked();
	await tove.getByRole("button", { name: /^Notices/ }).click();
	await expect(tove.getByRole("dialog", { name: "Notices" })).not.toContainText(name);
	await tove.context().close();
});
