import { applyEdits, BLANK, contentAt, type Edit, type Material } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";
import { describe, expect, it } from "vitest";
import { seeded } from "../../../core/src/quantity/testing";
import { type Action, beginQueue, type Heard, type QueueState, reduce, type Step } from "./queue";

const PLACES = ["field:notes", "field:supplier", "field:description"] as const;

type Sent = { readonly step: Step; readonly draft: string | null };
type Answer =
	| { readonly ok: true; readonly saved: { draftId: string; base: null; version: number } }
	| { readonly ok: false; readonly issues: readonly Issue[] };

/** The server as the route says that it is: steps counted by page, stale edits told all at once, drafts that can be published. */
class ModelServer {
	document: Material = BLANK;
	draft: string | null = null;
	version = 0;
	private drafts = 0;
	private readonly last = new Map<string, number>();
	/** Every edit that was taken: which step wrote what where. */
	readonly log: { readonly step: string; readonly edit: Edit }[] = [];

	save({ step, draft }: Sent): Answer {
		if (step.n <= (this.last.get(step.client) ?? 0)) return this.saved();
		if (draft !== null && draft !== this.draft) return { ok: false, issues: [{ code: "draft-moved" }] };
		const applied = applyEdits(this.document, step.edits);
		if (!applied.ok) return applied;
		this.document = applied.value.material;
		this.last.set(step.client, step.n);
		this.draft ??= `d${++this.drafts}`;
		this.version++;
		for (const edit of step.edits) this.log.push({ step: `${step.client} ${step.n}`, edit });
		return this.saved();
	}

	publish(): void {
		this.draft = null;
		this.version++;
	}

	heard(): Heard {
		return { document: this.document, draft: this.draft, base: null, version: this.draft === null ? 0 : this.version };
	}

	private saved(): Answer {
		return { ok: true, saved: { draftId: this.draft ?? "", base: null, version: this.version } };
	}
}

class Page {
	state: QueueState;
	/** On its way: what was sent, and what comes back. */
	flight: { readonly sent: Sent; answer: Answer | "lost" | "signed-out" | null } | null = null;
	constructor(
		readonly client: string,
		readonly server: ModelServer,
	) {
		this.state = beginQueue(client, server.heard());
	}
	do(action: Action): void {
		this.state = reduce(this.state, action);
	}
}

type Told = { typed: number; asked: number; moved: number };

/** One run: two pages of one person, a network that loses and repeats, a session that ends, pages that die. */
function run(seed: number): Told {
	const next = seeded(seed);
	const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
	const server = new ModelServer();
	let count = 0;
	let pages = [new Page("a0", server), new Page("b0", server)];
	const past: Sent[] = [];
	/** Texts that the person typed, by text; `given` once they chose the other side. */
	const typed = new Map<string, { readonly by: string; given: boolean }>();
	const told: Told = { typed: 0, asked: 0, moved: 0 };

	const giveUp = (step: Step, at: string): void => {
		for (const edit of step.edits.filter((e) => e.at === at)) (typed.get(String(edit.to)) as { given: boolean }).given = true;
	};
	const send = (page: Page): void => {
		const [step] = page.state.queue;
		if (page.flight !== null || step === undefined || page.state.phase === "signed-out") return;
		page.do({ do: "send" });
		const sent = { step, draft: page.state.draft };
		past.push(sent);
		const luck = next();
		// lost on the way there, lost on the way back, refused because nobody is signed in, or answered
		if (luck < 0.15) page.flight = { sent, answer: "lost" };
		else if (luck < 0.2) page.flight = { sent, answer: "signed-out" };
		else {
			const answer = server.save(sent);
			page.flight = { sent, answer: luck < 0.4 ? "lost" : answer };
		}
	};
	const arrive = (page: Page): void => {
		const { flight } = page;
		if (flight === null) return;
		page.flight = null;
		const { answer, sent } = flight;
		if (answer === "lost") return page.do({ do: "unreachable" });
		if (answer === "signed-out") return page.do({ do: "signed-out" });
		if (answer === null) return;
		if (answer.ok) return page.do({ do: "ok", step: sent.step, saved: answer.saved });
		const conflict = answer.issues[0]?.code === "conflict";
		page.do({ do: conflict ? "conflict" : "refused", step: sent.step, issues: answer.issues });
		if (!conflict) told.moved++;
		if (conflict)
			for (const issue of answer.issues) {
				told.asked++;
				// asked with cause only: what stands there was written by the other page
				const theirs = String(issue.current);
				expect(typed.get(theirs)?.by.charAt(0), `seed ${seed}: ${theirs}`).not.toBe(sent.step.client.charAt(0));
			}
		page.do({ do: "heard", heard: server.heard() });
	};
	const type = (page: Page): void => {
		const at = pick(PLACES);
		const text = `${page.client}-${++count}`;
		typed.set(text, { by: page.client, given: false });
		told.typed++;
		// typed over a place that is being asked about: that is an answer too
		for (const { step, clashes } of page.state.contested)
			if (clashes.some((c) => c.at === at && c.side === null)) giveUp(step, at);
		page.do({ do: "type", edits: [{ at, from: contentAt(page.state.shown, at), to: text }] });
	};
	const settle = (page: Page): void => {
		const [asked] = page.state.contested;
		const clash = asked?.clashes.find((c) => c.side === null);
		if (asked === undefined || clash === undefined) return;
		const side = pick(["mine", "theirs"] as const);
		if (side === "theirs")
			for (const edit of asked.step.edits.filter((e) => e.at === clash.at))
				(typed.get(String(edit.to)) as { given: boolean }).given = true;
		page.do({ do: "settle", step: asked.step, at: clash.at, side });
	};
	const again = (page: Page): void => {
		for (const { step } of page.state.refused) page.do({ do: "retry", step });
	};
	/** The page dies; what it kept in the browser is taken by a new one. */
	const die = (page: Page): void => {
		const { queue, contested, refused } = JSON.parse(JSON.stringify(page.state)) as QueueState;
		const heir = new Page(`${page.client.charAt(0)}${++count}`, server);
		heir.do({ do: "adopt", kept: { queue, contested, refused } });
		pages = pages.map((p) => (p === page ? heir : p));
	};

	for (let i = 0; i < 60; i++) {
		const page = pick(pages);
		const what = next();
		if (what < 0.3) type(page);
		else if (what < 0.55) send(page);
		else if (what < 0.75) arrive(page);
		else if (what < 0.8) page.do({ do: "heard", heard: server.heard() });
		else if (what < 0.85) page.do({ do: "signed-in" });
		else if (what < 0.9) settle(page);
		// a request that was thought lost arrives after all
		else if (what < 0.95 && past.length > 0) server.save(pick(past));
		else if (what < 0.96) server.publish();
		else if (what < 0.98) again(page);
		else die(page);
	}
	// the network is well again, and the person answers everything
	for (
		let i = 0;
		pages.some((p) => p.flight !== null || p.state.queue.length + p.state.contested.length + p.state.refused.length > 0);
		i++
	) {
		expect(i, `seed ${seed} comes to no end`).toBeLessThan(2_000);
		for (const page of pages) {
			page.do({ do: "signed-in" });
			arrive(page);
			settle(page);
			again(page);
			const [step] = page.state.queue;
			if (step === undefined || page.flight !== null) continue;
			page.do({ do: "send" });
			const sent = { step, draft: page.state.draft };
			page.flight = { sent, answer: server.save(sent) };
		}
	}
	// nothing lost, nothing twice: every text typed was taken once, unless the person gave it up
	const taken = new Map<string, number>();
	for (const { edit } of server.log) taken.set(String(edit.to), (taken.get(String(edit.to)) ?? 0) + 1);
	for (const [text, { given }] of typed) {
		if (given) continue;
		expect([text, taken.get(text) ?? 0], `seed ${seed}`).toEqual([text, 1]);
	}
	for (const at of PLACES) {
		const last = server.log.filter((l) => l.edit.at === at).at(-1);
		expect(contentAt(server.document, at), `seed ${seed}, ${at}`).toBe(last?.edit.to ?? "");
		// both pages end on what the server holds
		for (const page of pages) {
			page.do({ do: "heard", heard: server.heard() });
			expect(contentAt(page.state.shown, at), `seed ${seed}, ${page.client} ${at}`).toBe(last?.edit.to ?? "");
		}
	}
	return told;
}

describe("2,000 runs of a hurried day", () => {
	it("nothing typed is lost or counted twice, and nothing is asked without cause", () => {
		const sum: Told = { typed: 0, asked: 0, moved: 0 };
		for (let seed = 1; seed <= 2_000; seed++) {
			const told = run(seed);
			for (const key of ["typed", "asked", "moved"] as const) sum[key] += told[key];
		}
		// the runs did meet what they are about
		expect(sum.typed).toBeGreaterThan(20_000);
		expect(sum.asked).toBeGreaterThan(500);
		expect(sum.moved).toBeGreaterThan(100);
	});
});
