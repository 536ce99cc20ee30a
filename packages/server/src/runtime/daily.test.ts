import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { daily } from "./daily";

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it("works a minute after the start and every day from then on, also after a day that failed", async () => {
	const failures: string[] = [];
	let count = 0;
	const works = daily(
		"tidying",
		async () => {
			if (++count === 2) throw new Error("disk full");
		},
		{ report: (what, cause) => failures.push(`${what}: ${(cause as Error).message}`) },
	);
	await vi.advanceTimersByTimeAsync(59_000);
	expect(count).toBe(0);
	await vi.advanceTimersByTimeAsync(1_000);
	expect(count).toBe(1);
	await vi.advanceTimersByTimeAsync(24 * 3_600_000);
	expect([count, failures]).toEqual([2, ["tidying: disk full"]]);
	await vi.advanceTimersByTimeAsync(24 * 3_600_000);
	expect(count).toBe(3);
	await works.stop();
	await vi.advanceTimersByTimeAsync(48 * 3_600_000);
	expect(count).toBe(3);
});

it("stops only after the work that runs has ended", async () => {
	let end = (): void => undefined;
	const works = daily("slow", () => new Promise<void>((resolve) => (end = resolve)), { firstAfterMs: 1, everyMs: 1 });
	await vi.advanceTimersByTimeAsync(1);
	let stopped = false;
	const stopping = works.stop().then(() => (stopped = true));
	await vi.advanceTimersByTimeAsync(100);
	expect(stopped).toBe(false);
	end();
	await stopping;
	expect(stopped).toBe(true);
});
