import { linkText, type MaterialRow, type MergePlan } from "@alvek/contract";
import { MASS_UNITS, massOf } from "@alvek/core/mass";
import { applyEdits, densityOf, type Edit } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";
import { ArrowLeftRight } from "lucide-react";
import { type FormEvent, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useAlone, useMe, useRoute } from "../../../api/queries";
import { runMutation } from "../../../api/runMutation";
import { ContentWords, isBlank, placeName } from "../../../shared/ChangeLine";
import { keepApart } from "../../../shared/keepApart";
import { massPair } from "../../../shared/massFigures";
import { useUnitSet } from "../../../stores/preferences";
import { Swatch } from "../../../ui/marks";
import { Refusal } from "../../../ui/Refusal";
import { Empty, Failure, Loading } from "../../../ui/states";
import { counted } from "../../../ui/words";
import { LockBar, ShutLocks } from "../LockBar";

/** Two entries of one material: which one survives, value by value; what stands on the other. */
export function MergePage() {
	const [params] = useSearchParams();
	const [id, other] = [params.get("keep") ?? "", params.get("drop") ?? ""];
	const plan = useRoute("mergePlan", { id, other }, { enabled: id !== "" && other !== "" });
	if (id === "" || other === "")
		return (
			<section className="flex-1 bg-card">
				<Empty title="Which two?">Mark two materials in the list and choose Merge, or look for duplicates in a library.</Empty>
			</section>
		);
	if (plan.isError) return <Failure error={plan.error} retry={() => plan.refetch()} />;
	if (plan.data === undefined || plan.data.keep.id !== id || plan.data.drop.id !== other) return <Loading what="The two" />;
	return <Merge key={`${id} ${other}`} plan={plan.data} />;
}

/** Places that come along by themselves with the values and fields they belong to. */
const comesAlong = (at: string): boolean => /^(sources|carriedFields|acknowledged):/.test(at);

function Merge({ plan }: { plan: MergePlan }) {
	const { keep, drop } = plan;
	const me = useMe();
	const alone = useAlone();
	const navigate = useNavigate();
	const libraries = useRoute("listLibraries", {});
	const lines = plan.edits.filter((e) => !comesAlong(e.at));
	// what the survivor lacks is taken over unless somebody says otherwise; what it has stays
	const [take, setTake] = useState<ReadonlySet<string>>(
		() => new Set(keep.supplied ? [] : lines.filter((e) => isBlank(e.from)).map((e) => e.at)),
	);
	const [code, setCode] = useState(false);
	const [note, setNote] = useState("");
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const [busy, setBusy] = useState(false);
	const places = [...new Set([drop.libraryId, ...(take.size > 0 ? [keep.libraryId] : [])])];
	const locks = places.flatMap((place) => libraries.data?.find((l) => l.id === place) ?? []);
	const shut = locks.filter((l) => !l.alone && l.lock?.person !== me?.id);

	const choose = (at: string, theirs: boolean): void => {
		const next = new Set(take);
		if (theirs) next.add(at);
		else next.delete(at);
		setTake(next);
	};
	const merge = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		setBusy(true);
		const input = {
			id: keep.id,
			other: drop.id,
			take: [...take],
			code,
			keepRevision: keep.revision,
			dropRevision: drop.revision,
			note,
		};
		const done = await runMutation("mergeMaterials", input, `${drop.name} is retired; ${keep.name} takes its place.`, setError);
		setBusy(false);
		if (done !== null) void navigate(`/materials/${keep.id}`);
	};
	// the one that would be retired is of a library that one may change
	const leave = async (): Promise<void> => {
		if (await keepApart([drop, keep], true)) void navigate(-1);
	};
	return (
		<section aria-label="Merge" className="flex-1 min-w-0 bg-card overflow-y-auto">
			<form onSubmit={merge} className="max-w-240 px-6 py-4">
				<div className="flex items-start gap-3 max-md:flex-wrap">
					<div className="min-w-0">
						<p className="caption">Two entries of one material</p>
						<h1 className="text-3xl! leading-6.75! break-words">{keep.name} stays</h1>
						<p className="text-ink2">
							<b className="text-ink">{drop.name}</b> is retired with it as its successor. Nothing is deleted.
						</p>
					</div>
					<span className="ml-auto flex gap-1.5 shrink-0">
						<button type="button" className="btn" onClick={leave}>
							Leave both
						</button>
						<button
							type="submit"
							className="btn btn-primary"
							disabled={busy || shut.length > 0 || (note.trim() === "" && !alone)}
						>
							Merge them
						</button>
					</span>
				</div>
				<div className="mt-3 flex flex-col gap-1.5">
					{locks.map((l) => (
						<LockBar key={l.id} library={l} />
					))}
				</div>
				<Values plan={plan} lines={lines} take={take} choose={choose} />
				<Names plan={plan} code={code} setCode={setCode} />
				<Standing plan={plan} take={take} />
				<h2 className="rule-head mt-5.5">Why</h2>
				<textarea
					className="area bg-sunk! mt-2.5"
					rows={2}
					maxLength={2000}
					value={note}
					aria-label="Note"
					onChange={(e) => setNote(e.target.value)}
					placeholder={alone ? "may stay blank" : "for example: entered twice, from the same data sheet"}
				/>
				<ShutLocks libraries={shut} />
				{error !== null && <Refusal issues={error} className="mt-2.5" />}
			</form>
		</section>
	);
}

function Head({ row, says }: { row: MaterialRow; says: string }) {
	return (
		<span className="min-w-0">
			<span className="flex items-center gap-2 font-bold min-w-0">
				<Swatch colour={row.document.colour} />
				<Link className="quiet-link truncate" to={`/materials/${row.id}`} title={row.name}>
					{row.name}
				</Link>
			</span>
			<span className="block caption">
				{says}, revision {row.revision}, {row.library}
			</span>
		</span>
	);
}

const COLUMNS =
	"grid grid-cols-[170px_minmax(0,1fr)_minmax(0,1fr)] gap-x-3.5 max-md:grid-cols-[80px_minmax(0,1fr)_minmax(0,1fr)] max-md:gap-x-2";

/** Where the two differ: the one that stays on the left, what can be taken over on the right. */
function Values({
	plan,
	lines,
	take,
	choose,
}: {
	plan: MergePlan;
	lines: readonly Edit[];
	take: ReadonlySet<string>;
	choose: (at: string, theirs: boolean) => void;
}) {
	const { keep, drop, document } = plan;
	const same = Object.keys(document.values).filter((at) => !plan.edits.some((e) => e.at === at)).length;
	// what only the survivor has stays without a question
	const asked = lines.filter((e) => !isBlank(e.to));
	const alone = lines.filter((e) => isBlank(e.to));
	return (
		<>
			<div className={`${COLUMNS} mt-5 pb-1.5 border-b border-ink items-end`}>
				<Link className="btn btn-small justify-self-start" to={`/libraries/merge?keep=${drop.id}&drop=${keep.id}`} replace>
					<ArrowLeftRight size={13} aria-hidden /> Keep the other
				</Link>
				<Head row={keep} says="stays" />
				<Head row={drop} says="is retired" />
			</div>
			<ul aria-label="Where they differ">
				{asked.map((edit) => (
					<li key={edit.at} className={`${COLUMNS} border-b border-line2 py-1`}>
						<span className="capitalize-first">{placeName(edit)}</span>
						<Side edit={edit} theirs={false} taken={take.has(edit.at)} choose={choose} fixed={keep.supplied} />
						<Side edit={edit} theirs taken={take.has(edit.at)} choose={choose} fixed={keep.supplied} />
					</li>
				))}
			</ul>
			{alone.length > 0 && (
				<p className="py-1.5">
					Only {keep.name} has, and keeps: <span className="text-ink2">{[...new Set(alone.map(placeName))].join(", ")}.</span>
				</p>
			)}
			<p className="caption py-1.5">
				{lines.length === 0 ? "They do not differ. " : ""}
				{counted(same, "value")} the same in both.
				{keep.supplied && " The one that stays is supplied and read-only, so it takes nothing over."}
			</p>
		</>
	);
}

function Side({
	edit,
	theirs,
	taken,
	choose,
	fixed,
}: {
	edit: Edit;
	theirs: boolean;
	taken: boolean;
	choose: (at: string, theirs: boolean) => void;
	fixed: boolean;
}) {
	const chosen = theirs === taken;
	const words = <ContentWords edit={edit} side={theirs ? "to" : "from"} />;
	if (fixed) return <span className={chosen ? "font-semibold" : "text-ink3"}>{words}</span>;
	return (
		<label className={`flex gap-2 min-w-0 cursor-pointer ${chosen ? "font-semibold" : "text-ink2"}`}>
			<input
				type="radio"
				className="mt-0.5 shrink-0"
				name={`of ${edit.at}`}
				checked={chosen}
				aria-label={`${placeName(edit)}: ${theirs ? "the other's" : "as it stands"}`}
				onChange={() => choose(edit.at, theirs)}
			/>
			<span className="min-w-0 break-words">{words}</span>
		</label>
	);
}

/** Codes stand once in a library, so they go along or stay behind; what others call it goes along. */
function Names({ plan, code, setCode }: { plan: MergePlan; code: boolean; setCode: (code: boolean) => void }) {
	const { keep, drop } = plan;
	if (keep.libraryId !== drop.libraryId) return null;
	return (
		<>
			{drop.itemCode !== "" && <Code plan={plan} code={code} setCode={setCode} />}
			{drop.knownAs.length > 0 && (
				<p className="py-1.5">
					Its names elsewhere go along: <b>{drop.knownAs.map(linkText).join("; ")}</b>
				</p>
			)}
		</>
	);
}

function Code({ plan, code, setCode }: { plan: MergePlan; code: boolean; setCode: (code: boolean) => void }) {
	const { keep, drop } = plan;
	return (
		<p className="flex items-center gap-3.5 py-1.5">
			{keep.itemCode === "" ? (
				<span>
					The item code <b>{drop.itemCode}</b> goes along.
				</span>
			) : (
				<label className="flex items-center gap-2">
					<input type="checkbox" className="checkbox" checked={code} onChange={(e) => setCode(e.target.checked)} />
					<span>
						item code <b>{drop.itemCode}</b> in the place of {keep.itemCode}
					</span>
				</label>
			)}
		</p>
	);
}

/** Parts on the one that goes: each with its mass now and once it is brought forward. */
function Standing({ plan, take }: { plan: MergePlan; take: ReadonlySet<string> }) {
	const unitSet = useUnitSet();
	const { mass: unit } = MASS_UNITS[unitSet];
	const next = applyEdits(
		plan.document,
		plan.edits.filter((e) => take.has(e.at)),
	);
	const density = next.ok ? densityOf(next.value.material) : null;
	const { uses, hidden, frozenParts, editions, drop } = plan;
	return (
		<>
			<h2 className="rule-head mt-5">
				What stands on {drop.name}{" "}
				<span className="caption font-normal">it shows behind; nothing moves until a project brings it forward</span>
			</h2>
			{uses.length + hidden.projects + editions === 0 && <p className="py-2 text-ink2">Nothing: no part, no edition.</p>}
			<ul>
				{uses.map((use) => {
					const after = density === null ? null : massOf(use.volume_m3, density).mass * use.quantity;
					return (
						<li key={`${use.projectId} ${use.part}`} className="flex gap-3 border-b border-line2 py-1.5">
							<Link className="quiet-link font-semibold" to={`/parts/${use.projectId}`}>
								{use.project}
							</Link>
							<span>
								{use.part}
								{use.quantity > 1 && ` ×${use.quantity}`}
							</span>
							<span className="ml-auto whitespace-nowrap">
								{use.massBefore_kg === after
									? `${massPair(after, after, unitSet)[0]} ${unit}, as before`
									: `${massPair(use.massBefore_kg, after, unitSet).join(" → ")} ${unit}`}
							</span>
						</li>
					);
				})}
				{hidden.projects > 0 && (
					<li className="py-1.5 text-ink2">
						{counted(hidden.parts, "part")} in {counted(hidden.projects, "project")} you may not see
					</li>
				)}
				{frozenParts > 0 && (
					<li className="py-1.5 text-ink2">{counted(frozenParts, "part")} of frozen projects, which show nothing</li>
				)}
				{editions > 0 && <li className="py-1.5 text-ink2">{counted(editions, "edition")} go on holding it as it was</li>}
			</ul>
		</>
	);
}
