import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { request } from "@playwright/test";

/** Signs in once on each worker's server, as the demo's administrator; every test's browser starts with that cookie. */
export default async function signIn(): Promise<void> {
	for (const port of (process.env.ALVEK_E2E_PORTS as string).split(",")) {
		const baseURL = `http://localhost:${port}`;
		const browser = await request.newContext({ baseURL, extraHTTPHeaders: { Origin: baseURL } });
		const reply = await browser.post("/api/v1/session/demo", { data: { person: "local" } });
		if (!reply.ok()) throw new Error(await reply.text());
		// tests of other things publish without ado; those of the lock itself bring a library of their own
		await browser.post("/api/v1/libraries/orrisay/lock", { data: {} });
		const state = await browser.storageState();
		// whatever libraries of their own other tests make, new materials go to the firm's
		const preferences = JSON.stringify({ state: { target: "orrisay" }, version: 1 });
		state.origins.push({ origin: baseURL, localStorage: [{ name: "alvek.preferences", value: preferences }] });
		writeFileSync(join(process.env.ALVEK_E2E_STATES as string, `${port}.json`), JSON.stringify(state));
		await browser.dispose();
	}
}
