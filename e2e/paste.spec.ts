import { expect, test } from "@playwright/test";
import { beginMaterial, documentOf, file, line, PAGE_TEXT, POINTS, paste, saved, unique, watchErrors } from "./helpers";

test("a complete bronze from a page and a spreadsheet in under 25 actions", async ({ page }) => {
	const errors = watchErrors(page);
	let actions = 0;
	const act = async (what: Promise<unknown>): Promise<void> => {
		actions++;
		await what;
	};
	await act(page.goto("/materials"));
	await act(page.getByRole("button", { name: "New material" }).click());
	await act(page.getByLabel("Name", { exact: true }).fill(unique("Bronze of a newcomer")));
	await act(page.getByRole("button", { name: "Begin the sheet" }).click());
	await act(page.getByLabel("Family").selectOption("metal.copper"));
	await act(page.getByRole("link", { name: "or paste a page" }).click());
	await act(paste(page, PAGE_TEXT, file("page-paste.txt")));
	// the page asks two things and keeps in sight what it did not understand
	await expect(page.getByRole("list", { name: "Lines of the page" })).toContainText("Call us on 555 0148 for 24 h delivery");
	await expect(page.getByText("18 lines pasted · 14 understood · 2 headings · 2 left")).toBeVisible();
	await expect(page.getByRole("button", { name: "Take 13 values" })).toBeVisible();
	await act(page.getByRole("button", { name: "guaranteed", exact: true }).click());
	await act(page.getByLabel("Gauge of the elongation").selectOption("A"));
	await act(page.getByRole("button", { name: "Take 15 values" }).click());
	await expect(page.getByRole("button", { name: /^strength/ })).toBeVisible();
	await act(page.getByRole("link", { name: "blank, paste or type points" }).first().click());
	await act(paste(page, POINTS, file("curve-paste.txt")));
	await act(page.getByLabel("Loading").selectOption("tension"));
	await expect(page.getByText("125.5 MPa at 0.2 % plastic strain.")).toBeVisible();
	await act(page.getByRole("link", { name: /^Bronze of a newcomer/ }).click());
	for (const use of ["mass", "linear static", "strength", "modal", "thermal", "thermal stress", "plasticity"])
		await expect(page.getByRole("button", { name: new RegExp(`^${use}$|^${use} `) }).first()).toBeVisible();
	await act(page.getByLabel("Evidence, source and more of Stress-strain curve").click());
	await act(page.getByLabel("Evidence", { exact: true }).selectOption("measured"));
	await saved(page);
	const comb = page.getByRole("complementary", { name: "Readiness, checks and revisions" });
	await expect(comb.getByRole("button", { name: "plasticity" })).toHaveAttribute("title", /plasticity: ready\n/);
	await act(page.getByRole("button", { name: "Publish draft…" }).click());
	await act(page.getByLabel("Note", { exact: true }).fill("from the supplier's page and our own test"));
	await act(page.getByRole("button", { name: "Publish revision 1" }).click());
	await expect(page.getByText(/^Revision 1 of .* is out\./)).toBeVisible();
	expect(actions).toBeLessThan(25);

	// what was taken is what the expected files say, and every value carries its source
	const document = await documentOf(page);
	const expected = JSON.parse(file("page-paste.expected.json")) as {
		recognised: { property: string; si_low: number; si_high: number | null }[];
	};
	for (const e of expected.recognised) {
		const value = document.values[e.property] as { low: number; high: number | null; sourceId: string; evidence: string };
		expect(Math.abs(value.low / e.si_low - 1), e.property).toBeLessThan(1e-9);
		if (e.si_high === null) expect(value.high).toBeNull();
		else expect(Math.abs((value.high as number) / e.si_high - 1), e.property).toBeLessThan(1e-9);
		expect(document.sources[value.sourceId]?.title).toContain("Tolvane BZ-5 tin bronze");
		expect(value.evidence).toBe("data-sheet");
	}
	expect(document.values.yield_strength).toMatchObject({ basis: "guaranteed-minimum", qualifier: "Rp0.2" });
	expect(document.price).toMatchObject({ amount: "9.80", currency: "EUR" });
	const curve = document.values.stress_strain as { columns: { si: number[] }[]; header: object };
	const points = (JSON.parse(file("curve-paste.expected.json")) as { points: { strain: number; stress_pa: number }[] }).points;
	expect(curve.columns[0]?.si).toHaveLength(40);
	for (const [i, p] of points.entries()) {
		expect(Math.abs((curve.columns[0]?.si[i] as number) - p.strain)).toBeLessThan(1e-12);
		expect(curve.columns[1]?.si[i]).toBe(p.stress_pa);
	}
	await page.reload();
	await expect(line(page, "density")).toContainText("8.78–8.91");
	expect(errors).toEqual([]);
});

test("broken and hostile paste: a clear message, and the page answers at once", async ({ page }) => {
	const errors = watchErrors(page);
	await beginMaterial(page, unique("Hostile"));
	await page.getByRole("link", { name: "or paste a page" }).click();
	await paste(page, PAGE_TEXT, "x".repeat(4_000_000));
	await expect(page.getByRole("alert")).toContainText("4,000,000 characters");
	await paste(page, PAGE_TEXT, '=HYPERLINK("http://x")\n<img src=x onerror="document.title=1">\nDensity\u0000 2.7 g/cm3\n');
	await expect(page.getByRole("button", { name: "Take 1 value" })).toBeVisible();
	await expect(page.getByRole("list", { name: "Lines of the page" })).toContainText("<img src=x");
	expect(await page.title()).not.toBe("1");
	await page.getByRole("link", { name: /^Hostile/ }).click();
	await page.getByRole("link", { name: "blank, paste or type points" }).first().click();
	await paste(page, POINTS, "1\t2\n".repeat(1_000_000));
	await expect(page.getByRole("alert")).toContainText("too large");
	await page.getByRole("button", { name: "Leave it" }).click();
	await paste(page, POINTS, "strain %\tstress MPa\n0,1\tabc\n0,2\t140\n");
	await expect(page.getByText(/left out: line 2/)).toBeVisible();
	expect(errors).toEqual([]);
});

test("the keyboard alone: a page, the values beside the base, the solver's table", async ({ page }) => {
	await beginMaterial(page, unique("By keys"));
	const press = async (...keys: string[]): Promise<void> => {
		for (const key of keys) await page.keyboard.press(key);
	};
	/** Tab until the thing with this name has the keyboard. */
	const tabTo = async (name: string | RegExp, role: "link" | "button" | "checkbox" | "combobox"): Promise<void> => {
		const goal = page.getByRole(role, { name }).first();
		for (let i = 0; i < 120; i++) {
			if (await goal.evaluate((e) => e === document.activeElement).catch(() => false)) return;
			await page.keyboard.press("Tab");
		}
		throw new Error(`no way by Tab to ${name}`);
	};
	await page.getByLabel("Several at once:").focus();
	await tabTo("or paste a page", "link");
	await press("Enter");
	await expect(page.getByLabel("Text of the page")).toBeFocused();
	await page.keyboard.insertText(
		"By keys, typical values\nDensity 8.8 g/cm³\nProof stress 0.2 % min. 125 MPa\nElongation A5 12 %\n",
	);
	await tabTo("Read it", "button");
	await press("Enter");
	await tabTo("guaranteed", "button");
	await press("Enter");
	await tabTo("Take Elongation at break", "checkbox");
	await press("Space", "Space");
	await page.keyboard.press("Home");
	await page.getByRole("button", { name: "Take 3 values" }).focus();
	await press("Enter");
	await expect(line(page, "yield_strength")).toContainText("125");
	await tabTo("For the solver", "link");
	await press("Enter");
	await tabTo("Use", "combobox");
	await page.keyboard.type("strength");
	await expect(page.getByRole("row", { name: /Yield or proof stress/ })).toContainText("125");
	await expect(page.getByText("missing: Young’s modulus")).toBeVisible();
	await tabTo("Copy", "button");
	await press("Enter");
	await expect(page.getByText("The table is on the clipboard, tab-separated.")).toBeVisible();
	await page.goBack();
	await tabTo("all values in one list", "link");
	await press("Enter");
	await tabTo("Tick Density", "checkbox");
	await press("Space");
	await tabTo("Set evidence", "combobox");
	await page.keyboard.type("measured");
	await expect(page.getByRole("row", { name: /Density/ })).toContainText("measured");
});
