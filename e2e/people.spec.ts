import { expect, test } from "@playwright/test";
import { watchErrors } from "./helpers";

test("signing in and out; a link makes an account, another sets a new password; a token for scripts", async ({
	page,
	browser,
}) => {
	const errors = watchErrors(page);
	await page.goto("/people");
	await page.getByRole("button", { name: "Invite somebody" }).click();
	await page.getByLabel("Name", { exact: true }).fill("Bo Tillerman");
	await page.getByRole("checkbox", { name: "Engineering" }).check();
	await page.getByRole("button", { name: "Make the link" }).click();
	const link = await page.getByLabel("One-time link").inputValue();
	await page.getByRole("button", { name: "Close", exact: true }).last().click();
	await expect(page.getByRole("region", { name: "Open invitations" })).toContainText("Bo Tillerman");

	const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
	const bo = await context.newPage();
	const login = `bo-${Date.now()}`;
	await bo.goto(new URL(link).pathname);
	await expect(bo.getByLabel("Your name")).toHaveValue("Bo Tillerman");
	await bo.getByLabel("Name to sign in with").fill(login);
	await bo.getByLabel("Password").fill("short");
	await bo.getByRole("button", { name: "Join" }).click();
	await expect(bo.getByRole("alert")).toContainText("The password has 5 characters; use 10 to 200 characters.");
	await bo.getByLabel("Password").fill("four winches in the rain");
	await bo.getByRole("button", { name: "Join" }).click();
	await expect(bo.getByRole("heading", { level: 1, name: /^Materials/ })).toBeVisible();
	// what the team may do, the newcomer may do
	await bo.goto("/libraries/orrisay");
	await expect(bo.getByRole("heading", { level: 1, name: "Orrisay Works" })).toBeVisible();
	await expect(bo.getByRole("button", { name: "Settings…" })).toBeHidden();
	await bo.getByRole("button", { name: "Account of Bo Tillerman" }).click();
	await bo.getByRole("button", { name: "Sign out" }).click();
	await expect(bo.getByRole("heading", { name: "Sign in" })).toBeVisible();
	// the address that one came for is where one arrives
	await bo.goto("/parts");
	await bo.getByLabel("Name", { exact: true }).fill(login);
	await bo.getByLabel("Password").fill("five winches in the sun");
	await bo.getByRole("button", { name: "Sign in", exact: true }).click();
	await expect(bo.getByRole("alert")).toContainText("Name and password do not fit together.");
	await bo.getByLabel("Password").fill("four winches in the rain");
	await bo.keyboard.press("Enter");
	await expect(bo.getByRole("heading", { level: 1, name: "Projects" })).toBeVisible();

	// a session that ends under somebody's hands keeps the page
	await bo.getByLabel("Name of the new project").fill("typed before");
	await context.clearCookies();
	await bo.getByRole("button", { name: "New project" }).click();
	const again = bo.getByRole("dialog", { name: "You are signed out" });
	await again.getByLabel("Name", { exact: true }).fill(login);
	await again.getByLabel("Password").fill("four winches in the rain");
	await again.getByRole("button", { name: "Sign in", exact: true }).click();
	await expect(again).toBeHidden();
	await expect(bo.getByLabel("Name of the new project")).toHaveValue("typed before");

	await bo.goto("/account");
	await bo.getByRole("button", { name: "New token" }).click();
	await bo.getByLabel("What it is for").fill("nightly export");
	await bo.getByRole("button", { name: "Make the token" }).click();
	const secret = await bo.getByLabel("Secret of the token").inputValue();
	const script = await browser.newContext({
		storageState: { cookies: [], origins: [] },
		extraHTTPHeaders: { Authorization: `Bearer ${secret}` },
	});
	expect((await script.request.get("/api/v1/libraries")).status()).toBe(200);
	expect((await script.request.post("/api/v1/projects", { data: { id: "x", name: "No" } })).status()).toBe(403);
	await bo.getByRole("button", { name: "Close", exact: true }).last().click();
	await bo.getByRole("button", { name: "Remove the token nightly export" }).click();
	await expect(bo.getByText("nightly export", { exact: true })).toBeHidden();
	expect((await script.request.get("/api/v1/libraries")).status()).toBe(401);

	// forgotten: the administrator's link ends the other sessions; then the person leaves
	await page.reload();
	await page.getByRole("button", { name: "New password for Bo Tillerman" }).click();
	const reset = await page.getByLabel("One-time link").inputValue();
	await page.getByRole("button", { name: "Close", exact: true }).last().click();
	const elsewhere = await (await browser.newContext({ storageState: { cookies: [], origins: [] } })).newPage();
	await elsewhere.goto(new URL(reset).pathname);
	await elsewhere.getByLabel("Password").fill("six anchors and a buoy");
	await elsewhere.getByRole("button", { name: "Set the password" }).click();
	await expect(elsewhere.getByRole("heading", { level: 1, name: /^Materials/ })).toBeVisible();
	await bo.goto("/account");
	await expect(bo.getByRole("heading", { name: "Sign in" })).toBeVisible();
	await page.getByRole("button", { name: "Bo Tillerman leaves" }).click();
	await page.getByLabel("Hand over to").selectOption({ label: "Okke Brandal" });
	await page.getByRole("button", { name: "Hand over and end the account" }).click();
	await expect(page.getByRole("dialog", { name: "Bo Tillerman has left" })).toContainText("Handed over");
	await elsewhere.reload();
	await expect(elsewhere.getByRole("heading", { name: "Sign in" })).toBeVisible();
	expect(errors).toEqual([]);
	for (const c of [context, script, elsewhere.context()]) await c.close();
});
