import { expect, test } from "@playwright/test";
import { importFile, newProject, unique, watchErrors } from "./helpers";
import { asPerson, newLibrary, newMaterial, publishHere, retype } from "./team";

test("a library: groups by keyboard and by dragging, editions, a project that follows one, roles, archive", async ({
	page,
	browser,
}) => {
	const errors = watchErrors(page);
	const title = unique("Yard boats");
	const library = await newLibrary(page, title);
	await page.getByRole("button", { name: "Open the lock" }).click();
	const name = unique("Hull plate");
	const id = await newMaterial(page, { library, name, density: "2.65 g/cm3", group: "Plates" });

	await page.goto(`/libraries/${library}`);
	await page.getByRole("button", { name: "New group" }).click();
	await page.getByLabel("Name of the group").fill("Hull");
	await page.getByRole("button", { name: "Make the group" }).click();
	const groups = page.getByRole("list", { name: "Groups" });
	await expect(groups.getByRole("listitem")).toHaveText([/^Hull0 materials/, /^Plates1 material/]);
	// into the neighbour above, and out again
	await groups.getByRole("link", { name: "Plates" }).press("Alt+ArrowRight");
	await expect(page.getByText("Plates moved under Hull")).toBeVisible();
	await page.goto(`/materials/${id}`);
	await expect(page.getByText("Hull / Plates").first()).toBeVisible();
	await page.goto(`/libraries/${library}`);
	await page.getByRole("button", { name: "More about the group Hull" }).click();
	await page.getByRole("button", { name: "Remove…" }).click();
	await page.getByRole("button", { name: "Remove it", exact: true }).click();
	await expect(groups.getByRole("listitem")).toHaveText([/^Plates1 material/]);

	// a row let go over a heading moves into that group
	const other = unique("Deck plate");
	await newMaterial(page, { library, name: other, density: "2.66 g/cm3", group: "Deck" });
	await page.goto(`/materials?library=${library}`);
	const heading = page.getByRole("row").filter({ hasText: /^Plates/ });
	const row = page.getByRole("row").filter({ hasText: other });
	const [from, to] = [await row.boundingBox(), await heading.boundingBox()];
	if (from === null || to === null) throw new Error("no rows");
	await page.mouse.move(from.x + 200, from.y + 16);
	await page.mouse.down();
	await page.mouse.move(to.x + 220, to.y + 10, { steps: 8 });
	await page.mouse.up();
	await expect(page.getByText("1 material moved")).toBeVisible();
	await expect(page.getByRole("row").filter({ hasText: /^Plates/ })).toContainText("2");

	// an edition, what changed since, and a project that follows it
	await page.goto(`/libraries/${library}`);
	await page.getByRole("button", { name: "Freeze edition 1…" }).click();
	await page.getByLabel("Note", { exact: true }).fill("for the first boat");
	await page.getByRole("button", { name: "Freeze it" }).click();
	await expect(page.getByRole("region", { name: "Editions" })).toContainText(/by Maren Vosk, 2 materials/);
	// written to a file; here it is the installation's own, which the page says before anything is taken in
	const file = await page.request.get(`/api/v1/libraries/${library}/editions/1/file.json`);
	await page.getByRole("button", { name: "New", exact: true }).click();
	await page.getByRole("radio", { name: /^An edition from a file/ }).check();
	await page
		.getByLabel("File of the edition")
		.setInputFiles({ name: "edition.json", mimeType: "application/json", buffer: await file.body() });
	await expect(page.getByRole("alert")).toContainText("is a library of this installation's own");
	await page.getByRole("button", { name: "Close", exact: true }).click();
	await page.goto(`/materials/${id}`);
	await retype(page, "2.65", "2.68 g/cm3");
	await publishHere(page, "weighed again");
	await page.goto(`/libraries/${library}`);
	await page.getByRole("link", { name: "What changed since edition 1" }).click();
	const compared = page.getByRole("region", { name: "Editions compared" });
	await expect(compared).toContainText("1 changed. 1 material the same.");
	await compared.getByRole("button", { name: "1 change" }).click();
	await expect(compared).toContainText("2.65 g/cm³→2.68 g/cm³");
	await page.goBack();
	await page.getByRole("button", { name: "Restore edition 1" }).click();
	await expect(page.getByRole("heading", { level: 1 })).toContainText(`${name}, revision 2 → 3`);
	await page.getByRole("button", { name: "Throw the draft away" }).click();

	await newProject(page, unique("Follows"));
	await importFile(page, "nested.step");
	await page.getByRole("row").filter({ hasText: "Becket" }).click();
	await page.keyboard.press("Enter");
	await page.getByRole("combobox", { name: /^Material for/ }).fill(name);
	await expect(page.getByRole("option").filter({ hasText: name })).toBeVisible();
	await page.keyboard.press("Enter");
	await expect(page.getByRole("row").filter({ hasText: "Becket" })).toContainText(name);
	await page.getByRole("button", { name: /^What the project follows/ }).click();
	await page.getByLabel(`What of ${title} it follows`).selectOption("1");
	// it stands on the newer revision, and the edition is what it is measured against
	await expect(page.getByText("Follows edition 1", { exact: true })).toBeVisible();
	await expect(page.getByText("1 behind")).toBeVisible();

	// who may what: nobody else, then a reader, then nobody again
	const rhea = await asPerson(browser, "rhea");
	await rhea.goto(`/libraries/${library}`);
	await expect(rhea.getByRole("alert")).toContainText("not here, or you may not see it");
	await page.goto(`/libraries/${library}`);
	await page.getByLabel("Give a role to").selectOption("everyone:");
	await page.getByRole("button", { name: "Give", exact: true }).click();
	await expect(page.getByText(/^Everyone here reads it\./)).toBeVisible();
	await rhea.goto(`/libraries/${library}`);
	await expect(rhea.getByRole("heading", { level: 1, name: title })).toBeVisible();
	await expect(rhea.getByRole("button", { name: "Open the lock" })).toBeHidden();
	await page.getByRole("button", { name: "Settings…" }).click();
	await page.getByRole("button", { name: "Archive the library" }).click();
	await expect(page.getByText(/^Archived: it is in nobody's lists\./)).toBeVisible();
	await rhea.reload();
	await expect(rhea.getByRole("alert")).toContainText("not here, or you may not see it");
	await page.getByRole("button", { name: "Bring it back" }).click();
	await expect(page.getByText(/^Archived: it is in nobody's lists\./)).toBeHidden();
	await rhea.context().close();
	expect(errors).toEqual([]);
});

test("many materials at once by the keyboard; what is used is asked first; a supplied row on the working list", async ({
	page,
}) => {
	const library = await newLibrary(page, unique("Yard many"));
	await page.getByRole("button", { name: "Open the lock" }).click();
	const names = [unique("Rail a"), unique("Rail b")];
	for (const name of names) await newMaterial(page, { library, name, density: "2.7 g/cm3" });
	await newProject(page, unique("Uses one"));
	await importFile(page, "nested.step");
	await page.getByRole("row").filter({ hasText: "Becket" }).click();
	await page.keyboard.press("Enter");
	await page.getByRole("combobox", { name: /^Material for/ }).fill(names[0] as string);
	await expect(page.getByRole("option").filter({ hasText: names[0] as string })).toBeVisible();
	await page.keyboard.press("Enter");
	await expect(page.getByTestId("total-mass")).not.toHaveText("no mass");

	await page.goto(`/materials?library=${library}`);
	await page.getByRole("rowgroup", { name: /^Rows/ }).focus();
	await page.keyboard.press(" ");
	await page.keyboard.press("Shift+ArrowDown");
	const bar = page.getByRole("toolbar", { name: "Marked materials" });
	await expect(bar).toContainText("2 materials marked");
	await bar.getByRole("button", { name: "Star", exact: true }).click();
	await expect(bar.getByRole("button", { name: "Unstar" })).toBeVisible();
	await bar.getByRole("button", { name: "Unstar" }).click();
	await bar.getByRole("button", { name: "Delete" }).click();
	const question = page.getByRole("dialog", { name: "Delete 2 materials?" });
	await expect(question).toContainText("1 part in 1 project stands on it.");
	await question.getByRole("button", { name: "Leave it" }).click();
	await expect(page.getByRole("row").filter({ hasText: names[0] as string })).toBeVisible();
	await bar.getByRole("button", { name: "Delete" }).click();
	await question.getByRole("button", { name: "Delete all the same" }).click();
	await expect(page.getByText("No material passes these filters.")).toBeVisible();
	await page.getByRole("status").filter({ hasText: "2 materials deleted" }).getByRole("button", { name: "Undo" }).click();
	await expect(page.getByRole("row").filter({ hasText: names[1] as string })).toBeVisible();

	await page.goto("/materials?library=tolvane&text=Ti-2");
	await page.getByRole("rowgroup", { name: /^Rows/ }).focus();
	await page.keyboard.press(" ");
	await page.getByRole("toolbar", { name: "Marked materials" }).getByRole("button", { name: "Working list" }).click();
	await expect(page.getByRole("row").filter({ hasText: "Tolvane Ti-2" })).toContainText("· working");
	await page.goto("/materials?marks=working");
	await expect(page.getByRole("group", { name: "Filters in words" })).toContainText("on the working list");
	await expect(page.getByRole("row").filter({ hasText: "Tolvane Ti-2" })).toBeVisible();
	await page.reload();
	await page
		.getByRole("row")
		.filter({ hasText: "Tolvane Ti-2" })
		.click({ modifiers: ["Control"] });
	await page.getByRole("button", { name: "Off the working list" }).click();
	await expect(page.getByRole("row").filter({ hasText: "Tolvane Ti-2" })).toBeHidden();
});
