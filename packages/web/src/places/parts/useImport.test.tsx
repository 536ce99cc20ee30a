// @vitest-environment happy-dom

import type { JobView } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { act, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { queryClient } from "../../api/queries";
import { serverOf } from "../../api/testing";
import { tellFollowers } from "../../live/jobs";
import { useToasts } from "../../stores/toasts";
import { useImport } from "./useImport";

/** The request that carries the file, answered by the test. */
class Sending {
	static latest: Sending;
	upload: { onprogress?: (e: { loaded: number; total: number }) => void } = {};
	path = "";
	responseText = "";
	onload = (): void => undefined;
	onerror = (): void => undefined;
	onabort = (): void => undefined;
	constructor() {
		Sending.latest = this;
	}
	open(_: string, path: string): void {
		this.path = path;
	}
	setRequestHeader(): void {}
	send(): void {}
	abort(): void {
		this.onabort();
	}
	get job(): string {
		return new URLSearchParams(this.path.split("?")[1]).get("job") ?? "";
	}
	answer(result: Result<unknown>): void {
		this.responseText = JSON.stringify(result);
		this.onload();
	}
}

const FILE = new File(["x"], "winch.step");
const toasts = () => useToasts.getState().toasts.map((t) => t.text);
const tell = (state: JobView["state"], more: Partial<JobView> = {}): void => {
	const data = { id: Sending.latest.job, kind: "import", state, progress: 0.5, stage: "reading", issues: [], ...more } as JobView;
	tellFollowers({ type: "job", id: data.id, data });
};

beforeEach(() => vi.stubGlobal("XMLHttpRequest", Sending));
afterEach(() => {
	vi.unstubAllGlobals();
	queryClient.clear();
	useToasts.setState({ toasts: [] });
});

function begin(file = FILE) {
	const { result } = renderHook(() => useImport("p1"));
	act(() => void result.current.start(file));
	return { now: () => result.current, state: () => result.current.state };
}

describe("a file on its way into a project", () => {
	it("tells how far the sending and the reading are, and what was left out when it is in", async () => {
		serverOf({});
		const sketch = { product: "Sketch", kind: "surface", count: 2 };
		const before = { file: "winch.step", hash: "a", leftOut: [{ ...sketch, product: "Older" }] };
		queryClient.setQueryData(["getProject", { id: "p1" }], { imports: [before] });
		const { state } = begin();
		expect(state()).toEqual({ file: "winch.step", stage: "sending", share: 0 });
		act(() => Sending.latest.upload.onprogress?.({ loaded: 1, total: 2 }));
		expect(state()).toMatchObject({ stage: "sending", share: 0.15 });
		await act(async () => Sending.latest.answer(ok({ id: Sending.latest.job })));
		act(() => tell("running"));
		expect(state()).toEqual({ file: "winch.step", stage: "reading", share: expect.closeTo(0.65, 12) });
		// in an archive it stands under a name of its own
		const imports = [before, { file: "export.stp", hash: "b", leftOut: [sketch] }];
		queryClient.setQueryData(["getProject", { id: "p1" }], { imports });
		await act(async () => tell("done"));
		await waitFor(() => expect(state()).toBeNull());
		expect(toasts()[0]).toMatch(/^winch.step is in\. Left out/);
		expect(toasts()[0]).not.toContain("Older");
	});

	it("that is too large is not sent", () => {
		const { state } = begin({ name: "huge.step", size: 300 * 1024 * 1024 } as File);
		expect(state()).toEqual({ file: "huge.step", error: expect.stringContaining("200 MB") });
	});

	it("whose name is here with other content asks what becomes of that one", async () => {
		const { state, now } = begin();
		await act(async () => Sending.latest.answer(fail({ code: "same-name" })));
		expect(state()).toEqual({ file: "winch.step", same: FILE });
		act(() => void now().start(FILE, "beside"));
		expect(new URLSearchParams(Sending.latest.path.split("?")[1]).get("same")).toBe("beside");
	});

	it("that is refused, or cannot be read, says why until that is closed", async () => {
		const { state, now } = begin();
		await act(async () => Sending.latest.answer(fail({ code: "forbidden" })));
		expect(state()).toEqual({ file: "winch.step", error: expect.stringMatching(/./) });
		act(() => now().dismiss());
		expect(state()).toBeNull();
		act(() => void now().start(FILE));
		await act(async () => Sending.latest.answer(ok({})));
		await act(async () => tell("failed", { issues: [{ code: "step-broken" } as never] }));
		await waitFor(() => expect(state()).toMatchObject({ error: expect.stringMatching(/./) }));
		expect(toasts()).toEqual([]);
	});

	it("can be stopped while it is sent, and while it is read: nothing is imported, and that is said", async () => {
		const asked = serverOf({ cancelJob: { value: {} } });
		const first = begin();
		await act(async () => first.now().cancel());
		await waitFor(() => expect(first.state()).toBeNull());
		expect([toasts(), asked.every((a) => a.name === "cancelJob")]).toEqual([
			["winch.step: cancelled, nothing was imported."],
			true,
		]);
		const second = begin();
		await act(async () => Sending.latest.answer(ok({})));
		await act(async () => second.now().cancel());
		await act(async () => tell("cancelled"));
		await waitFor(() => expect(second.state()).toBeNull());
		expect(toasts()).toHaveLength(2);
	});
});
