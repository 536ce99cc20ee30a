import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { crowdInstallation } from "./lib/crowd-db";

/**
 * Dragging along a strip and scrolling the grid among 100,000 materials, in headless Chromium with software graphics.
 * Beside it, in the same run: frames of the same page at rest, and the same drag among 1,000.
 */
type Frames = { readonly perSecond: number; readonly longestMs: number; readonly p95Ms: number };

/** Counts frames while something is done. */
async function frames(page: Page, act: () => Promise<void>): Promise<Frames> {
	await page.evaluate(() => {
		const w = window as unknown as { stamps: number[]; counting: boolean };
		const stamps: number[] = [];
		w.stamps = stamps;
		w.counting = true;
		const tick = (t: number): void => {
			// a loop of an earlier count ends here
			if (!w.counting || w.stamps !== stamps) return;
			stamps.push(t);
			requestAnimationFrame(tick);
		};
		requestAnimationFrame(tick);
	});
	await act();
	const stamps = await page.evaluate(() => {
		const w = window as unknown as { stamps: number[]; counting: boolean };
		w.counting = false;
		return w.stamps;
	});
	const gaps = stamps.slice(1).map((t, i) => t - (stamps[i] as number));
	const sorted = [...gaps].sort((a, b) => a - b);
	const seconds = ((stamps.at(-1) ?? 0) - (stamps[0] ?? 0)) / 1000;
	return {
		perSecond: Number((gaps.length / seconds).toFixed(1)),
		longestMs: Math.round(sorted.at(-1) ?? 0),
		p95Ms: Math.round(sorted[Math.floor(sorted.length * 0.95)] ?? 0),
	};
}

async function measure(rows: number) {
	const crowd = await crowdInstallation(rows, join(process.cwd(), "packages/web/dist"));
	const browser = await chromium.launch({
		executablePath: "/usr/bin/chromium",
		// as the browser tests run it: pages are put together by the processor, there is no graphics card here
		args: [
			"--no-sandbox",
			"--use-angle=swiftshader",
			"--enable-unsafe-swiftshader",
			"--disable-gpu-compositing",
			"--enable-precise-memory-info",
		],
	});
	const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, extraHTTPHeaders: crowd.headers });
	const began = performance.now();
	await page.goto(`${crowd.base}/materials?strips=density,youngs_modulus,yield_strength,elongation`);
	await page.getByRole("row", { selected: true }).waitFor();
	await page.getByRole("slider", { name: "Density, at least" }).waitFor();
	const openMs = Math.round(performance.now() - began);
	// the stream of live news stays open, so the network never falls idle
	await page.waitForTimeout(3000);
	const track = await page.locator('[data-strip="density"]').boundingBox();
	if (track === null) throw new Error("no strip");
	const y = track.y + track.height / 2;
	const rest = await frames(page, () => page.waitForTimeout(1500));
	const drag = await frames(page, async () => {
		await page.mouse.move(track.x + track.width * 0.3, y);
		await page.mouse.down();
		for (let i = 0; i <= 120; i++) {
			await page.mouse.move(track.x + track.width * (0.3 + (0.55 * i) / 120), y);
			await page.waitForTimeout(12);
		}
	});
	const counted = (await page.getByRole("heading", { level: 1 }).textContent()) ?? "";
	if (process.env.SHOT) await page.screenshot({ path: `${process.env.SHOT}-${rows}.png` });
	await page.mouse.up();
	// what was counted in the browser while dragging is what the server finds when it rests
	await page.waitForURL(/where=density/);
	await page.waitForFunction((text) => document.querySelector("h1")?.textContent === text, counted, { timeout: 5000 });
	const grid = await page.locator("#grid-rows").boundingBox();
	if (grid === null) throw new Error("no grid");
	await page.mouse.move(grid.x + 200, grid.y + 200);
	const scroll = await frames(page, async () => {
		for (let i = 0; i < 100; i++) {
			await page.mouse.wheel(0, 160);
			await page.waitForTimeout(16);
		}
	});
	// the far end, where nothing was loaded yet
	const jumped = performance.now();
	await page.locator("#grid-rows").evaluate((e) => e.scrollTo(0, e.scrollHeight));
	await page.waitForFunction(() => {
		const shown = [...document.querySelectorAll('#grid-rows [role="row"][data-index]')];
		return shown.length > 10 && shown.every((r) => r.querySelector("a") !== null);
	});
	const jumpMs = Math.round(performance.now() - jumped);
	const heap = await page.evaluate(
		() => (performance as unknown as { memory?: { usedJSHeapSize: number } }).memory?.usedJSHeapSize ?? 0,
	);
	await browser.close();
	await crowd.close();
	return {
		rows,
		open_ms: openMs,
		at_rest: rest,
		drag,
		scroll,
		jump_to_end_ms: jumpMs,
		browser_heap_mb: Math.round(heap / 1e6),
		counted,
	};
}

const N = Number(process.env.ROWS ?? 100_000);
const few = await measure(1000);
const many = await measure(N);
console.log(JSON.stringify({ bench: "strips", goal: "drag > 30 frames a second", strips: 4, few, many }));
