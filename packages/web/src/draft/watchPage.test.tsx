// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, renderHook, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { call } from "../api/client";
import { useUnsaved, watchPage } from "./registry";
import { useKeptText } from "./text";

/** Does leaving the page ask first? */
const asks = (): boolean => {
	const event = new Event("beforeunload", { cancelable: true });
	window.dispatchEvent(event);
	return event.defaultPrevented;
};

let watched = false;
beforeEach(() => {
	useUnsaved.setState({ unsaved: [] });
	// once for a page, and so once for these tests
	if (!watched) watchPage();
	watched = true;
});
afterEach(() => {
	cleanup();
	vi.unstubAllGlobals();
	sessionStorage.clear();
});

it("is left without a word when everything is confirmed", () => {
	expect(asks()).toBe(false);
});

it("asks while a step waits to be confirmed", () => {
	useUnsaved.setState({ unsaved: [{ id: "m", name: "Bronze", phase: "offline", waiting: 1, asked: 0, refused: 0 }] });
	expect(asks()).toBe(true);
	useUnsaved.setState({ unsaved: [] });
	expect(asks()).toBe(false);
});

it("asks while a change is on its way, and not while something is only asked for", async () => {
	let answer = (_: Response): void => undefined;
	vi.stubGlobal("fetch", () => new Promise<Response>((resolve) => (answer = resolve)));
	const change = call("starMaterial", { id: "m", on: true } as never);
	expect(asks()).toBe(true);
	answer(Response.json({ ok: true, value: null }));
	await change;
	expect(asks()).toBe(false);
	const question = call("getSheet", { id: "m" });
	expect(asks()).toBe(false);
	answer(Response.json({ ok: true, value: null }));
	await question;
});

it("asks while a text was typed and not entered; one that is gone from the screen is kept and asks nothing", () => {
	const { result, unmount } = renderHook(() => useKeptText("note m maren", ""));
	act(() => result.current[1]("half a sen"));
	expect(asks()).toBe(true);
	act(() => result.current[1](""));
	expect(asks()).toBe(false);
	act(() => result.current[1]("half a sentence"));
	unmount();
	expect(asks()).toBe(false);
	expect(renderHook(() => useKeptText("note m maren", "")).result.current[0]).toBe("half a sentence");
});

it("leaves the field first, so that it takes what was typed", () => {
	const left = vi.fn();
	render(<input aria-label="density" onBlur={left} />);
	screen.getByLabelText("density").focus();
	fireEvent.change(screen.getByLabelText("density"), { target: { value: "8.8" } });
	asks();
	expect(left).toHaveBeenCalledOnce();
	expect(document.activeElement).toBe(document.body);
});

it("says that the page lives from its start and when it comes back, and no more when it goes", () => {
	const alive = (): number => Object.keys(localStorage).filter((key) => key.startsWith("alvek.alive.")).length;
	window.dispatchEvent(new Event("pageshow"));
	const before = alive();
	expect(before).toBeGreaterThan(0);
	window.dispatchEvent(new Event("pagehide"));
	expect(alive()).toBe(before - 1);
	window.dispatchEvent(new Event("pageshow"));
	expect(alive()).toBe(before);
});
