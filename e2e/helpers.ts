import { spawn } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { type AddressInfo, createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { expect, type Page } from "@playwright/test";

export const fixture = (name: string): string => fileURLToPath(new URL(`../fixtures/${name}`, import.meta.url));

/** What a page sends along with a change, for changes that a test makes without a page. */
export const ORIGIN = { Origin: `http://localhost:${process.env.ALVEK_E2E_PORT}` };

let count = 0;
/** A name that no other test uses. */
export const unique = (name: string): string => `${name} ${process.pid}-${++count}`;

/** What is read once two looks, half a second apart, agree: counts follow a choice a moment later. */
export async function settled<T>(page: Page, read: () => Promise<T>): Promise<T> {
	for (let before: T | undefined; ; ) {
		const now = await read();
		if (now === before) return now;
		before = now;
		await page.waitForTimeout(500);
	}
}

/** Problems that the page itself reports; a test ends with none. */
export function watchErrors(page: Page): string[] {
	const errors: string[] = [];
	page.on("pageerror", (e) => errors.push(String(e)));
	page.on("console", (m) => {
		const expected = /Failed to load resource|GPU stall|GL Driver/.test(m.text());
		if (m.type() === "error" && !expected) errors.push(m.text());
	});
	return errors;
}

/** A new blank material, by the form. */
export async function beginMaterial(page: Page, name: string, group = "Metals / Test"): Promise<void> {
	await page.goto("/materials");
	await page.getByRole("button", { name: "New material" }).click();
	await page.getByLabel("Name", { exact: true }).fill(name);
	await page.getByLabel("Group", { exact: true }).fill(group);
	await page.getByRole("button", { name: "Begin the sheet" }).click();
	await expect(page.getByRole("heading", { name, level: 1 })).toBeVisible();
}

/** Clicks a line's value and types; Enter goes on, so Escape leaves the next line. */
export async function typeValue(page: Page, property: string, text: string): Promise<void> {
	await page.getByRole("button", { name: `${property}: blank, type a value` }).click();
	await page.getByRole("textbox", { name: property, exact: true }).fill(text);
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
}

export async function publish(page: Page, note: string): Promise<void> {
	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByLabel("Note", { exact: true }).fill(note);
	const act = page.getByRole("button", { name: /^Publish revision/ });
	const revision = /\d+/.exec((await act.textContent()) ?? "")?.[0];
	await act.click();
	await expect(page.getByText(new RegExp(`^Revision ${revision} of .* is out\\.`)).last()).toBeVisible();
	// back where one came from
	await page.waitForURL((url) => !url.pathname.startsWith("/libraries/publish"));
}

export async function newProject(page: Page, name: string): Promise<void> {
	await page.goto("/parts");
	await page.getByLabel("Name of the new project").fill(name);
	await page.getByRole("button", { name: "New project" }).click();
	await expect(page.getByText("No parts yet.")).toBeVisible();
}

export async function importFile(page: Page, file: string): Promise<void> {
	await page.getByLabel("STEP file").setInputFiles(fixture(file));
	await expect(page.getByText(`${file} is in.`)).toBeVisible({ timeout: 30_000 });
}

export const partRow = (page: Page, name: string) =>
	page.getByRole("grid", { name: "Parts" }).getByRole("row").filter({ hasText: name });

/** The main figure of the parts place, as a number. */
export async function totalMass(page: Page): Promise<number> {
	return Number((await page.getByTestId("total-mass").textContent())?.replace(/\s/g, ""));
}

/** Materials that the chooser offers. */
export const options = (page: Page) => page.getByRole("listbox", { name: "Materials" }).getByRole("option");

/** The text field of the chooser. */
export const chooser = (page: Page) => page.getByRole("combobox", { name: /^Material for/ });

/** What Ctrl+V does: the text arrives as a paste event at the focused place. */
export async function paste(page: Page, selector: string, text: string): Promise<void> {
	await page.locator(selector).first().waitFor();
	await page.evaluate(
		([place, content]) => {
			const data = new DataTransfer();
			data.setData("text/plain", content as string);
			const event = new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true });
			document.querySelector(place as string)?.dispatchEvent(event);
		},
		[selector, text],
	);
}

/** Where a page is pasted; a sheet has other fields of several lines. */
export const PAGE_TEXT = '[aria-label="Text of the page"]';
export const POINTS = '[aria-label="Points as typed"]';
export const file = (name: string): string => readFileSync(fixture(name), "utf8");
export const line = (page: Page, id: string) => page.locator(`[id="line-${id}"]`);
export const saved = (page: Page) => expect(page.getByText(/^Draft, saved/)).toBeVisible();

/** The document of the sheet on screen, as the API gives it. */
export async function documentOf(page: Page): Promise<{
	values: Record<string, Record<string, unknown>>;
	price: unknown;
	sources: Record<string, { title: string; text: string }>;
}> {
	const id = /materials\/([0-9a-f-]{36})/.exec(page.url())?.[1];
	const reply = (await (await page.request.get(`/api/v1/materials/${id}`)).json()) as { value: { row: { document: never } } };
	return reply.value.row.document;
}

/** A port nobody listens at. */
function freePort(): Promise<number> {
	return new Promise((resolve) => {
		const probe = createServer().listen(0, () => {
			const { port } = probe.address() as AddressInfo;
			probe.close(() => resolve(port));
		});
	});
}

/** A demo server of a test's own, for tests that stop it or look at all of it; it ends with the worker at the latest. */
export async function serveDemo(env: Record<string, string> = {}, at?: number) {
	const port = at ?? (await freePort());
	const data = env.ALVEK_DATA ?? mkdtempSync(join(tmpdir(), "alvek-e2e-own-"));
	const server = spawn(process.execPath, [fileURLToPath(new URL("../demo/dist/main.js", import.meta.url))], {
		env: { ...process.env, ...env, PORT: String(port), ALVEK_DATA: data },
		stdio: ["ignore", "pipe", "inherit"],
	});
	const orphan = () => server.kill("SIGKILL");
	process.once("exit", orphan);
	server.once("exit", () => process.off("exit", orphan));
	await new Promise<void>((resolve, reject) => {
		server.stdout.on("data", (d) => String(d).includes("Alvek is at") && resolve());
		server.once("exit", (code) => reject(new Error(`the server ended with ${code}`)));
	});
	return {
		data,
		port,
		url: `http://localhost:${port}`,
		async stop(signal: NodeJS.Signals = "SIGTERM"): Promise<void> {
			if (server.exitCode !== null || server.signalCode !== null) return;
			const gone = new Promise((resolve) => server.once("exit", resolve));
			server.kill(signal);
			await gone;
		},
	};
}
