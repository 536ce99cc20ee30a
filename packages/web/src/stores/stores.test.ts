// @vitest-environment happy-dom

import { afterEach, describe, expect, it, vi } from "vitest";
import { usePartSelection } from "./parts";
import { usePreferences } from "./preferences";
import { askFirst, useQuestion } from "./question";
import { closeToast, holdToast, letGo, showToast, useToasts } from "./toasts";
import { type TrayItem, useTray } from "./tray";

afterEach(() => vi.useRealTimers());

describe("preferences", () => {
	it("forget what names a person's work, and keep how somebody likes the interface", () => {
		const { set, forget } = usePreferences.getState();
		set({
			unitSet: "us",
			projectDefault: { id: "m", name: "Secret grade" },
			enteredAs: { evidence: "measured", basis: "", source: "report 7" },
		});
		forget();
		const { unitSet, projectDefault, enteredAs } = usePreferences.getState();
		expect([unitSet, projectDefault, enteredAs]).toEqual(["us", null, { evidence: "", basis: "", source: "" }]);
		expect(localStorage.getItem("alvek.preferences")).not.toMatch(/Secret grade|report 7/);
	});
});

describe("toasts", () => {
	const texts = () => useToasts.getState().toasts.map((t) => t.text);

	it("go by themselves, what is wrong later than what is plain; at most three stand", () => {
		vi.useFakeTimers();
		showToast({ tone: "wrong", text: "refused" });
		showToast({ tone: "plain", text: "saved" });
		expect(texts()).toEqual(["refused", "saved"]);
		vi.advanceTimersByTime(9_000);
		expect(texts()).toEqual(["refused"]);
		for (const text of ["a", "b", "c"]) showToast({ tone: "plain", text });
		expect(texts()).toEqual(["a", "b", "c"]);
		vi.runAllTimers();
		expect(texts()).toEqual([]);
	});

	it("stay while somebody is at them, and go as late as others once they are let go", () => {
		vi.useFakeTimers();
		showToast({ tone: "plain", text: "with a way back" });
		const id = useToasts.getState().toasts[0]?.id ?? -1;
		vi.advanceTimersByTime(4_000);
		holdToast(id);
		vi.advanceTimersByTime(60_000);
		expect(texts()).toEqual(["with a way back"]);
		letGo(id);
		vi.advanceTimersByTime(4_900);
		expect(texts()).toEqual(["with a way back"]);
		vi.advanceTimersByTime(200);
		expect(texts()).toEqual([]);
		// one that has gone is not begun again
		letGo(id);
		vi.advanceTimersByTime(10_000);
		expect(texts()).toEqual([]);
	});

	it("are closed one by one", () => {
		vi.useFakeTimers();
		showToast({ tone: "plain", text: "first" });
		showToast({ tone: "plain", text: "second" });
		closeToast(useToasts.getState().toasts[0]?.id ?? -1);
		expect(texts()).toEqual(["second"]);
		vi.runAllTimers();
	});
});

describe("a question before an act", () => {
	it("is open until it is answered, and resolves with the answer", async () => {
		const asked = askFirst({ title: "Delete it?", text: "It goes to the bin.", act: "Delete" });
		expect(useQuestion.getState().open?.title).toBe("Delete it?");
		useQuestion.getState().open?.answer(false);
		expect([await asked, useQuestion.getState().open]).toEqual([false, null]);
		const again = askFirst({ title: "Delete it?", text: "", act: "Delete" });
		useQuestion.getState().open?.answer(true);
		expect(await again).toBe(true);
	});
});

describe("the tray", () => {
	const item = (id: string, more: Partial<TrayItem> = {}): TrayItem => ({
		id,
		name: id,
		colour: "#888888",
		revision: 1,
		draft: false,
		...more,
	});
	const ids = () => useTray.getState().items.map((i) => i.id);
	afterEach(() => useTray.getState().clear());

	it("is there again after a reload, folded as it was", async () => {
		useTray.getState().add(item("a"));
		useTray.getState().setFolded(true);
		const before = localStorage.getItem("alvek.tray") as string;
		useTray.getState().clear();
		localStorage.setItem("alvek.tray", before);
		await useTray.persist.rehydrate();
		expect([ids(), useTray.getState().folded]).toEqual([["a"], true]);
	});

	it("holds each material once, as it was picked last, and unfolds for it", () => {
		const { add, setFolded } = useTray.getState();
		add(item("a"));
		add(item("b"));
		setFolded(true);
		add(item("a", { revision: 2 }));
		expect([ids(), useTray.getState().items[1]?.revision, useTray.getState().folded]).toEqual([["b", "a"], 2, false]);
	});

	it("holds the twelve picked last; one is taken out, or all", () => {
		for (let i = 1; i <= 14; i++) useTray.getState().add(item(String(i)));
		expect(ids()).toEqual(Array.from({ length: 12 }, (_, i) => String(i + 3)));
		useTray.getState().remove("5");
		expect(ids()).not.toContain("5");
		useTray.getState().clear();
		expect(ids()).toEqual([]);
	});
});

describe("selected parts", () => {
	const { select } = usePartSelection.getState();
	const now = () => usePartSelection.getState();

	it("are replaced by a choice, and toggled when it adds", () => {
		select("p", ["a", "b"]);
		select("p", ["b", "c"], true);
		expect(now().selected).toEqual(["a", "c"]);
		select("p", ["d"]);
		expect(now().selected).toEqual(["d"]);
	});

	it("are those of one project: a choice in another begins anew", () => {
		select("p", ["a"]);
		select("q", ["b"], true);
		expect([now().project, now().selected]).toEqual(["q", ["b"]]);
	});
});
