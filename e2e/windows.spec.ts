import { type BrowserContext, expect, type Page, test } from "@playwright/test";
import { serveDemo } from "./helpers";

const bar = (page: Page, text: RegExp | string) => page.getByRole("status").filter({ hasText: text });

async function signedIn(context: BrowserContext, url: string): Promise<void> {
	const reply = await context.request.post(`${url}/api/v1/session/demo`, { headers: { Origin: url }, data: { person: "local" } });
	expect(reply.ok()).toBe(true);
}

test("ten windows hold one stream; a lost connection is said, mended by itself, and what happened meanwhile is told", async ({
	browser,
}) => {
	let server = await serveDemo();
	const context = await browser.newContext({ baseURL: server.url, storageState: { cookies: [], origins: [] } });
	try {
		await signedIn(context, server.url);
		const pages: Page[] = [];
		for (let n = 0; n < 10; n++) {
			const page = await context.newPage();
			// two look at the parts, the others at a place that draws no solids in software
			await page.goto(n < 2 ? "/parts/winch" : "/libraries");
			pages.push(page);
		}
		for (const page of pages.slice(0, 2)) await expect(page.getByTestId("total-mass")).toBeVisible();
		for (const page of pages.slice(2)) await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
		const streams = async (): Promise<string> =>
			/^alvek_live_streams (\d+)$/m.exec(await (await context.request.get("/api/metrics")).text())?.[1] ?? "";
		await expect.poll(streams).toBe("1");

		const [first, second] = pages as [Page, Page];
		const mass = await first.getByTestId("total-mass").textContent();
		await server.stop("SIGKILL");
		await expect(bar(first, "No connection to the server since")).toBeVisible();
		await expect(bar(second, "No connection to the server since")).toBeVisible();
		// what was shown stays
		await expect(first.getByTestId("total-mass")).toHaveText(mass ?? "");

		server = await serveDemo({ ALVEK_DATA: server.data }, server.port);
		// somebody else is faster than the page
		await context.request.patch("/api/v1/projects/winch", { headers: { Origin: server.url }, data: { name: "Winch, renamed" } });
		const { value } = (await (await context.request.get("/api/v1/projects/winch")).json()) as {
			value: { parts: { id: string; material: unknown }[] };
		};
		const given = value.parts.filter((p) => p.material !== null).slice(0, 1);
		const cleared = await context.request.post("/api/v1/projects/winch/assignments", {
			headers: { Origin: server.url },
			data: { parts: given.map((p) => p.id), materialId: null },
		});
		expect(cleared.ok(), await cleared.text()).toBe(true);
		await first.bringToFront();
		// it may mend itself first, and then there is nothing to press
		const now = first.getByRole("button", { name: "Try now" });
		if (await now.isVisible()) await now.click({ timeout: 5_000 }).catch(() => undefined);
		await expect(bar(first, "No connection")).toBeHidden({ timeout: 20_000 });
		await expect(bar(first, /Parts of Winch, renamed got other materials/)).toBeVisible();
		await expect(first.getByTestId("total-mass")).toHaveText(mass ?? "");
		await first.getByRole("button", { name: "Show it" }).click();
		await expect(first.getByTestId("total-mass")).not.toHaveText(mass ?? "");
		await expect(bar(second, "No connection")).toBeHidden();
	} finally {
		await Promise.all([context.close(), server.stop()]);
	}
});
