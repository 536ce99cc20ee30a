// @vitest-environment happy-dom

import type { SessionView } from "@alvek/contract";
import { ok } from "@alvek/core/result";
import { QueryObserver } from "@tanstack/react-query";
import { afterEach, describe, expect, it } from "vitest";
import { queryClient } from "../../api/queries";
import { useSignedOut } from "../../stores/session";
import { entered } from "./SignIn";

const session = (id: string) => ({ person: { id, name: id }, people: 2 }) as unknown as SessionView;

let away = (): void => undefined;
afterEach(() => {
	away();
	queryClient.clear();
});

/** A page that Maren had open when her session ended; from now on its question is refused. */
async function opened(): Promise<void> {
	queryClient.setQueryData(["getSession", {}], session("maren"));
	let refused = false;
	away = new QueryObserver(queryClient, {
		queryKey: ["getSheet", { id: "m" }],
		queryFn: () => {
			if (refused) throw new Error("not found");
			refused = true;
			return "what Maren sees";
		},
	}).subscribe(() => undefined);
	queryClient.setQueryData(["findColumns", {}], "columns that Maren sees");
	await new Promise((resolve) => setTimeout(resolve, 5));
	useSignedOut.setState({ out: true });
}
const shown = () => [queryClient.getQueryData(["getSheet", { id: "m" }]), queryClient.getQueryData(["findColumns", {}])];

describe("signing in on an open page", () => {
	it("the same person finds it as it was, also where it cannot be asked for again", async () => {
		await opened();
		await entered(ok(session("maren")));
		expect([shown(), useSignedOut.getState().out]).toEqual([["what Maren sees", "columns that Maren sees"], false]);
	});

	it("another person sees nothing of what was there", async () => {
		await opened();
		await entered(ok(session("okke")));
		expect([shown(), queryClient.getQueryData<SessionView>(["getSession", {}])?.person?.id]).toEqual([
			[undefined, undefined],
			"okke",
		]);
	});

	it("a refusal changes nothing", async () => {
		await opened();
		expect(await entered({ ok: false, issues: [{ code: "wrong-password" }] } as never)).toMatch(/./);
		expect([shown()[0], useSignedOut.getState().out]).toEqual(["what Maren sees", true]);
		useSignedOut.setState({ out: false });
	});
});
