import { expect, type Page, test } from "@playwright/test";
import { ORIGIN, paste, unique, watchErrors } from "./helpers";

const grid = (page: Page) => page.getByRole("grid", { name: "Materials" });
const heading = (page: Page) => page.getByRole("heading", { level: 1 });

async function makeMaterial(page: Page, name: string): Promise<string> {
	const id = crypto.randomUUID();
	const reply = await page.request.post("/api/v1/materials", {
		headers: ORIGIN,
		data: { id, libraryId: "orrisay", name, group: "Test" },
	});
	expect(reply.ok()).toBe(true);
	return id;
}

test("cells are typed, filled down, cleared and copied; a bad one stays with its reason; all undone", async ({ page }) => {
	const errors = watchErrors(page);
	const names = ["a", "b", "c"].map((x) => unique(`Cells ${x}`));
	for (const name of names) await makeMaterial(page, name);
	const prefix = names[0]?.slice(0, 5) ?? "";
	await page.goto(`/materials?text=${prefix}&columns=density,youngs_modulus&sort=name&edit=1`);
	const cells = page.getByRole("rowgroup", { name: /^Cells/ });
	const cell = (row: number, column: number) => page.locator(`[data-index="${row}"] [data-cell="${column}"]`);
	await cells.focus();
	await page.keyboard.type("2.71");
	await page.keyboard.press("Enter");
	await expect(cell(0, 0)).toContainText("2.71");
	await page.keyboard.type("soft");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("alert")).toContainText("“soft” is not a number");
	// the rows below do not hide it
	const isOnTop = await page.getByRole("alert").evaluate((e) => {
		const { left, top, width, height } = e.getBoundingClientRect();
		return [0.2, 0.5, 0.8].every((share) => e.contains(document.elementFromPoint(left + width / 2, top + height * share)));
	});
	expect(isOnTop).toBe(true);
	await page.keyboard.press("Escape");
	await page.keyboard.press("ArrowUp");
	await page.keyboard.press("Shift+ArrowDown");
	await page.keyboard.press("Shift+ArrowDown");
	await expect(page.getByText("3 × 1 chosen")).toBeVisible();
	await page.keyboard.press("Alt+ArrowDown");
	await expect(page.getByText("Filled down: 2 cells of 2 materials changed, as drafts.")).toBeVisible();
	await expect(cell(2, 0)).toContainText("2.71");
	await page.getByRole("status").filter({ hasText: "Filled down" }).getByRole("button", { name: "Undo" }).click();
	await expect(cell(2, 0)).toContainText("blank");

	await cells.focus();
	await page.keyboard.press("Delete");
	await expect(cell(0, 0)).toContainText("blank");
	// publishing asks once for all, with what it touches
	await cells.focus();
	await paste(page, "#grid-rows", "Density [kg/m³]\tYoung's modulus [GPa]\n2700\t70\n7850\t207\n1140\t2.9");
	await expect(page.getByText("Pasted: 6 cells of 3 materials changed, as drafts.")).toBeVisible();
	await page.getByRole("button", { name: "Publish drafts…" }).click();
	await expect(page.getByRole("heading", { level: 1, name: "3 materials" })).toBeVisible();
	await page.getByLabel("Note", { exact: true }).fill("weighed and pulled");
	await page.getByRole("button", { name: "Publish 3 materials" }).click();
	await expect(page.getByText("3 materials published in one go.")).toBeVisible();
	await expect(cell(1, 0)).toContainText("7.85");
	await page.reload();
	await expect(cell(2, 1)).toContainText("2.9");
	// supplied rows say why they stay
	await page.goto("/materials?library=tolvane&columns=density&sort=name&edit=1");
	await page.getByRole("rowgroup", { name: /^Cells/ }).focus();
	await page.keyboard.type("1");
	await expect(page.getByText("This library is supplied and read-only.")).toBeVisible();
	expect(errors).toEqual([]);
});

test("columns take a unit, a place and a width of their own, kept in the address", async ({ page }) => {
	await page.goto("/materials?columns=density,youngs_modulus&library=orrisay&sort=name");
	await page.getByRole("button", { name: "Columns" }).click();
	const chooser = page.getByRole("dialog", { name: "Columns" });
	await chooser.getByLabel("Unit of Density").selectOption("lb/ft^3");
	await chooser.getByRole("button", { name: "Density further right" }).click();
	await page.keyboard.press("Escape");
	const edge = page.getByRole("separator", { name: "Width of Density" });
	await edge.focus();
	for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowRight");
	await expect(edge).toHaveAttribute("aria-valuenow", String(96 + 5 * 8));
	const box = await edge.boundingBox();
	if (box === null) throw new Error("no edge");
	await page.mouse.move(box.x + 4, box.y + 10);
	await page.mouse.down();
	await page.mouse.move(box.x + 34, box.y + 10, { steps: 4 });
	await page.mouse.up();
	await page.reload();
	await expect(edge).toHaveAttribute("aria-valuenow", String(96 + 5 * 8 + 30));
	await expect(page.getByRole("columnheader").last()).toContainText("lb/ft3");
	// 8.78 to 8.91 g/cm3 was typed as 548-556 lb/ft3, and shows as it was typed
	await expect(grid(page).getByRole("row").filter({ hasText: "Gudgeon bronze 5" }).first()).toContainText("548–556");
});

test("cells copied out carry their unit in the first row and paste back without changing anything", async ({ page }) => {
	await page.goto("/materials?text=Gudgeon+bronze&columns=density,youngs_modulus&sort=name&edit=1");
	const rows = page.getByRole("rowgroup", { name: /^Cells/ });
	await rows.focus();
	for (const key of ["Shift+ArrowDown", "Shift+ArrowRight"]) await page.keyboard.press(key);
	await expect(page.getByText("2 × 2 chosen")).toBeVisible();
	const copied = await page.evaluate(() => {
		const data = new DataTransfer();
		const event = new ClipboardEvent("copy", { clipboardData: data, bubbles: true, cancelable: true });
		document.querySelector("#grid-rows")?.dispatchEvent(event);
		return data.getData("text/plain");
	});
	expect(copied.split("\r\n")[0]).toBe("Density [g/cm^3]\tYoung’s modulus [GPa]");
	await paste(page, "#grid-rows", copied);
	await expect(page.getByText("Nothing changed: the cells hold that already.")).toBeVisible();
});

/** Units of each column as people paste them, with the exact factor to SI of each. */
const COLUMNS: readonly (readonly [property: string, units: readonly (readonly [string, number])[]])[] = [
	[
		"density",
		[
			["g/cm3", 1000],
			["kg/m3", 1],
			["lb/in3", 0.45359237 / 0.0254 ** 3],
		],
	],
	[
		"youngs_modulus",
		[
			["GPa", 1e9],
			["MPa", 1e6],
			["psi", (0.45359237 * 9.80665) / 0.0254 ** 2],
		],
	],
	[
		"shear_modulus",
		[
			["GPa", 1e9],
			["N/mm2", 1e6],
		],
	],
	[
		"yield_strength",
		[
			["MPa", 1e6],
			["ksi", (1000 * 0.45359237 * 9.80665) / 0.0254 ** 2],
		],
	],
	[
		"tensile_strength",
		[
			["MPa", 1e6],
			["N/mm²", 1e6],
		],
	],
	["elongation", [["%", 0.01]]],
	[
		"thermal_conductivity",
		[
			["W/(m·K)", 1],
			["W/(cm·K)", 100],
		],
	],
	[
		"specific_heat",
		[
			["J/(kg·K)", 1],
			["kJ/(kg·K)", 1000],
		],
	],
	[
		"thermal_expansion",
		[
			["10^-6/K", 1e-6],
			["1/K", 1],
		],
	],
	[
		"resistivity",
		[
			["Ω·m", 1],
			["µΩ·cm", 1e-8],
		],
	],
];
const NUMBERS = [2.7, 70, 26, 260, 310, 12, 150, 0.9, 23, 0.04] as const;

test("a paste of 200 x 10 cells with mixed units: every cell right or refused with its reason, one undo restores all", async ({
	page,
}) => {
	test.setTimeout(180_000);
	const prefix = unique("Block").replace(" ", "");
	const name = (i: number): string => `${prefix} ${String(i).padStart(3, "0")}`;
	const ids: string[] = [];
	for (let i = 0; i < 200; i++) ids.push(await makeMaterial(page, name(i)));
	const columns = COLUMNS.map(([id]) => id).join(",");
	await page.goto(`/materials?text=${prefix}&columns=${columns}&sort=name&edit=1`);
	await expect(heading(page)).toContainText("200 of");
	// every ninth row has a cell that is no number, every fiftieth a unit of something else
	const bad = (row: number, column: number): string | null => {
		if (row % 9 === 4 && column === 3) return "see sheet";
		return row % 50 === 7 && column === 0 ? "70 GPa" : null;
	};
	const wanted = Array.from({ length: 200 }, (_, row) =>
		COLUMNS.map(([, units], column) => {
			const [unit, factor] = units[row % units.length] as readonly [string, number];
			const si = (NUMBERS[column] as number) * (1 + row / 1000) * (units[0]?.[1] ?? 1);
			const number = Number((si / factor).toPrecision(6));
			return { text: bad(row, column) ?? `${number} ${unit}`, si: bad(row, column) === null ? number * factor : null };
		}),
	);
	await page.getByRole("rowgroup", { name: /^Cells/ }).focus();
	await paste(page, "#grid-rows", wanted.map((row) => row.map((c) => c.text).join("\t")).join("\n"));
	const refused = wanted.flat().filter((c) => c.si === null).length;
	await expect(page.getByText(`Pasted: ${2000 - refused} cells of 200 materials changed, as drafts.`)).toBeVisible({
		timeout: 60_000,
	});
	const list = page.getByRole("region", { name: "Cells that were not taken" });
	await expect(list).toContainText(`${refused} cells not taken`);
	await expect(list).toContainText("“see sheet” is not a number");
	await expect(list).toContainText(/The unit GPa .*does not fit; this value is measured in kg/);

	const read = async (): Promise<Map<string, Record<string, { low: number; high: number }>>> => {
		const query = new URLSearchParams({ text: prefix, sort: "name", limit: "1000" });
		const { value } = (await (await page.request.get(`/api/v1/materials?${query}`)).json()) as {
			value: { rows: { name: string; document: { values: Record<string, { low: number; high: number }> } }[] };
		};
		return new Map(value.rows.map((r) => [r.name, r.document.values]));
	};
	const after = await read();
	for (const [row, cells] of wanted.entries()) {
		for (const [column, { si, text }] of cells.entries()) {
			const property = COLUMNS[column]?.[0] ?? "";
			const held = after.get(name(row))?.[property];
			if (si === null) expect(held, text).toBeUndefined();
			else expect(Math.abs((held?.low ?? 0) / si - 1), `${name(row)} ${property} ${text}`).toBeLessThan(1e-12);
		}
	}
	await page.getByRole("status").filter({ hasText: "Pasted" }).getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText(/^Undone: Pasted/)).toBeVisible({ timeout: 60_000 });
	const restored = await read();
	expect([...restored.values()].every((values) => Object.keys(values).length === 0)).toBe(true);
	expect(restored.size).toBe(200);
	// the other journeys look at a small library
	for (const id of ids) await page.request.delete(`/api/v1/materials/${id}`, { headers: ORIGIN });
});

test("several blocks: Ctrl with a click adds one, Ctrl+Enter fills them all, one step takes it back", async ({ page }) => {
	const tag = unique("Blocks");
	for (const x of ["a", "b", "c"]) await makeMaterial(page, `${tag} ${x}`);
	await page.goto(`/materials?text=${encodeURIComponent(tag)}&columns=density,youngs_modulus&sort=name&edit=1`);
	const cell = (row: number, column: number) => page.locator(`[data-index="${row}"] [data-cell="${column}"]`);
	await cell(0, 0).click();
	await cell(2, 0).click({ modifiers: ["Control"] });
	await cell(1, 1).click({ modifiers: ["Control"] });
	await expect(page.getByText("3 blocks chosen, 3 cells")).toBeVisible();
	await page.keyboard.type("2.5");
	await page.keyboard.press("Control+Enter");
	await expect(page.getByText("Filled: 3 cells of 3 materials changed, as drafts.")).toBeVisible();
	await expect(cell(0, 0)).toContainText("2.5");
	await expect(cell(2, 0)).toContainText("2.5");
	await expect(cell(1, 1)).toContainText("2.5");
	await expect(cell(1, 0)).toContainText("blank");
	await page.getByRole("status").filter({ hasText: "Filled" }).getByRole("button", { name: "Undo" }).click();
	await expect(cell(2, 0)).toContainText("blank");
	await cell(1, 0).click();
	await expect(page.getByText("1 × 1 chosen")).toBeVisible();
});
