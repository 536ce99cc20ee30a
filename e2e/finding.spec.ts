import { expect, type Page, test } from "@playwright/test";
import { settled, unique, watchErrors } from "./helpers";

const grid = (page: Page) => page.getByRole("grid", { name: "Materials" });
const heading = (page: Page) => page.getByRole("heading", { level: 1 });

/** How many pass, as the heading says; other tests add to how many there are. */
async function passing(page: Page): Promise<string> {
	return /Materials(\d+) of/.exec((await heading(page).textContent()) ?? "")?.[1] ?? "";
}

test("filters read as a sentence, are saved as a view and come back by it", async ({ page }) => {
	const errors = watchErrors(page);
	await page.goto("/materials");
	await page.getByRole("checkbox", { name: /^values over temperature/ }).check();
	await page.getByRole("checkbox", { name: /^linear static/ }).check();
	const sentence = page.getByRole("group", { name: "Filters in words" });
	await expect(sentence).toContainText("ready for");
	await expect(sentence).toContainText("carrying");
	const counted = await settled(page, () => passing(page));
	await page.getByRole("button", { name: "Save as a view" }).click();
	const name = unique("Warm ones");
	await page.getByLabel("Name of this view").fill(name);
	await page.getByRole("dialog", { name: "Save this view" }).getByRole("button", { name: "Save", exact: true }).click();
	await expect(page.getByText(`The view “${name}” is saved.`)).toBeVisible();
	await page.keyboard.press("Escape");

	await sentence.getByRole("button", { name: "Clear" }).click();
	await expect(sentence).toBeHidden();
	await page.reload();
	await page.getByRole("button", { name: "Views" }).click();
	await page.getByRole("link", { name }).click();
	await expect(page).toHaveURL(/carries=over_temperature/);
	await expect.poll(() => passing(page)).toBe(counted);
	// chips go one by one
	await page.keyboard.press("Escape");
	await sentence.getByRole("button", { name: /carrying values over temperature/ }).click();
	await expect(page).not.toHaveURL(/carries/);
	expect(errors).toEqual([]);
});

test("a star is a filter, newest first an order; both are found again after a reload", async ({ page }) => {
	await page.goto("/materials?sort=name&text=Tolvane");
	await page.getByRole("rowgroup", { name: /^Rows/ }).focus();
	await page.keyboard.press("s");
	const starred = page.getByRole("button", { name: /^Remove the star of/ });
	await expect(starred).toHaveCount(1);
	const name = ((await starred.getAttribute("aria-label")) ?? "").replace("Remove the star of ", "");
	await page.getByRole("checkbox", { name: /^starred/ }).check();
	await expect(grid(page).getByRole("link")).toHaveText([name]);
	await page.reload();
	await expect(grid(page).getByRole("link")).toHaveText([name]);
	await starred.click();
	await expect(page.getByText("No material passes these filters.")).toBeVisible();
});

test("stars stand in an order of one's own: dragged or moved by keys, found again after a reload", async ({ page }) => {
	await page.goto("/materials?sort=name&text=Tolvane");
	const rows = page.getByRole("rowgroup", { name: /^Rows/ });
	await rows.focus();
	for (let i = 0; i < 3; i++) {
		await page.keyboard.press("s");
		await page.keyboard.press("ArrowDown");
	}
	const links = grid(page).getByRole("link");
	await page.getByRole("checkbox", { name: /^starred/ }).check();
	await expect(links).toHaveCount(3);
	const [a = "", b = "", c = ""] = await links.allTextContents();
	await page.getByRole("button", { name: "In my order" }).click();
	await expect(links).toHaveText([a, b, c]);
	const middle = async (name: string): Promise<[number, number]> => {
		const box = await page.getByRole("row").filter({ hasText: name }).boundingBox();
		if (box === null) throw new Error(name);
		return [box.x + 320, box.y + box.height / 2];
	};
	await page.mouse.move(...(await middle(c)));
	await page.mouse.down();
	const [x, y] = await middle(a);
	await page.mouse.move(x, y + 10, { steps: 6 });
	await page.mouse.move(x, y, { steps: 3 });
	await page.mouse.up();
	await expect(links).toHaveText([c, a, b]);
	await page.reload();
	await expect(links).toHaveText([c, a, b]);
	await page.getByRole("row").filter({ hasText: a }).click();
	await page.keyboard.press("Alt+ArrowDown");
	await expect(links).toHaveText([c, b, a]);
	for (const name of [a, b, c]) await page.getByRole("button", { name: `Remove the star of ${name}`, exact: true }).click();
	await expect(page.getByText("No material passes these filters.")).toBeVisible();
});

test("strips: dragging counts while it goes, the keyboard moves handles, the address keeps it", async ({ page }) => {
	const errors = watchErrors(page);
	await page.goto("/materials?strips=density,youngs_modulus");
	const track = page.locator('[data-strip="density"]');
	const box = await track.boundingBox();
	if (box === null) throw new Error("no strip");
	const y = box.y + box.height / 2;
	await page.mouse.move(box.x + box.width * 0.6, y);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width * 0.85, y, { steps: 6 });
	await expect(heading(page)).not.toContainText(/Materials(\d+) of \1$/);
	// counting keeps pace with the pointer, a frame or two behind
	const dragged = await settled(page, () => passing(page));
	await page.mouse.up();
	await expect(page).toHaveURL(/where=density/);
	await expect.poll(() => passing(page)).toBe(dragged);
	// what the server finds is what was counted
	const where = new URL(page.url()).searchParams.get("where") ?? "";
	const reply = await page.request.get(`/api/v1/materials?${new URLSearchParams({ where, retired: "hide" })}`);
	const { value } = (await reply.json()) as { value: { total: number; all: number } };
	expect(dragged).toBe(String(value.total));

	const low = page.getByRole("slider", { name: "Density, at least" });
	const before = await low.getAttribute("aria-valuetext");
	await low.focus();
	await page.keyboard.press("PageUp");
	await expect(low).not.toHaveAttribute("aria-valuetext", before ?? "");
	await page.keyboard.press("Delete");
	await expect(page).not.toHaveURL(/where/);
	await expect(heading(page)).toContainText(/Materials(\d+) of \1/);

	await page.getByRole("button", { name: /^Axis of Density/ }).click();
	await expect(page).toHaveURL(/strips=density%40(lin|log)/);
	await page.getByRole("button", { name: "Strip", exact: true }).click();
	await page.getByRole("dialog", { name: "Strips" }).getByLabel("Thermal conductivity", { exact: true }).check();
	await expect(page.locator('[data-strip="thermal_conductivity"]')).toBeVisible();
	expect(errors).toEqual([]);
});

test("the finder: exact first, slips forgiven, parts, projects and actions, by keyboard from anywhere", async ({ page }) => {
	await page.goto("/parts");
	const field = page.getByRole("combobox", { name: "Find a material, part or action" });
	await field.waitFor();
	await page.keyboard.press("Control+k");
	await expect(field).toBeFocused();
	const found = page.getByRole("listbox", { name: "Found" }).getByRole("option");
	await field.fill("gudgeon bronze 5");
	await expect(found.first()).toContainText("Gudgeon bronze 5");
	await expect(found.first()).toContainText("8.78–8.91");
	await expect(found.first()).not.toContainText("cautious");
	await field.fill("gugdeon");
	await expect(found.first()).toContainText("Gudgeon");
	await page.keyboard.press("Control+Enter");
	await expect(page.getByRole("region", { name: "Tray" })).toContainText("1 held");

	await page.keyboard.press("Control+k");
	await field.fill("bearing bush");
	await expect(found.first()).toContainText("part of Sampling winch");
	await page.keyboard.press("Enter");
	await expect(page).toHaveURL(/\/parts\/winch/);
	await page.keyboard.press("Control+k");
	await field.fill("compare");
	await page.keyboard.press("Enter");
	await expect(page).toHaveURL(/\/compare\?ids=/);
	await page.keyboard.press("Control+k");
	// what is asked outright: a value, a number in another unit; Enter copies
	await field.fill("rho AL 21");
	await expect(found.first()).toContainText("ORS-AL 21 T6: 2.70 g/cm³");
	await field.fill("35 ksi in MPa");
	await expect(found.first()).toContainText("241.317 MPa");
	await page.keyboard.press("Enter");
	await expect(page.getByText("241.317 MPa is in the clipboard.")).toBeVisible();
	await page.keyboard.press("Control+k");
	await field.fill("zzzzzz");
	await expect(page.getByText("Nothing is called “zzzzzz”.")).toBeVisible();
	await page.keyboard.press("Escape");
	await expect(field).not.toBeFocused();
});
