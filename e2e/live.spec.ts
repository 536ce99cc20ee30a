import { expect, type Page, test } from "@playwright/test";
import { newProject, ORIGIN, unique, watchErrors } from "./helpers";
import { asPerson, newLibrary, newMaterial, publishHere, retype } from "./team";

const bar = (page: Page, text: RegExp | string) => page.getByRole("status").filter({ hasText: text });

test("a publish is told to whoever has the material open; no number moves until it is asked for", async ({ page, browser }) => {
	const errors = watchErrors(page);
	const library = await newLibrary(page, unique("Yard news"));
	await page.getByRole("button", { name: "Open the lock" }).click();
	const name = unique("Newsworthy");
	const id = await newMaterial(page, { library, name, density: "2.65 g/cm3", group: "Plates" });
	await page.request.post(`/api/v1/libraries/${library}/grants`, {
		headers: ORIGIN,
		data: { by: "everyone", subject: "", role: "reader" },
	});
	const rhea = await asPerson(browser, "rhea");
	await rhea.goto(`/materials/${id}`);
	await expect(rhea.getByRole("heading", { level: 1, name })).toBeVisible();
	const density = rhea.getByRole("region", { name: "Mass" }).or(rhea.locator("main")).first();
	await expect(density).toContainText("2.65");

	await page.goto(`/materials/${id}`);
	await retype(page, "2.65", "2.68 g/cm3");
	await publishHere(page, "weighed again");
	await expect(bar(rhea, `Revision 2 of ${name} is out (Maren Vosk)`)).toBeVisible();
	await expect(density).toContainText("2.65");
	await expect(density).not.toContainText("2.68");
	// whoever did it is not told
	await expect(bar(page, "is out")).toBeHidden();
	await rhea.getByRole("button", { name: "Show it" }).click();
	await expect(density).toContainText("2.68");
	await expect(bar(rhea, "is out")).toBeHidden();

	// a list says it too, and "Later" leaves it as it is
	await rhea.goto(`/materials?library=${library}`);
	await expect(rhea.getByRole("grid")).toContainText("2.68");
	await page.goto(`/materials/${id}`);
	await retype(page, "2.68", "2.70 g/cm3");
	await publishHere(page, "and again");
	await expect(bar(rhea, `Revision 3 of ${name} is out`)).toBeVisible();
	await rhea.getByRole("button", { name: "Later" }).click();
	await expect(rhea.getByRole("grid")).toContainText("2.68");
	await expect(bar(rhea, "is out")).toBeHidden();

	// what holds no number is simply right: the lock closes under the reader's eyes
	await rhea.goto(`/libraries/${library}`);
	const lock = rhea.getByRole("region", { name: "Lock" });
	await expect(lock).toContainText("Since");
	await page.goto(`/libraries/${library}`);
	await page.getByRole("button", { name: "Close it" }).click();
	await expect(lock).toContainText("Locked.");
	await rhea.context().close();
	expect(errors).toEqual([]);
});

test("a project of several people: the other's assignment is told, one's own is not", async ({ page, browser }) => {
	const title = unique("Shared frame");
	await newProject(page, title);
	const id = new URL(page.url()).pathname.split("/").at(-1) ?? "";
	await page.request.post(`/api/v1/projects/${id}/grants`, {
		headers: ORIGIN,
		data: { by: "person", subject: "okke", role: "editor" },
	});
	const okke = await asPerson(browser, "okke");
	await okke.goto(`/parts/${id}`);
	await expect(okke.getByText("No parts yet.")).toBeVisible();
	await okke.getByLabel("STEP file").setInputFiles(new URL("../fixtures/nested.step", import.meta.url).pathname);
	await expect(okke.getByText("nested.step is in.")).toBeVisible({ timeout: 30_000 });
	await expect(bar(page, `Geometry came into ${title} (Okke`)).toBeVisible();
	await expect(page.getByText("No parts yet.")).toBeVisible();
	await expect(bar(okke, "Geometry came")).toBeHidden();
	await page.getByRole("button", { name: "Show it" }).click();
	await expect(page.getByRole("grid", { name: "Parts" })).toContainText("Becket");
	await okke.context().close();
});
