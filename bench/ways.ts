import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { Session } from "node:inspector/promises";
import { type AddressInfo, createServer as createPort } from "node:net";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { createServer } from "vite";

/**
 * What five everyday acts set in motion: how many of our files run any of their functions, in the browser and in the
 * server, and how many requests are made. Every module is loaded by itself, and the engine's own counters say which ran.
 * `ROOT=/another/checkout npm run bench -- ways` counts the same of other sources.
 */
const root = resolve(process.env.ROOT ?? ".");
const data = mkdtempSync(join(tmpdir(), "alvek-ways-"));

const freePort = (): Promise<number> =>
	new Promise((done) => {
		const probe = createPort().listen(0, () => {
			const { port } = probe.address() as AddressInfo;
			probe.close(() => done(port));
		});
	});

type Covered = {
	readonly url: string;
	readonly functions: readonly { readonly ranges: readonly { startOffset: number; count: number }[] }[];
};

/** Our files of which a function ran; loading a file is not running it. */
function ran(scripts: readonly Covered[]): ReadonlySet<string> {
	const names = scripts
		.filter((s) => s.functions.some((f) => (f.ranges[0]?.startOffset ?? 0) > 0 && (f.ranges[0]?.count ?? 0) > 0))
		.map((s) => decodeURIComponent(s.url).replace(/\?.*$/, ""))
		.map(
			(url) =>
				/packages\/[a-z]+\/src\/.*/.exec(url)?.[0] ??
				(/^https?:\/\/[^/]+\/(src\/.*)/.exec(url)?.[1] ?? "").replace(/^src/, "packages/web/src"),
		)
		.filter((name) => name !== "");
	return new Set(names);
}

const session = new Session();
session.connect();

async function counted(page: Page, way: string, act: () => Promise<unknown>): Promise<void> {
	const requests: string[] = [];
	page.on("request", (r) => {
		const { pathname } = new URL(r.url());
		if (pathname.startsWith("/api/v1/") && pathname !== "/api/v1/live") requests.push(`${r.method()} ${pathname}`);
	});
	await page.coverage.startJSCoverage({ resetOnNavigation: false });
	await session.post("Profiler.startPreciseCoverage", { callCount: true, detailed: false });
	await act();
	await page.waitForTimeout(1500);
	const server = ran((await session.post("Profiler.takePreciseCoverage")).result as unknown as Covered[]);
	await session.post("Profiler.stopPreciseCoverage");
	const browser = ran((await page.coverage.stopJSCoverage()) as unknown as Covered[]);
	page.removeAllListeners("request");
	const both = new Set([...browser, ...server]);
	console.log(
		JSON.stringify({
			bench: "ways",
			way,
			files: both.size,
			browser: browser.size,
			server: server.size,
			requests: requests.length,
		}),
	);
	if (process.env.LIST !== undefined) for (const file of [...both].sort()) console.error(`${way}: ${file}`);
	if (process.env.LIST !== undefined) for (const r of requests) console.error(`${way}: ${r}`);
}

process.env.PORT = String(await freePort());
process.env.ALVEK_DATA = data;
const modules = await createServer({
	root,
	configFile: false,
	logLevel: "error",
	appType: "custom",
	server: { middlewareMode: true, hmr: false, ws: false },
});
await modules.ssrLoadModule(join(root, "demo/src/main.ts"));
const webPort = await freePort();
const web = await createServer({
	configFile: join(root, "packages/web/vite.config.ts"),
	logLevel: "error",
	server: {
		port: webPort,
		strictPort: true,
		hmr: false, // the server answers to pages of its own host alone
		proxy: { "/api": { target: `http://localhost:${process.env.PORT}`, changeOrigin: false } },
	},
});
await web.listen();
await session.post("Profiler.enable");
const origin = `http://localhost:${webPort}`;
const browser = await chromium.launch({
	executablePath: "/usr/bin/chromium",
	args: ["--no-sandbox", "--use-angle=swiftshader", "--enable-unsafe-swiftshader"],
});
const page = await browser.newPage({ baseURL: origin, viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(60_000);

const post = async (path: string, body: unknown): Promise<void> => {
	const reply = await page.request.post(`/api/v1${path}`, { headers: { Origin: origin }, data: body });
	if (!reply.ok()) throw new Error(`${path}: ${await reply.text()}`);
};
const retype = async (text: string): Promise<void> => {
	await page.locator("#line-density").getByRole("button").first().click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill(text);
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
};

try {
	await page.goto("/");
	await page.getByRole("button", { name: /^Maren Vosk/ }).click();
	await page.getByRole("heading", { level: 1, name: /^Materials/ }).waitFor();
	await post("/libraries/orrisay/lock", {});

	await page.getByRole("checkbox", { name: /^modal/ }).check();
	await page.waitForTimeout(1000);
	await counted(page, "a filter", () => page.getByRole("checkbox", { name: /^linear static/ }).check());

	await post("/materials", { id: "way", libraryId: "orrisay", name: "Way bronze", group: "Metals" });
	await page.goto("/materials/way");
	await page.getByRole("button", { name: "Density: blank, type a value" }).click();
	await page.getByRole("textbox", { name: "Density", exact: true }).fill("8.8 g/cm3");
	await page.keyboard.press("Enter");
	await page.keyboard.press("Escape");
	await page.getByText(/^Draft, saved/).waitFor();
	await counted(page, "a typed value", () => retype("8.9 g/cm3"));

	await page.getByRole("button", { name: "Publish draft…" }).click();
	await page.getByLabel("Note", { exact: true }).fill("ways");
	await counted(page, "a publish", async () => {
		await page.getByRole("button", { name: /^Publish revision/ }).click();
		await page
			.getByText(/ is out\./)
			.first()
			.waitFor();
	});

	await post("/projects", { id: "ways", name: "Ways" });
	await page.goto("/parts/ways");
	await page.getByText("No parts yet.").waitFor();
	await counted(page, "a STEP file", async () => {
		await page
			.getByLabel("STEP file")
			.setInputFiles({ name: "nested.step", mimeType: "model/step", buffer: readFileSync(join(root, "fixtures/nested.step")) });
		await page.getByText("nested.step is in.").waitFor();
	});

	await page.goto("/materials/way");
	await page.getByRole("heading", { level: 1, name: "Way bronze" }).waitFor();
	await page.waitForTimeout(1500);
	// somebody else's step, as the page hears of it
	await counted(page, "an event", () =>
		post("/libraries/orrisay/groups", { id: "orrisay", group: "ways-group", parent: null, name: "Ways" }),
	);
} finally {
	await browser.close();
	await web.close();
	await modules.close();
	rmSync(data, { recursive: true, force: true });
}
process.exit(0);
