import type { LibraryView, PublishPlan } from "@alvek/contract";
import { readList } from "@alvek/contract";
import type { ChangeClass } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";
import { type FormEvent, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { mutate } from "../../../api/mutate";
import { queryClient, refreshAll, SHARED, useAlone, useMe, useRoute } from "../../../api/queries";
import { runMutation } from "../../../api/runMutation";
import { useKeptText } from "../../../draft/text";
import { LikelyDuplicates } from "../../../shared/Alike";
import { showToast } from "../../../stores/toasts";
import { Refusal } from "../../../ui/Refusal";
import { Empty, Failure, Loading } from "../../../ui/states";
import { counted } from "../../../ui/words";
import { LockBar, ShutLocks } from "../LockBar";
import { Changes } from "./Changes";
import { publishedText, publishState, reasonOf } from "./ready";
import { Touches } from "./Touches";

/** Materials of one publish, at the most. */
const MOST = 1000;

/** Publishing: what changes, what it touches, a note, one act. */
export function PublishPage() {
	const [params] = useSearchParams();
	const ids = params.get("ids") ?? "";
	const plan = useRoute("publishPlan", { ids: readList(ids).slice(0, MOST) }, { enabled: ids !== "", ...SHARED });
	const libraries = useRoute("listLibraries", {});
	if (plan.isError) return <Failure error={plan.error} retry={() => plan.refetch()} />;
	if (ids !== "" && (plan.data === undefined || libraries.data === undefined)) return <Loading what="What it touches" />;
	if (plan.data === undefined || plan.data.materials.length === 0)
		return (
			<section className="flex-1 bg-card">
				<Empty title="Nothing to publish.">
					None of these materials has a draft of yours. Change a value first; a draft begins by itself.
				</Empty>
			</section>
		);
	return <Publish key={ids} plan={plan.data} libraries={libraries.data ?? []} />;
}

/** Of how many materials of one publish it is asked what they may be duplicates of. */
const MOST_LIKENED = 20;

/** Where one came from; only an address of this page's own. */
function useBack(plan: PublishPlan): string {
	const [params] = useSearchParams();
	const back = params.get("back") ?? "";
	return /^\/[^/]/.test(back) ? back : plan.materials.length === 1 ? `/materials/${plan.materials[0]?.id}` : "/materials";
}

const CLASSES: readonly { readonly id: ChangeClass; readonly name: string }[] = [
	{ id: "words", name: "words or look" },
	{ id: "values-added", name: "values added" },
	{ id: "values-changed", name: "a value in use changes" },
];

function Publish({ plan, libraries }: { plan: PublishPlan; libraries: readonly LibraryView[] }) {
	const me = useMe();
	const { materials } = plan;
	const alone = useAlone();
	const navigate = useNavigate();
	const back = useBack(plan);
	const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
	const [note, setNote, forgetNote] = useKeptText(`${me?.id ?? ""}.publish.${materials.map((m) => m.id).join(" ")}`, "");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const [busy, setBusy] = useState(false);
	const one = materials.length === 1 ? materials[0] : undefined;
	const state = publishState(plan, libraries, { me: me?.id ?? null, alone }, { left, note });
	const { chosen, into, kind } = state;
	const checks = chosen.reduce((n, m) => n + m.checks, 0);

	const publish = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		setBusy(true);
		const items = chosen.map(({ id, hash }) => ({ id, hash }));
		// this place is left now: what it asked itself is not asked again
		const result = await mutate("publishDrafts", { items, note }, ["publishPlan", "findAlike"]);
		setBusy(false);
		if (!result.ok) {
			setError(result.issues);
			// what has moved meanwhile is shown, to be seen before it is published
			if (result.issues.some((i) => i.code === "not-as-seen" || i.code === "conflict")) void refreshAll();
			return;
		}
		const done = result.value;
		forgetNote();
		queryClient.removeQueries({ queryKey: ["getRevision"] });
		void navigate(back);
		showToast({ tone: "plain", text: publishedText(one, done, chosen.length) });
	};
	const discard = async (): Promise<void> => {
		if (one === undefined) return;
		const gone = one.revision === 0;
		// what was never published is nothing but its draft
		const said = gone ? `${one.name} is thrown away; it was never published.` : "The draft is thrown away.";
		const done = await runMutation(gone ? "removeMaterial" : "discardDraft", { id: one.id }, said, setError);
		if (done !== null) void navigate(gone ? "/materials" : back);
	};
	return (
		<section aria-label="Publish" className="flex-1 min-w-0 bg-card overflow-y-auto">
			<form onSubmit={publish} className="max-w-240 px-6 py-4">
				<div className="flex items-start gap-3">
					<div className="min-w-0">
						<p className="caption">Publish into {into.map((l) => l.name).join(", ") || "the project"}</p>
						<h1 className="text-3xl! leading-6.75! break-words">
							{one === undefined
								? counted(materials.length, "material")
								: `${one.name}, ${one.revision === 0 ? "first revision" : `revision ${one.revision} → ${one.revision + 1}`}`}
						</h1>
					</div>
					<span className="ml-auto flex gap-1.5 shrink-0">
						<button type="button" className="btn" onClick={() => navigate(back)}>
							Keep as draft
						</button>
						<button type="submit" className="btn btn-primary" disabled={busy || !state.ready}>
							{state.word}
						</button>
					</span>
				</div>
				<div className="flex items-center gap-3.5 mt-3 flex-wrap">
					<p className="flex border border-line rounded-md overflow-hidden">
						{CLASSES.map((c) => (
							<span
								key={c.id}
								className={`px-3 leading-6.5 border-r border-line last:border-r-0 ${c.id === kind ? "bg-note-soft text-note font-semibold" : "text-ink2"}`}
								aria-current={c.id === kind ? "true" : undefined}
							>
								{c.name}
							</span>
						))}
					</p>
					<span className="text-ink2">{reasonOf(kind, plan)}</span>
				</div>
				<div className="mt-3 flex flex-col gap-1.5">
					{into
						.filter((l) => !l.approval)
						.map((l) => (
							<LockBar key={l.id} library={l} />
						))}
				</div>
				{plan.otherDrafts.length > 0 && (
					<p className="mt-2.5 bg-doubt-soft border-l-3 border-doubt px-3 py-2">
						{plan.otherDrafts.map((d) => `${d.name} has a draft of ${d.material} too`).join("; ")}. Whoever publishes second is
						merged value by value; nothing is lost.
					</p>
				)}
				{chosen.slice(0, MOST_LIKENED).map((m) => (
					<LikelyDuplicates key={m.id} id={m.id} name={m.name} />
				))}
				<Changes plan={plan} left={left} setLeft={setLeft} />
				<Touches plan={plan} revision={one === undefined ? null : one.revision} />
				<h2 className="rule-head mt-5.5">Before it goes out</h2>
				<div className="flex gap-4.5 mt-2.5">
					<label className="flex-1">
						<span className="sr-only">Note</span>
						<textarea
							className="area bg-sunk!"
							rows={3}
							maxLength={2000}
							value={note}
							aria-label="Note"
							onChange={(e) => setNote(e.target.value)}
							placeholder={alone ? "why, and from what source; may stay blank" : "why, and from what source"}
						/>
					</label>
					<div className="w-65 caption">
						{checks > 0 && (
							<p>
								<span className="tag tag-doubt">{counted(checks, "check")} open</span> They do not stand in the way.
							</p>
						)}
						{!alone && (
							<p className="mt-1">
								{state.waits ? "A second person approves before it is out." : "Approval by a second person is not asked here."}
							</p>
						)}
						<ShutLocks libraries={state.shut} />
					</div>
				</div>
				{error !== null && <Refusal issues={error} className="mt-2.5" />}
				{one !== undefined && (
					<button type="button" className="btn btn-ghost mt-3.5" onClick={discard}>
						Throw the draft away
					</button>
				)}
			</form>
		</section>
	);
}
