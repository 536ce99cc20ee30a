import { expect, test } from "@playwright/test";
import { importFile, newProject, unique, watchErrors } from "./helpers";
import { asPerson, newLibrary, newMaterial, retype } from "./team";

test("a correction: published with its effects, behind in both projects, one brought forward, taken back, told by history", async ({
	page,
}) => {
	const errors = watchErrors(page);
	const library = await newLibrary(page, unique("Yard corrections"));
	await page.getByRole("button", { name: "Open the lock" }).click();
	await expect(page.getByRole("region", { name: "Lock" })).toContainText("by you");
	const name = unique("Keel plate");
	const id = await newMaterial(page, { library, name, density: "2.00 g/cm3" });
	const projects: string[] = [];
	for (const title of [unique("Dinghy"), unique("Tender")]) {
		await newProject(page, title);
		projects.push(page.url());
		await importFile(page, "nested.step");
		await page.getByRole("row").filter({ hasText: "Becket" }).click();
		await page.keyboard.press("Enter");
		await page.getByRole("combobox", { name: /^Material for/ }).fill(name);
		await expect(page.getByRole("option").filter({ hasText: name })).toBeVisible();
		await page.keyboard.press("Enter");
		await expect(page.getByTestId("total-mass")).toHaveText("0.01011");
	}
	await page.goto(`/materials/${id}`);
	await retype(page, "2.00", "4.00 g/cm3");
	await page.getByRole("button", { name: "Publish draft…" }).click();
	const publishing = page.getByRole("region", { name: "Publish", exact: true });
	await expect(publishing.getByText("because 2 projects stand on it")).toBeVisible();
	await expect(publishing.getByText("0.01011 → 0.02021 kg")).toHaveCount(2);
	await expect(publishing.getByText("+0.0101 kg")).toHaveCount(2);
	await page.getByLabel("Note", { exact: true }).fill("weighed twice");
	await page.getByRole("button", { name: "Publish revision 2" }).click();
	for (const project of projects) {
		await page.goto(project);
		await expect(page.getByText("1 behind")).toBeVisible();
		await expect(page.getByTestId("total-mass")).toHaveText("0.01011");
	}
	// the second goes forward, the first stays
	await page.getByRole("button", { name: "Bring forward…" }).click();
	const dialog = page.getByRole("dialog", { name: "Bring forward" });
	await dialog.getByRole("button", { name: "What changes for Becket" }).click();
	await expect(dialog.getByRole("listitem").filter({ hasText: "Density" }).last()).toContainText("2.00 g/cm³→4.00 g/cm³");
	await dialog.getByRole("button", { name: "Bring all forward" }).click();
	await expect(page.getByTestId("total-mass")).toHaveText("0.02021");
	await page.getByRole("status").filter({ hasText: "brought forward" }).getByRole("button", { name: "Undo" }).click();
	await expect(page.getByTestId("total-mass")).toHaveText("0.01011");
	await page.getByRole("button", { name: /^What the project follows/ }).click();
	const happened = page.getByRole("list", { name: "What happened" });
	await expect(happened.getByRole("listitem").first()).toContainText("took back: bringing parts forward");
	await expect(happened.getByRole("listitem").nth(1)).toContainText(`brought Becket forward to ${name} rev 2`);
	await page.goto(projects[0] as string);
	await expect(page.getByText("1 behind")).toBeVisible();
	// a frozen project shows none of it
	await page.getByRole("button", { name: /^What the project follows/ }).click();
	await page.getByLabel(/^frozen: every part/).click();
	await expect(page.getByText("Frozen: stays as it is")).toBeVisible();
	await expect(page.getByText("1 behind")).toBeHidden();
	await page.goto(`/libraries/${library}`);
	await expect(page.getByRole("list", { name: "What happened" })).toContainText(`published revision 2: ${name} “weighed twice”`);
	expect(errors).toEqual([]);
});

test("two people on one material: each knows of the other, the lock goes from hand to hand, nothing is lost", async ({
	page,
	browser,
}) => {
	const name = unique("Two hands");
	const library = await newLibrary(page, unique("Yard shared"));
	for (const person of ["tove", "okke"]) {
		await page.getByLabel("Give a role to").selectOption(`person:${person}`);
		await page.getByLabel("Role", { exact: true }).selectOption("editor");
		await page.getByRole("button", { name: "Give", exact: true }).click();
		await expect(page.getByLabel("Give a role to")).toHaveValue("");
	}
	await expect(page.getByText(/Okke Brandal and Tove Ehmsen draft and publish\./)).toBeVisible();
	await page.getByRole("button", { name: "Open the lock" }).click();
	const id = await newMaterial(page, { library, name, density: "2.70 g/cm3" });
	await page.goto(`/libraries/${library}`);
	await page.getByRole("button", { name: "Close it" }).click();
	await expect(page.getByRole("region", { name: "Lock" })).toContainText("Locked.");

	const tove = await asPerson(browser, "tove");
	const okke = await asPerson(browser, "okke");
	await tove.goto(`/materials/${id}`);
	await retype(tove, "2.70", "2.72 g/cm3");
	await okke.goto(`/materials/${id}`);
	await expect(okke.getByText(/^Tove Ehmsen has a draft too/)).toBeVisible();
	await expect(okke.locator("#line-density")).toContainText("2.70");
	await retype(okke, "2.70", "2.69 g/cm3");
	await okke.getByLabel("Several at once:").fill("E 70 GPa");
	await okke.getByLabel("Several at once:").press("Enter");
	await expect(okke.locator("#line-youngs_modulus")).toContainText("70");
	await expect(okke.getByText(/^Draft, saved/)).toBeVisible();
	await tove.reload();
	await expect(tove.getByText(/^Okke Brandal has a draft too/)).toBeVisible();

	await tove.getByRole("button", { name: "Publish draft…" }).click();
	await expect(tove.getByText(/Okke Brandal has a draft of .* too/)).toBeVisible();
	await expect(tove.getByRole("button", { name: "Publish revision 2" })).toBeDisabled();
	await tove.getByRole("button", { name: "Open the lock" }).click();
	await tove.getByLabel("Note", { exact: true }).fill("weighed");
	await tove.getByRole("button", { name: "Publish revision 2" }).click();
	await expect(tove.getByText(/^Revision 2 of/)).toBeVisible();

	// the second finds the lock with the first, takes it over, and settles the one value that both changed
	await okke.getByRole("button", { name: "Publish draft…" }).click();
	await expect(okke.getByRole("region", { name: "Lock" })).toContainText("by Tove Ehmsen");
	await okke.getByRole("button", { name: "Take it over from Tove Ehmsen" }).click();
	await expect(okke.getByRole("region", { name: "Lock" })).toContainText("by you");
	const clash = okke.getByRole("region", { name: "Changed by both" });
	await expect(clash).toContainText("Revision 2 came out meanwhile. 1 value both changed");
	await clash.getByLabel("mine").check();
	await clash.getByRole("button", { name: "Put the draft on revision 2" }).click();
	await expect(clash).toBeHidden();
	await okke.getByLabel("Note", { exact: true }).fill("weighed dry");
	await okke.getByRole("button", { name: "Publish revision 3" }).click();
	await expect(okke.getByText(/^Revision 3 of/)).toBeVisible();
	await tove.goto(`/materials/${id}`);
	await expect(tove.locator("#line-density")).toContainText("2.69");
	await expect(tove.locator("#line-youngs_modulus")).toContainText("70");
	await expect(tove.getByRole("link", { name: "Rev 2 · weighed" })).toBeVisible();
	// an older revision: read, compared, and had again as a draft
	await tove.getByRole("link", { name: "Rev 2 · weighed" }).click();
	await tove.getByRole("button", { name: "2 changes to revision 3" }).click();
	await expect(tove.getByRole("list", { name: "Revision 2 against revision 3" })).toContainText("2.72 g/cm³");
	// beside any other one, which stays in the address
	await tove.getByLabel("beside").selectOption({ label: "revision 1" });
	await expect(tove.getByRole("list", { name: "Revision 1 against revision 2" })).toContainText("2.72 g/cm³");
	await tove.reload();
	await expect(tove.getByLabel("beside")).toHaveValue("1");
	await expect(tove.getByRole("button", { name: /^\d changes? since revision 1$/ })).toBeVisible();
	await tove.getByRole("button", { name: "Restore as my draft" }).click();
	await expect(tove.locator("#line-density")).toContainText("2.72");
	await expect(tove.getByRole("button", { name: "Publish draft…" })).toBeVisible();
	await tove.context().close();
	await okke.context().close();
});

test("a second person approves what they have seen; two libraries are shared and frozen together", async ({ page, browser }) => {
	const title = unique("Yard approved");
	const library = await newLibrary(page, title);
	await page.getByLabel("Give a role to").selectOption("person:tove");
	await page.getByLabel("Role", { exact: true }).selectOption("editor");
	await page.getByRole("button", { name: "Give", exact: true }).click();
	await expect(page.getByText(/Tove Ehmsen drafts and publishes\./)).toBeVisible();
	await page.getByRole("button", { name: "Open the lock" }).click();
	const name = unique("Stanchion");
	const id = await newMaterial(page, { library, name, density: "7.80 g/cm3" });
	await page.goto(`/libraries/${library}`);
	await page.getByRole("button", { name: "Settings…" }).click();
	await page.getByLabel("publishing asks a second person").check();
	await page.getByRole("button", { name: "Save", exact: true }).click();
	await page.getByRole("button", { name: "Close it" }).click();

	const tove = await asPerson(browser, "tove");
	await tove.goto(`/materials/${id}`);
	await retype(tove, "7.80", "7.85 g/cm3");
	await tove.getByRole("button", { name: "Publish draft…" }).click();
	// proposing publishes nothing, so the lock stays shut
	await expect(tove.getByRole("region", { name: "Lock" })).toHaveCount(0);
	await expect(tove.getByText("A second person approves before it is out.")).toBeVisible();
	await tove.getByLabel("Note", { exact: true }).fill("weighed");
	await tove.getByRole("button", { name: "Ask for approval" }).click();
	await expect(tove.getByText("1 draft waits for approval.")).toBeVisible();

	await page.reload();
	const waiting = page.getByRole("region", { name: "Waiting for approval" });
	await waiting.getByRole("button", { name: "1 change" }).click();
	await expect(waiting.getByRole("list", { name: `What would change in ${name}` })).toContainText("7.80 g/cm³→7.85 g/cm³");
	await waiting.getByRole("button", { name: "Approve" }).click();
	await expect(page.getByText("1 material published.")).toBeVisible();
	await expect(waiting).toBeHidden();
	await tove.reload();
	await expect(tove.locator("#line-density")).toContainText("7.85");
	await expect(tove.getByRole("link", { name: "Rev 2 · weighed" })).toBeVisible();

	const set = unique("Yard set");
	await page.getByRole("button", { name: "New", exact: true }).click();
	await page.getByRole("radio", { name: /^A set of libraries/ }).check();
	await page.getByLabel("Name", { exact: true }).fill(set);
	await page.getByRole("checkbox", { name: title }).check();
	await page.getByRole("button", { name: "Make the set" }).click();
	await expect(page.getByRole("heading", { level: 1, name: set })).toBeVisible();
	await page.getByRole("button", { name: "Freeze together…" }).click();
	await page.getByLabel("Note", { exact: true }).fill("together");
	await page.getByRole("button", { name: "Freeze all of them" }).click();
	// the lock is shut since; where it stood in the way is the button that opens it
	const frozen = page.getByRole("dialog");
	await expect(frozen.getByRole("alert")).toContainText("lock");
	await frozen.getByRole("button", { name: "Open the lock" }).click();
	await expect(page.getByText(`The lock of ${title} is open, by you.`)).toBeAttached();
	await page.getByRole("button", { name: "Freeze all of them" }).click();
	await expect(page.getByText("Set of libraries, frozen once")).toBeVisible();
	const rhea = await asPerson(browser, "rhea");
	await rhea.goto(`/libraries/${library}`);
	await expect(rhea.getByRole("alert")).toContainText("not here, or you may not see it");
	await page.getByLabel("Give a role to").selectOption("person:rhea");
	await page.getByRole("button", { name: "Give", exact: true }).click();
	await expect(page.getByLabel("Role of Rhea Lindmark", { exact: true })).toBeVisible();
	await rhea.reload();
	await expect(rhea.getByText(`through the set`)).toBeHidden();
	await expect(rhea.getByRole("region", { name: "Editions" })).toContainText(`with the set ${set}`);
	await tove.context().close();
	await rhea.context().close();
});
