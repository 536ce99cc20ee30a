import { expect, type Page, type Request, test } from "@playwright/test";
import { beginMaterial, chooser, importFile, newProject, options, partRow, typeValue, unique } from "./helpers";

const isAsking = (url: string): boolean => {
	const { pathname } = new URL(url);
	return pathname.startsWith("/api/v1/") && pathname !== "/api/v1/live";
};

/** Resolves once nothing has been under way for a while: the open stream never ends, so "networkidle" never comes. */
async function quiet(page: Page, under: ReadonlySet<Request>): Promise<void> {
	let still = 0;
	while (still < 5) {
		await page.waitForTimeout(100);
		still = under.size === 0 ? still + 1 : 0;
	}
}

/** What one act asks of the server, as `METHOD route`; the open stream is none of it. */
async function asked(page: Page, act: () => Promise<unknown>): Promise<string[]> {
	const seen: string[] = [];
	const under = new Set<Request>();
	const begun = (request: Request): void => {
		if (!isAsking(request.url())) return;
		under.add(request);
		const route = new URL(request.url()).pathname.slice(7).replace(/[0-9a-f]{8}-[0-9a-f-]{27}|[0-9a-f]{64}/g, "*");
		seen.push(`${request.method()} ${route}`);
	};
	const ended = (request: Request): void => void under.delete(request);
	page.on("request", begun).on("requestfinished", ended).on("requestfailed", ended);
	// what came before has been answered
	await quiet(page, under);
	seen.length = 0;
	await act();
	await quiet(page, under);
	page.off("request", begun).off("requestfinished", ended).off("requestfailed", ended);
	return seen.sort();
}

const reads = (list: readonly string[]): readonly string[] => list.filter((r) => r.startsWith("GET"));
const writes = (list: readonly string[]): readonly string[] => list.filter((r) => !r.startsWith("GET"));

test("ten acts of every day ask the server for what they change, and for nothing else", async ({ page }) => {
	await beginMaterial(page, unique("Counted"));
	const typed = await asked(page, () => typeValue(page, "Density", "2.71 g/cm3"));
	expect(writes(typed)).toEqual(["PATCH /materials/*/draft"]);
	expect(reads(typed).length, typed.join("; ")).toBeLessThanOrEqual(1);

	const back = await asked(page, () => page.keyboard.press("Control+z"));
	expect(writes(back)).toEqual(["PATCH /materials/*/draft"]);
	expect(reads(back).length, back.join("; ")).toBeLessThanOrEqual(1);

	await page.goto("/materials?sort=name&strips=");
	await expect(page.getByRole("grid", { name: "Materials" }).getByRole("link").first()).toBeVisible();
	const ticked = await asked(page, () => page.getByRole("checkbox", { name: /^linear static/ }).check());
	expect(ticked, "a filter tick").toEqual(["GET /materials"]);

	// with strips too: their numbers come along with the rows
	await page.goto("/materials?sort=name&strips=density,youngs_modulus");
	await expect(page.getByRole("slider").first()).toBeVisible();
	const stripped = await asked(page, () => page.getByRole("checkbox", { name: /^linear static/ }).check());
	expect(stripped, "a filter tick with strips").toEqual(["GET /materials-with-columns"]);

	const sorted = await asked(page, () =>
		page
			.getByRole("columnheader", { name: /^Density/ })
			.getByRole("button")
			.first()
			.click(),
	);
	expect(reads(sorted), "an order").toHaveLength(1);

	await page.getByRole("rowgroup", { name: /^Rows/ }).focus();
	const replies: number[] = [];
	page.on("response", async (response) => {
		if (response.request().method() === "POST" && response.url().includes("star")) replies.push((await response.body()).length);
	});
	const starred = await asked(page, () => page.keyboard.press("s"));
	expect(writes(starred)).toHaveLength(1);
	expect(reads(starred).length, starred.join("; ")).toBeLessThanOrEqual(1);
	expect(replies.every((bytes) => bytes < 1024)).toBe(true);
	await page.keyboard.press("s");

	const found = await asked(page, async () => {
		await page.keyboard.press("Control+k");
		await page.keyboard.type("mild");
		await expect(page.getByRole("option").first()).toContainText("mild");
	});
	expect(found.filter((r) => r.startsWith("GET /search")).length, found.join("; ")).toBeLessThanOrEqual(4);
	expect(writes(found)).toEqual([]);
	await page.keyboard.press("Escape");

	await newProject(page, unique("Counted"));
	const imported = await asked(page, () => importFile(page, "nested.step"));
	// the job is followed by the stream: nothing asks how far it is
	expect(
		imported.filter((r) => r.includes("/jobs/")),
		imported.join("; "),
	).toEqual([]);
	expect(writes(imported)).toEqual(["POST /projects/*/geometry"]);

	await partRow(page, "Cheek").click();
	await page.keyboard.press("Enter");
	await chooser(page).fill("ORS-AL 40 cast");
	await expect(options(page).first()).toContainText("ORS-AL 40 cast");
	const given = await asked(page, async () => {
		await page.keyboard.press("Enter");
		await expect(partRow(page, "Cheek")).toContainText("ORS-AL 40 cast");
	});
	expect(given, "giving a material").toEqual(["POST /projects/*/assignments"]);

	const taken = await asked(page, async () => {
		await partRow(page, "Cheek").click();
		await page.keyboard.press("Delete");
		await expect(partRow(page, "Cheek")).toContainText("no material");
	});
	expect(taken, "taking it away").toEqual(["POST /projects/*/assignments"]);

	const undone = await asked(page, () =>
		page.getByRole("status").filter({ hasText: "material removed" }).getByRole("button", { name: "Undo" }).click(),
	);
	expect(writes(undone)).toHaveLength(1);
	expect(reads(undone), "undo").toEqual(["GET /projects/*"]);
});
