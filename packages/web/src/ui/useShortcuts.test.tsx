// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, renderHook, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { Popover } from "./Popover";
import { type Shortcut, useShortcuts } from "./useShortcuts";

afterEach(cleanup);

const press = (target: EventTarget, key: string, more: KeyboardEventInit = {}): KeyboardEvent => {
	const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more });
	act(() => void target.dispatchEvent(event));
	return event;
};

describe("keys that do something anywhere", () => {
	const done: string[] = [];
	const says = (word: string) => () => void done.push(word);
	const bind = (list: readonly Shortcut[]) => {
		done.length = 0;
		return renderHook((shortcuts: readonly Shortcut[]) => useShortcuts(shortcuts), { initialProps: list });
	};

	it("run what they stand for now, take the key, and let go of it with their page", () => {
		const { rerender, unmount } = bind([{ keys: "k", run: says("first") }]);
		expect(press(document.body, "k").defaultPrevented).toBe(true);
		rerender([{ keys: "k", run: says("second") }]);
		press(document.body, "k");
		rerender([]);
		press(document.body, "k");
		rerender([{ keys: "j", run: says("other") }]);
		press(document.body, "j");
		unmount();
		expect(press(document.body, "j").defaultPrevented).toBe(false);
		expect(done).toEqual(["first", "second", "other"]);
	});

	it("leave a field its keys, unless they are meant there too, and leave what somebody took already", () => {
		bind([
			{ keys: "k", run: says("k") },
			{ keys: "Escape", run: says("escape"), whileTyping: true },
		]);
		render(<input aria-label="name" />);
		const field = screen.getByLabelText("name");
		expect(press(field, "k").defaultPrevented).toBe(false);
		press(field, "Escape");
		field.addEventListener("keydown", (e) => e.preventDefault());
		press(field, "Escape");
		press(document.body, "k", { ctrlKey: true });
		expect(done).toEqual(["escape"]);
	});
});

describe("a panel that hangs from its button", () => {
	const open = async () => {
		render(
			<>
				<Popover label="Rates" button="rates">
					<input aria-label="rate" />
				</Popover>
				<p>elsewhere</p>
			</>,
		);
		const button = screen.getByRole("button", { name: "rates" });
		fireEvent.click(button);
		expect(await screen.findByRole("dialog", { name: "Rates" })).toBeTruthy();
		return button;
	};

	it("closes by Escape, also out of a field, and gives the focus back", async () => {
		const button = await open();
		screen.getByLabelText("rate").focus();
		press(screen.getByLabelText("rate"), "Escape");
		expect(screen.queryByRole("dialog")).toBeNull();
		expect(document.activeElement).toBe(button);
	});

	it("closes by a click elsewhere and not by one inside, and by its own button", async () => {
		const button = await open();
		fireEvent.pointerDown(screen.getByLabelText("rate"));
		expect(screen.queryByRole("dialog")).toBeTruthy();
		fireEvent.pointerDown(screen.getByText("elsewhere"));
		expect(screen.queryByRole("dialog")).toBeNull();
		fireEvent.click(button);
		await screen.findByRole("dialog");
		fireEvent.click(button);
		expect(screen.queryByRole("dialog")).toBeNull();
	});
});
