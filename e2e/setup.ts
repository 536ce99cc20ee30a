import { type FullConfig, request } from "@playwright/test";

/** Signs in once, as the demo's administrator; every test's browser starts with that cookie. */
export default async function signIn(config: FullConfig): Promise<void> {
	const baseURL = config.projects[0]?.use.baseURL as string;
	const browser = await request.newContext({ baseURL, extraHTTPHeaders: { Origin: baseURL } });
	const reply = await browser.post("/api/v1/session/demo", { data: { person: "local" } });
	if (!reply.ok()) throw new Error(await reply.text());
	// tests of other things publish without ado; those of the lock itself bring a library of their own
	await browser.post("/api/v1/libraries/orrisay/lock", { data: {} });
	await browser.storageState({ path: process.env.ALVEK_E2E_STATE as string });
	await browser.dispose();
}
