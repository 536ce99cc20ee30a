import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { openStream, type Said } from "./stream";

/** A stand-in for the browser's event source, driven by the test. */
class FakeSource {
	static open: FakeSource[] = [];
	onerror: (() => void) | null = null;
	closed = false;
	private readonly listeners = new Map<string, (e: { data: string }) => void>();
	constructor(readonly url: string) {
		FakeSource.open.push(this);
	}
	addEventListener(name: string, listener: (e: { data: string }) => void): void {
		this.listeners.set(name, listener);
	}
	say(name: string, data: unknown): void {
		this.listeners.get(name)?.({ data: JSON.stringify(data) });
	}
	close(): void {
		this.closed = true;
	}
}

let said: Said[] = [];
let stream: ReturnType<typeof openStream>;
beforeEach(() => {
	vi.useFakeTimers();
	vi.stubGlobal("EventSource", FakeSource);
	FakeSource.open = [];
	said = [];
	stream = openStream((s) => said.push(s));
});
afterEach(() => {
	stream.close();
	vi.useRealTimers();
	vi.unstubAllGlobals();
});
const last = (): FakeSource => FakeSource.open.at(-1) as FakeSource;
const seqs = (): number[] => said.flatMap((s) => (s.kind === "event" ? [s.event.seq] : []));
const states = (): string[] => said.flatMap((s) => (s.kind === "state" ? [s.state] : []));

describe("the event stream", () => {
	it("comes back with the number it saw last, tells what was missed once, and waits longer each time", () => {
		expect(last().url).toBe("/api/v1/live");
		last().say("caught-up", { seq: 7, events: [], missed: false });
		last().say("happened", { seq: 8 });
		last().onerror?.();
		expect([states(), last().closed]).toEqual([["live", "lost"], true]);
		vi.advanceTimersByTime(1_000);
		expect(FakeSource.open.map((s) => s.url)).toEqual(["/api/v1/live", "/api/v1/live?after=8"]);
		last().onerror?.();
		vi.advanceTimersByTime(1_900);
		expect(FakeSource.open.length).toBe(2);
		vi.advanceTimersByTime(200);
		last().say("caught-up", { seq: 10, events: [{ seq: 9 }, { seq: 10 }], missed: false });
		last().say("happened", { seq: 10 });
		expect(seqs()).toEqual([8, 9, 10]);
		expect(states()).toEqual(["live", "lost", "lost", "live"]);
	});

	it("says that it missed a lot, but not on its first opening", () => {
		last().say("caught-up", { seq: 500, events: [], missed: true });
		expect(said.some((s) => s.kind === "missed")).toBe(false);
		last().onerror?.();
		vi.advanceTimersByTime(1_000);
		last().say("caught-up", { seq: 900, events: [], missed: true });
		expect(said.at(-1)).toEqual({ kind: "missed" });
	});

	it("silence is a dead connection, a beat is not silence; trying at once is possible", () => {
		last().say("caught-up", { seq: 1, events: [], missed: false });
		vi.advanceTimersByTime(40_000);
		last().say("beat", "");
		vi.advanceTimersByTime(40_000);
		expect(states()).toEqual(["live"]);
		vi.advanceTimersByTime(6_000);
		expect(states()).toEqual(["live", "lost"]);
		stream.retry();
		vi.advanceTimersByTime(0);
		expect(FakeSource.open.length).toBe(2);
	});
});
