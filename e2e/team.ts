import { type APIRequestContext, type Browser, expect, type Page } from "@playwright/test";
import { ORIGIN, typeValue, unique } from "./helpers";

/** A browser of its own in which somebody of the demo has signed in. */
export async function asPerson(browser: Browser, person: string): Promise<Page> {
	const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
	const reply = await context.request.post("/api/v1/session/demo", { headers: ORIGIN, data: { person } });
	expect(reply.ok()).toBe(true);
	return context.newPage();
}

export async function post(
	request: APIRequestContext,
	path: string,
	data: unknown,
): Promise<{ ok: boolean; value: never; issues: never }> {
	return (await (await request.post(`/api/v1${path}`, { headers: ORIGIN, data })).json()) as never;
}

export const idOfPage = (page: Page): string => /\/(?:materials|libraries)\/([^/?]+)/.exec(page.url())?.[1] ?? "";

/**
 * A library of its own, so that no other test's lock is touched; its page is open afterwards. Its name stands behind the
 * demo's own library, where other tests go on making their materials.
 */
export async function newLibrary(page: Page, name: string): Promise<string> {
	await page.goto("/libraries");
	await page.getByRole("button", { name: "New", exact: true }).click();
	await page.getByLabel("Name", { exact: true }).fill(name);
	await page.getByRole("button", { name: "Make the library", exact: true }).click();
	await expect(page.getByRole("heading", { level: 1, name })).toBeVisible();
	const id = idOfPage(page);
	// what nobody else reads has no lock
	const data = { by: "person", subject: "ines", role: "reader" };
	expect((await page.request.post(`/api/v1/libraries/${id}/grants`, { data, headers: ORIGIN })).ok()).toBe(true);
	await page.reload();
	return id;
}

/** A published material in a library whose lock is open. */
export async function newMaterial(
	page: Page,
	{ library, name, density, group = "Metals" }: { library: string; name: string; density: string; group?: string },
): Promise<string> {
	const id = `${unique("m").replace(/\W/g, "-")}-${Date.now()}`;
	await post(page.request, "/materials", { id, libraryId: library, name, group });
	await page.goto(`/materials/${id}`);
	await typeValue(page, "Density", density);
	await publishHere(page, "first revision");
	return id;
}

export async function publishHere(page: Page, note: string): Promise<void> {
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByLabel("Note", { exact: true }).fill(note);
	await page.getByRole("button", { name: /^Publish revision/ }).click();
	await expect(page.getByText(/ is out\./).last()).toBeVisible();
	await page.waitForURL((url) => !url.pathname.startsWith("/libraries/publish"));
}

export async function retype(page: Page, before: string, after: string): Promise<void> {
	await page.locator("#line-density").getByRole("button", { name: before }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill(after);
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await expect(page.getByText(/^Draft, saved/)).toBeVisible();
}
