import { expect, type Page, test } from "@playwright/test";
import {
	beginMaterial,
	chooser,
	fixture,
	importFile,
	newProject,
	options,
	partRow,
	publish,
	typeValue,
	unique,
	watchErrors,
} from "./helpers";

async function give(page: Page, part: string, material: string): Promise<void> {
	await partRow(page, part).click();
	await page.keyboard.press("Enter");
	await chooser(page).fill(material);
	await expect(options(page).first()).toContainText(material);
	await page.keyboard.press("Enter");
	await expect(partRow(page, part)).toContainText(material);
}

test("assign, replace, take away; the chooser shows readiness and the mass it would give", async ({ page }) => {
	const errors = watchErrors(page);
	await newProject(page, unique("Assign"));
	await importFile(page, "nested.step");
	await give(page, "Cheek", "ORS-AL 40 cast");
	await partRow(page, "Pin").click();
	await page.keyboard.press("Enter");
	// used in this project comes first
	await expect(options(page).first()).toContainText("ORS-AL 40 cast");
	await expect(options(page).first()).toContainText("used in this project");
	await chooser(page).fill("mild");
	await expect(options(page).first()).toContainText("0.1389 kg");
	await expect(options(page).first()).toHaveAccessibleName(/mass: ready/);
	await page.keyboard.press("Escape");
	await give(page, "Cheek", "Havrin mild plate");
	await page.keyboard.press("Delete");
	await expect(partRow(page, "Cheek")).toContainText("no material");
	await page.getByRole("status").filter({ hasText: "material removed" }).getByRole("button", { name: "Undo" }).click();
	await expect(partRow(page, "Cheek")).toContainText("Havrin mild plate");
	// a click into the empty view lets go of the selection, a click on a part takes it
	await page.getByRole("application").waitFor();
	await expect(page.locator("[data-ready=true]")).toBeVisible();
	const box = await page.getByRole("application").boundingBox();
	if (box === null) throw new Error();
	await page.mouse.click(box.x + 8, box.y + box.height - 8);
	await expect(page.getByRole("heading", { name: "All parts" })).toBeVisible();
	await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
	await expect(page.getByRole("row", { selected: true })).not.toHaveCount(0);
	expect(errors).toEqual([]);
});

test("a chip is dragged from the tray to a row, and to the selection", async ({ page }) => {
	await page.goto("/materials?text=grey+iron");
	await page.getByRole("button", { name: "To tray" }).click();
	await newProject(page, unique("Drag"));
	await importFile(page, "nested.step");
	const chip = page.getByRole("button", { name: "Drag Dunmar grey iron 2 to a part" });
	const drop = async (row: string): Promise<void> => {
		const [from, to] = [await chip.boundingBox(), await partRow(page, row).boundingBox()];
		if (from === null || to === null) throw new Error();
		await page.mouse.move(from.x + 5, from.y + 10);
		await page.mouse.down();
		await page.mouse.move(to.x + 80, to.y + 30, { steps: 8 });
		await page.mouse.move(to.x + 80, to.y + to.height / 2, { steps: 4 });
		await page.mouse.up();
	};
	await drop("Bush");
	await expect(partRow(page, "Bush")).toContainText("Dunmar grey iron 2");
	await partRow(page, "Cheek").click();
	await partRow(page, "Pin").click({ modifiers: ["Control"] });
	await drop("Pin");
	await expect(partRow(page, "Cheek")).toContainText("Dunmar grey iron 2");
	await expect(partRow(page, "Pin")).toContainText("Dunmar grey iron 2");
	// let go over a part in the 3D view: whichever part a click finds there
	await expect(page.locator("[data-ready=true]")).toBeVisible();
	const view = await page.getByRole("application").boundingBox();
	const from = await chip.boundingBox();
	if (view === null || from === null) throw new Error();
	const [x, y] = [view.x + view.width / 2, view.y + view.height / 2];
	await page.mouse.click(x, y);
	const hit = await page.getByRole("row", { selected: true }).first().getByRole("gridcell").first().textContent();
	await page.keyboard.press("Escape");
	await page.mouse.click(view.x + 8, view.y + view.height - 8);
	await partRow(page, hit ?? "").click();
	await page.keyboard.press("Delete");
	await expect(partRow(page, hit ?? "")).toContainText("no material");
	await page.mouse.click(view.x + 8, view.y + view.height - 8);
	await page.mouse.move(from.x + 5, from.y + 10);
	await page.mouse.down();
	await page.mouse.move(x - 40, y + 30, { steps: 8 });
	await page.mouse.move(x, y, { steps: 4 });
	await page.mouse.up();
	await expect(partRow(page, hit ?? "")).toContainText("Dunmar grey iron 2");
});

test("a new revision leaves parts behind, with no change of mass until they are brought forward; a draft can be tried", async ({
	page,
}) => {
	const material = unique("Moving");
	await beginMaterial(page, material);
	await typeValue(page, "Density", "2.00 g/cm3");
	await publish(page, "first");
	const sheet = page.url();
	await newProject(page, unique("Behind"));
	const project = page.url();
	await importFile(page, "nested.step");
	await give(page, "Becket", material);
	const mass = page.getByTestId("total-mass");
	await expect(mass).toHaveText("0.01011");

	await page.goto(sheet);
	await page.locator("#line-density").getByRole("button", { name: "2.00" }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("4.00 g/cm3");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await expect(page.getByText(/^Draft, saved/)).toBeVisible();

	await page.goto(project);
	await partRow(page, "Becket").click();
	await page.keyboard.press("Enter");
	await chooser(page).fill(material);
	await options(page).filter({ hasText: "your draft" }).click();
	await expect(partRow(page, "Becket")).toContainText("draft");
	await expect(mass).toHaveText("0.02021");
	await page.getByRole("status").filter({ hasText: "(draft)" }).getByRole("button", { name: "Undo" }).click();
	await expect(mass).toHaveText("0.01011");

	await page.goto(sheet);
	await page.getByRole("button", { name: "Publish draft…" }).click();
	const publishing = page.getByRole("region", { name: "Publish", exact: true });
	await expect(publishing.getByText("a value in use changes")).toHaveAttribute("aria-current", "true");
	await expect(publishing).toContainText("1 part0.01011 → 0.02021 kg");
	await publishing.getByRole("button", { name: /^Behind/ }).click();
	await expect(publishing).toContainText("Becket × 1");
	await page.getByLabel("Note", { exact: true }).fill("twice as heavy");
	await page.getByRole("button", { name: "Publish revision 2" }).click();
	await expect(page.getByText("Revision 2 of")).toBeVisible();

	await page.goto(project);
	await expect(page.getByText("1 behind")).toBeVisible();
	await expect(mass).toHaveText("0.01011");
	await page.getByRole("button", { name: "Bring forward…" }).click();
	const dialog = page.getByRole("dialog", { name: "Bring forward" });
	await expect(dialog).toContainText("0.01011 → 0.02021 kg");
	await dialog.getByRole("button", { name: "Bring all forward" }).click();
	await expect(mass).toHaveText("0.02021");
	await page.getByRole("status").filter({ hasText: "brought forward" }).getByRole("button", { name: "Undo" }).click();
	await expect(mass).toHaveText("0.01011");
});

test("files that cannot be read say why, and nothing is lost", async ({ page }) => {
	await newProject(page, unique("Bad files"));
	const input = page.getByLabel("STEP file");
	const send = (name: string, text: string) =>
		input.setInputFiles({ name, mimeType: "application/step", buffer: Buffer.from(text) });
	await send("letter.step", "Dear reader");
	await expect(page.getByRole("alert")).toContainText("letter.step: This is not a STEP file");
	await send("empty.step", "");
	await expect(page.getByRole("alert")).toContainText("empty.step");
	await send("cut.step", "ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=CARTESIAN_POINT('',(0.,");
	await expect(page.getByRole("alert")).toContainText("ends early, at line 5");
	await page.getByRole("button", { name: "Close this message" }).click();
	await expect(page.getByText("No parts yet.")).toBeVisible();
	// an import on its way can be stopped, and leaves nothing
	await input.setInputFiles(fixture("mount.step"));
	await page.getByRole("button", { name: "Cancel" }).click();
	await expect(page.getByText("mount.step: cancelled, nothing was imported.")).toBeVisible();
	await expect(page.getByText("No parts yet.")).toBeVisible();
	await importFile(page, "nested.step");
});

test("projects are renamed and deleted, with undo; the mass table is copied and downloaded", async ({ page, context }) => {
	const name = unique("Table");
	await newProject(page, name);
	await importFile(page, "nested.step");
	await give(page, "Pin", "Havrin mild plate");
	await context.grantPermissions(["clipboard-read"]);
	await page.getByRole("button", { name: "Copy the mass table" }).click();
	const text = await page.evaluate(() => navigator.clipboard.readText());
	const [head, ...rest] = text.split("\r\n");
	expect(head?.split("\t")).toContain("Mass [kg]");
	// 7850 x 8846.724912508858 mm3 x 2
	expect(
		rest
			.find((r) => r.startsWith("Pin"))
			?.split("\t")
			.slice(0, 7),
	).toEqual(["Pin", "2", "Havrin mild plate", "1", "8.84672491", "0.0694467906", "0.138893581"]);
	const download = page.waitForEvent("download");
	await page.getByRole("link", { name: "Download the mass table as CSV" }).click();
	expect((await download).suggestedFilename()).toContain("mass.csv");

	await page.goto("/parts");
	await page.getByRole("button", { name: `Rename ${name}` }).click();
	await page.getByLabel(`New name of ${name}`).fill(`${name} renamed`);
	await page.keyboard.press("Enter");
	await page.getByRole("button", { name: `Delete ${name} renamed` }).click();
	await expect(page.getByRole("link", { name: `${name} renamed` })).toHaveCount(0);
	await page.getByRole("status").filter({ hasText: "deleted" }).getByRole("button", { name: "Undo" }).click();
	await expect(page.getByRole("link", { name: `${name} renamed` })).toBeVisible();
});

test("the tree shows every occurrence with the sum of what lies below; choosing goes on in the list", async ({ page }) => {
	await newProject(page, unique("Tree"));
	await importFile(page, "nested.step");
	await give(page, "Pin", "Havrin mild plate");
	await page.getByRole("button", { name: "Tree" }).click();
	const tree = page.getByRole("tree");
	await expect(tree.getByRole("treeitem")).toHaveCount(12);
	// one pin of 7850 kg/m3 x 8846.72 mm3 lies in each set
	await expect(tree.getByRole("treeitem", { name: /Sheave set 1 of 2/ })).toContainText("1 of 3 parts0.069");
	await tree.getByRole("treeitem", { name: /Sheave set 1 of 2/ }).click();
	await page.keyboard.press("ArrowLeft");
	await expect(tree.getByRole("treeitem")).toHaveCount(9);
	await expect(page.getByRole("heading", { name: "6 parts selected" })).toBeVisible();
	await page.keyboard.type("cast");
	await expect(page.getByRole("combobox", { name: "Material for 6 parts" })).toHaveValue("cast");
	await page.keyboard.press("Escape");
	await page.getByRole("button", { name: "Tree" }).focus();
	await page.keyboard.press("?");
	await expect(page.getByRole("dialog", { name: /^What the marks mean/ })).toContainText("data sheet");
});
