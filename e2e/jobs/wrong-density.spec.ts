import { readFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { partRow, serveDemo, watchErrors } from "../helpers";
import { Hand } from "./hand";

type Part = {
	readonly name: string;
	readonly quantity: number;
	readonly volume_m3: number;
	readonly mass_kg: { mass: number } | null;
};
type Project = { readonly parts: readonly Part[]; readonly totals: { readonly mass_kg: { mass: number } | null } };

const BRONZE = "Gudgeon bronze 5";
/** What the scale says the bronze has, kg/m3. */
const WEIGHED = 8930;

async function get<T>(page: Page, path: string): Promise<T> {
	return ((await (await page.request.get(`/api/v1${path}`)).json()) as { value: T }).value;
}

/** The same bush in a second project, before the job begins. */
async function secondProject(page: Page, origin: string): Promise<void> {
	const headers = { Origin: origin };
	await page.request.post("/api/v1/projects", { headers, data: { id: "spare", name: "Spare winch" } });
	await page.request.post("/api/v1/projects/spare/geometry?file=winch.step&job=spare-import", {
		headers: { ...headers, "Content-Type": "application/octet-stream" },
		data: readFileSync("demo/winch.step"),
	});
	await expect
		.poll(async () => (await get<{ state: string }>(page, "/jobs/spare-import")).state, { timeout: 60_000 })
		.toBe("done");
	const { rows } = await get<{ rows: { id: string; name: string }[] }>(page, `/materials?text=${encodeURIComponent(BRONZE)}`);
	const { parts } = await get<{ parts: { id: string; name: string }[] }>(page, "/projects/spare");
	const materialId = rows.find((r) => r.name === BRONZE)?.id;
	const bush = parts.filter((p) => p.name === "Bearing bush").map((p) => p.id);
	await page.request.post("/api/v1/projects/spare/assignments", { headers, data: { parts: bush, materialId } });
}

test("a wrong density: who stands on it, corrected, one project moves, one stays, taken back once, told by history", async ({
	browser,
}) => {
	const server = await serveDemo();
	const context = await browser.newContext({ baseURL: server.url, storageState: { cookies: [], origins: [] } });
	const page = await context.newPage();
	const errors = watchErrors(page);
	await page.goto("/");
	await page.getByRole("button", { name: /^Maren Vosk/ }).click();
	await expect(page.getByRole("heading", { level: 1, name: /^Materials/ })).toBeVisible();
	await secondProject(page, server.url);
	const before = await get<Project>(page, "/projects/winch");
	const part = (name: string): Part => before.parts.find((p) => p.name === name) as Part;
	const [bush, ring] = [part("Bearing bush"), part("Thrust ring")];
	const shown = (kg: number): string => kg.toPrecision(4);

	const hand = new Hand(page);
	// find it, and see who stands on the old value
	await hand.press("Control+k");
	await hand.type(page.getByRole("combobox", { name: /^Find/ }), BRONZE);
	await expect(page.locator("#found-0")).toContainText(BRONZE);
	await hand.press("Enter");
	await expect(page.getByRole("heading", { level: 1, name: BRONZE, exact: true })).toBeVisible();
	const rail = page.getByRole("complementary", { name: "Readiness, checks and revisions" });
	await expect(rail.getByRole("listitem").filter({ hasText: "Sampling winch" })).toContainText("Bearing bush ×2, Thrust ring ×2");
	await expect(rail.getByRole("listitem").filter({ hasText: "Spare winch" })).toContainText("Bearing bush ×2");

	// correct it
	await hand.click(page.locator("#line-density").getByRole("button").first());
	await hand.type(page.getByRole("textbox", { name: "Density", exact: true }), "8.93 g/cm3");
	await hand.press("Enter");
	await expect(page.getByText(/^Draft, saved/)).toBeVisible();
	await hand.press("Escape");

	// what changes and what it touches, before it is out
	await hand.click(page.getByRole("button", { name: "Publish draft…" }));
	const publishing = page.getByRole("region", { name: "Publish", exact: true });
	await expect(publishing.getByText("because 2 projects stand on it")).toBeVisible();
	await expect(publishing.getByText("Density", { exact: true }).first()).toBeVisible();
	await hand.click(publishing.getByRole("button", { name: "Open the lock" }));
	await hand.type(page.getByLabel("Note", { exact: true }), "weighed: 8.93");
	await hand.click(page.getByRole("button", { name: /^Publish revision/ }));
	await expect(page.getByText(/^Revision \d+ of Gudgeon bronze 5 is out/)).toBeVisible();

	// nothing has moved; this project goes forward, with the masses of part, assembly and whole before and after
	await hand.click(rail.getByRole("link", { name: "Sampling winch" }));
	await expect(partRow(page, "Bearing bush")).toContainText(BRONZE);
	await hand.click(page.getByRole("button", { name: "Bring forward…" }));
	const dialog = page.getByRole("dialog", { name: "Bring forward" });
	for (const p of [bush, ring]) {
		const [now, then] = [(p.mass_kg?.mass ?? 0) * p.quantity, WEIGHED * p.volume_m3 * p.quantity];
		await expect(dialog.getByRole("listitem").filter({ hasText: p.name }).first()).toContainText(
			`${shown(now)} → ${shown(then)}`,
		);
	}
	await hand.click(dialog.getByRole("button", { name: "What changes for Bearing bush" }));
	await expect(dialog.getByRole("listitem").filter({ hasText: "Density" }).last()).toContainText("8.93");
	await hand.click(dialog.getByRole("button", { name: "Bring all forward" }));
	const after = async (): Promise<number> => (await get<Project>(page, "/projects/winch")).totals.mass_kg?.mass ?? 0;
	const others = before.parts.filter((p) => p !== bush && p !== ring);
	const expected =
		others.reduce((sum, p) => sum + (p.mass_kg?.mass ?? 0) * p.quantity, 0) +
		WEIGHED * (bush.volume_m3 * bush.quantity + ring.volume_m3 * ring.quantity);
	await expect(page.getByRole("status").filter({ hasText: "brought forward" })).toBeVisible();

	expect(await after()).toBeCloseTo(expected, 9);

	// taken back once, and done again
	await hand.click(page.getByRole("status").filter({ hasText: "brought forward" }).getByRole("button", { name: "Undo" }));
	await expect(page.getByText("4 behind")).toBeVisible();
	expect(await after()).toBeCloseTo(before.totals.mass_kg?.mass ?? 0, 12);
	await hand.click(page.getByRole("button", { name: "Bring forward…" }));
	await hand.click(dialog.getByRole("button", { name: "Bring all forward" }));
	await expect(page.getByText(/\d behind/)).toBeHidden();
	expect(await after()).toBeCloseTo(expected, 9);

	// the other project stays, and says so; both tell what happened, also after a restart
	await server.stop();
	const again = await serveDemo({ ALVEK_DATA: server.data }, server.port);
	try {
		await hand.open("/parts/spare");
		await expect(page.getByText("2 behind")).toBeVisible();
		await hand.open("/parts/winch");
		await expect(partRow(page, "Bearing bush")).toContainText(shown(WEIGHED * bush.volume_m3 * bush.quantity));
		await hand.click(page.getByRole("button", { name: /^What the project follows/ }));
		const happened = page.getByRole("list", { name: "What happened" });
		await expect(happened.getByRole("listitem").first()).toContainText(BRONZE);
		await expect(happened.getByRole("listitem").nth(1)).toContainText("took back: bringing parts forward");
		expect(hand.actions).toBeLessThanOrEqual(30);
		hand.tell();
		expect(errors).toEqual([]);
	} finally {
		await context.close();
		await again.stop();
	}
});
