// @vitest-environment happy-dom

import { afterEach, describe, expect, it, vi } from "vitest";
import { type Asked, serverOf } from "../api/testing";
import { useQuestion } from "../stores/question";
import { useToasts } from "../stores/toasts";
import { useTray } from "../stores/tray";
import { actOnMany } from "./actOnMany";

const doneWith = (left: readonly string[]) => ({ value: { event: 5, value: { left } } });
const done = doneWith([]);
const inUse = { code: "in-use", actual: "3 parts stand on them" };
/** Refuses until the person knows that parts stand on it. */
const guarded = ({ input }: Asked) => (input.inUse === true ? done : inUse);
const toasts = () => useToasts.getState().toasts;

let stop = (): void => undefined;
afterEach(() => {
	stop();
	vi.unstubAllGlobals();
	useToasts.setState({ toasts: [] });
	useQuestion.setState({ open: null });
	useTray.getState().clear();
});

/** Answers the question as soon as it is asked. */
function answering(yes: boolean): string[] {
	const seen: string[] = [];
	stop = useQuestion.subscribe(({ open }) => {
		if (open === null) return;
		seen.push(open.title);
		queueMicrotask(() => open.answer(yes));
	});
	return seen;
}

describe("one act on many materials", () => {
	it("is done at once where nothing stands on them, said with its way back", async () => {
		const asked = serverOf({ manyMaterials: done });
		expect(await actOnMany({ ids: ["a", "b"], act: "move", group: "Metals" })).toBe(true);
		expect(asked.map((a) => a.input)).toEqual([{ ids: ["a", "b"], act: "move", group: "Metals" }]);
		expect([toasts()[0]?.text, toasts()[0]?.action?.label]).toEqual(["2 materials moved", "Undo"]);
	});

	it("asks once where parts stand on them, with the server's words, and goes on with a yes", async () => {
		const titles = answering(true);
		const asked = serverOf({ manyMaterials: guarded });
		expect(await actOnMany({ ids: ["a"], act: "retire" }, "Bronze")).toBe(true);
		expect([titles, asked.map((a) => a.input.inUse)]).toEqual([["Retire Bronze?"], [undefined, true]]);
	});

	it("a no changes nothing", async () => {
		answering(false);
		const asked = serverOf({ manyMaterials: guarded });
		expect([await actOnMany({ ids: ["a"], act: "remove" }), asked.length, toasts()]).toEqual([false, 1, []]);
	});

	it("what is deleted leaves the tray; what was left out is named", async () => {
		const item = { name: "", colour: "", revision: 1, draft: false };
		useTray.getState().add({ ...item, id: "a" });
		useTray.getState().add({ ...item, id: "b" });
		serverOf({ manyMaterials: doneWith(["Bronze", "Steel"]) });
		expect(await actOnMany({ ids: ["a"], act: "remove" })).toBe(true);
		expect(useTray.getState().items.map((i) => i.id)).toEqual(["b"]);
		expect(toasts().at(-1)?.text).toContain("Bronze, Steel");
	});

	it("another refusal is told and asks nothing", async () => {
		serverOf({ manyMaterials: { code: "forbidden" } });
		expect([await actOnMany({ ids: ["a"], act: "move" }), useQuestion.getState().open, toasts().length]).toEqual([
			false,
			null,
			1,
		]);
	});
});
