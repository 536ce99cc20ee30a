import type { CopyPlan, LibraryView, RouteInput, RouteReply, TakenName } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { type ReactNode, useId, useState } from "react";
import { SHARED, useRoute } from "../api/queries";
import { runMutation } from "../api/runMutation";
import { isMany, runAsJob } from "../live/asJob";
import { usePreferences } from "../stores/preferences";
import { Choose, Field, FormDialog } from "../ui/Form";
import { listed } from "../ui/words";
import { afterCopy, answerAtFirst, type CopyWhat, doesSomething, pairKey, type Taken, withPair } from "./copying";
import { editable } from "./keepers";
import { useTargetLibrary } from "./targetLibrary";

/**
 * Copies, or moves, materials or a group to another library. The group there is asked for and remembered for the pair of
 * libraries; what becomes of names that are taken there is asked before anything is written.
 */
export function CopyTo({
	what,
	close,
	done = () => undefined,
}: {
	what: CopyWhat;
	close: () => void;
	/** The ids of what stands there now, the first one of what was asked for first. */
	done?: (ids: readonly string[]) => void;
}) {
	const libraries = useRoute("listLibraries", {}).data ?? [];
	const targets = editable(libraries).filter((l) => l.id !== what.from);
	const usual = useTargetLibrary(targets);
	const [chosen, setChosen] = useState<string | null>(null);
	const target = targets.find((l) => l.id === chosen) ?? usual;
	const { name } = what;
	if (target === undefined)
		return (
			<FormDialog title={`Copy ${name} to another library`} act="Copy" ready={false} submit={close} close={close} error={null}>
				<p>There is no other library that you may change. Begin one under Libraries, or ask a steward for one.</p>
			</FormDialog>
		);
	const choose = <Choose label="Library" value={target.id} change={setChosen} options={targets} />;
	// begun anew for another library: what was answered was about the one before
	return <Into key={target.id} what={what} target={target} choose={choose} close={close} done={done} />;
}

function Into({
	what,
	target,
	choose,
	close,
	done,
}: {
	what: CopyWhat;
	target: LibraryView;
	choose: ReactNode;
	close: () => void;
	done: (ids: readonly string[]) => void;
}) {
	const pair = pairKey(what.from, target.id);
	const [group, setGroup] = useState(usePreferences((s) => s.copyGroups)[pair] ?? "");
	const [answer, setAnswer] = useState<Taken | null>(null);
	const [names, setNames] = useState<ReadonlyMap<string, string>>(new Map());
	const [move, setMove] = useState(false);
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const asked = "ofGroup" in what ? { ofGroup: what.ofGroup } : { ids: [...what.ids] };
	const plan = useRoute("copyPlan", { ...asked, libraryId: target.id }, SHARED);
	const taken = answer ?? (plan.data === undefined ? null : answerAtFirst(plan.data));
	const submit = async (): Promise<void> => {
		if (plan.data === undefined) return;
		const input: RouteInput<"copyMany"> = { ...asked, libraryId: target.id, move };
		if (group.trim() !== "") input.group = group.trim();
		if (taken !== null) Object.assign(input, { taken, ...answers(taken, plan.data, names) });
		const said = (r: RouteReply<"copyMany">): string => afterCopy(r.value, what.name, target.name);
		const many = isMany(plan.data.fresh + plan.data.taken.length);
		if (many) close();
		const reply = many
			? await runAsJob("copyMany", input, { what: `Copying ${what.name} to ${target.name}`, said })
			: await runMutation("copyMany", input, said, setError);
		if (reply === null) {
			if (!many) void plan.refetch();
			return;
		}
		usePreferences.getState().set({ copyGroups: withPair(usePreferences.getState().copyGroups, pair, group.trim()) });
		if (!many) close();
		done(reply.value.ids);
	};
	return (
		<FormDialog
			title={`${move ? "Move" : "Copy"} ${what.name} to another library`}
			act={`${move ? "Move" : "Copy"} to ${target.name}`}
			ready={plan.data !== undefined && !plan.isPlaceholderData && doesSomething(plan.data, taken, move)}
			submit={submit}
			close={close}
			error={error ?? plan.error?.issues ?? null}
		>
			{choose}
			<GroupThere groups={target.groups} own={plan.data?.groups ?? []} value={group} change={setGroup} />
			{plan.data && plan.data.taken.length > 0 && (
				<TakenNames
					plan={plan.data}
					library={target.name}
					chosen={taken}
					choose={setAnswer}
					names={names}
					rename={(id, to) => setNames(new Map(names).set(id, to))}
				/>
			)}
			{plan.data && <Notes plan={plan.data} library={target.name} />}
			{what.mayMove && plan.data?.proposed === false && (
				<label className="flex gap-2 items-start">
					<input type="checkbox" className="checkbox mt-0.5" checked={move} onChange={(e) => setMove(e.target.checked)} />
					<span>
						Move: retire {what.several ? "the originals" : "the original"} here, with what stands there as successor
						<span className="caption block">
							Parts stay where they are and show behind. Names elsewhere, purposes and stars go along.
						</span>
					</span>
				</label>
			)}
		</FormDialog>
	);
}

/** What goes with the answer: the names that were given, or what was seen. */
function answers(taken: Taken, plan: CopyPlan, names: ReadonlyMap<string, string>): Partial<RouteInput<"copyMany">> {
	if (taken === "revise") return { seen: plan.seen };
	if (taken === "leave") return {};
	return { names: plan.taken.map((t) => ({ id: t.id, name: names.get(t.id) ?? t.free })) };
}

function GroupThere({
	groups,
	own,
	value,
	change,
}: {
	groups: readonly string[];
	own: readonly string[];
	value: string;
	change: (group: string) => void;
}) {
	const id = useId();
	const kept = own.filter((g) => g !== "");
	const hint =
		kept.length === 0
			? "Blank: in no group, as here."
			: `Blank: ${kept.length === 1 ? `in ${kept[0]}, as here` : "in groups of the same names as here"}.`;
	return (
		<div>
			<Field label="Group there" value={value} change={change} hint={hint} list={id} />
			<datalist id={id}>
				{groups.map((g) => (
					<option key={g} value={g} />
				))}
			</datalist>
		</div>
	);
}

/** New names that are shown as fields; beyond them the free ones stand. */
const MOST_FIELDS = 30;

function TakenNames({
	plan,
	library,
	chosen,
	choose,
	names,
	rename,
}: {
	plan: CopyPlan;
	library: string;
	chosen: Taken | null;
	choose: (taken: Taken) => void;
	names: ReadonlyMap<string, string>;
	rename: (id: string, to: string) => void;
}) {
	const group = useId();
	const revisable = plan.taken.filter((t) => t.there !== null && !t.same);
	const line = (value: Taken, words: string) => (
		<label className="flex gap-2 items-start min-h-7 py-0.75">
			<input type="radio" className="mt-0.75" name={group} checked={chosen === value} onChange={() => choose(value)} />
			<span>{words}</span>
		</label>
	);
	return (
		<fieldset>
			<legend className="font-semibold mb-0.75">{takenInWords(plan.taken, library)}</legend>
			{revisable.length > 0 &&
				line(
					"revise",
					plan.taken.length === 1 && revisable[0]?.there
						? `as revision ${revisable[0].there.revision + 1} of ${revisable[0].there.name} there`
						: `as next revisions of those there (${revisable.length} of ${plan.taken.length})`,
				)}
			{chosen === "revise" && <p className="caption ml-6 mb-1">A revision stays, also when the copy is taken back.</p>}
			{line("rename", plan.taken.length === 1 ? "under another name" : "under other names")}
			{chosen === "rename" && (
				<div className="flex flex-col gap-1.5 ml-6 mb-1.5">
					{plan.taken.slice(0, MOST_FIELDS).map((t) => (
						<Field key={t.id} label={`${t.name} becomes`} value={names.get(t.id) ?? t.free} change={(to) => rename(t.id, to)} />
					))}
					{plan.taken.length > MOST_FIELDS && (
						<p className="caption">{plan.taken.length - MOST_FIELDS} more get a number behind their names.</p>
					)}
				</div>
			)}
			{line("leave", plan.taken.length === 1 ? "not at all" : "leave these out")}
		</fieldset>
	);
}

function takenInWords(taken: readonly TakenName[], library: string): string {
	const [first] = taken;
	if (taken.length === 1 && first !== undefined) return `${library} has a ${first.name} already. Copy it`;
	return `${taken.length} names are taken in ${library}: ${listed(taken.slice(0, 5).map((t) => t.name))}${taken.length > 5 ? " …" : ""}`;
}

/** What goes without a question, but not without a word. */
function Notes({ plan, library }: { plan: CopyPlan; library: string }) {
	const same = plan.taken.filter((t) => t.same).map((t) => t.name);
	const lines = [
		plan.proposed ? `Copies wait for a second person in ${library}.` : "",
		same.length > 0 ? `Already there, value for value: ${listed(same.slice(0, 8))}${same.length > 8 ? " …" : ""}.` : "",
		plan.unpublished.length > 0
			? `Left out, because never published: ${listed(plan.unpublished.slice(0, 8))}${plan.unpublished.length > 8 ? " …" : ""}.`
			: "",
	].filter((l) => l !== "");
	return lines.length === 0 ? null : (
		<p className="caption" role="status">
			{lines.join(" ")}
		</p>
	);
}
