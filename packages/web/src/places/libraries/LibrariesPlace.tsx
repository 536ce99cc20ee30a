import type { LibraryView, SetView } from "@alvek/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Navigate, NavLink, Outlet, useMatch, useParams, useSearchParams } from "react-router";
import { SHARED, useMe, useRoute } from "../../api/queries";
import { Keepers } from "../../shared/Keepers";
import { isKeptBy, KEEPERS } from "../../shared/keepers";
import { Failure, Loading } from "../../ui/states";
import { counted } from "../../ui/words";
import { NewLibrary } from "./NewLibrary";
import { lockWords } from "./words";

/** All libraries on the left; one of them, a publish or a comparison on the right. */
export function LibrariesPlace() {
	const libraries = useRoute("listLibraries", {}, SHARED);
	const sets = useRoute("listSets", {});
	const [making, setMaking] = useState(false);
	const [narrow, setNarrow] = useNarrowing();
	const all = libraries.data ?? [];
	const me = useMe()?.id ?? null;
	const keepers = [...new Map(all.flatMap((l) => (l.owner === null ? [] : [[l.owner.id, l.owner.name] as const])))];
	const shown = all.filter(
		(l) =>
			(narrow.archived || !l.archived) &&
			(narrow.keeper === null || isKeptBy(l, narrow.keeper, me)) &&
			(narrow.by === "" || l.owner?.id === narrow.by) &&
			(narrow.open === "" || (narrow.open === "all") === (l.openTo === "everyone here")),
	);
	return (
		<>
			<section aria-label="Libraries" className="w-86 shrink-0 bg-paper border-r border-line overflow-y-auto max-md:hidden">
				<div className="flex items-center px-4 h-14">
					<h2 className="text-xl leading-5.5 font-bold">Libraries</h2>
					<button type="button" className="btn btn-small ml-auto" onClick={() => setMaking(true)}>
						<Plus size={14} aria-hidden /> New
					</button>
				</div>
				<div className="px-4 pb-2.5">
					<Keepers libraries={all} pressed={narrow.keeper} choose={(keeper) => setNarrow({ keeper: keeper ?? "" })} />
				</div>
				<div className="flex gap-1.5 px-4 pb-2.5">
					<select className="field" aria-label="Kept by" value={narrow.by} onChange={(e) => setNarrow({ by: e.target.value })}>
						<option value="">kept by anybody</option>
						{keepers.map(([id, name]) => (
							<option key={id} value={id}>
								kept by {name}
							</option>
						))}
					</select>
					<select
						className="field"
						aria-label="Open to"
						value={narrow.open}
						onChange={(e) => setNarrow({ open: e.target.value })}
					>
						<option value="">open to anybody</option>
						<option value="all">open to everyone</option>
						<option value="some">open to some</option>
					</select>
				</div>
				{libraries.isPending && <Loading what="Libraries" />}
				{libraries.isError && <Failure error={libraries.error} retry={() => libraries.refetch()} />}
				<ul className="border-t border-line">
					{shown.map((l) => (
						<LibraryLine key={l.id} library={l} />
					))}
					{sets.data?.map((s) => (
						<SetLine key={s.id} set={s} />
					))}
				</ul>
				{libraries.data && shown.length === 0 && <p className="p-4 text-ink2">No library passes. Choose “anybody” above.</p>}
				{all.some((l) => l.archived) && (
					<label className="flex items-center gap-2 px-4 py-2.5 caption">
						<input
							type="checkbox"
							className="checkbox"
							checked={narrow.archived}
							onChange={(e) => setNarrow({ archived: e.target.checked ? "1" : "" })}
						/>
						with archived ones
					</label>
				)}
			</section>
			<Outlet />
			{making && <NewLibrary libraries={all} close={() => setMaking(false)} />}
		</>
	);
}

/** What narrows the list stands in the address. */
function useNarrowing() {
	const [params, setParams] = useSearchParams();
	const set = (change: Readonly<Record<string, string>>): void =>
		setParams(
			(now) => {
				for (const [key, value] of Object.entries(change)) {
					if (value === "") now.delete(key);
					else now.set(key, value);
				}
				return now;
			},
			{ replace: true },
		);
	const keeper = KEEPERS.find((k) => k.id === params.get("keeper"))?.id ?? null;
	return [
		{ keeper, by: params.get("by") ?? "", open: params.get("open") ?? "", archived: params.get("archived") === "1" },
		set,
	] as const;
}

const LINE = "block px-4 py-2.5 border-b border-line";

function LibraryLine({ library }: { library: LibraryView }) {
	const me = useMe();
	const { id } = useParams();
	const publishing = useMatch("/libraries/publish");
	const [params] = useSearchParams();
	const active = id === library.id || (publishing !== null && params.get("in") === library.id);
	return (
		<li>
			<NavLink
				to={`/libraries/${library.id}`}
				className={`${LINE} border-l-3 ${active ? "bg-card border-l-primary" : "border-l-transparent hover:bg-sunk"}`}
				aria-current={active ? "page" : undefined}
			>
				<span className="flex gap-2">
					<span className="font-semibold truncate">{library.name}</span>
					<span className="ml-auto caption whitespace-nowrap">{counted(library.materials, "material")}</span>
				</span>
				<span className="flex gap-2 caption">
					<span className="truncate">
						{library.owner === null ? "" : `kept by ${library.owner.name}, `}open to {library.openTo}
					</span>
					<span className="ml-auto whitespace-nowrap">{library.edition === 0 ? "no edition" : `edition ${library.edition}`}</span>
				</span>
				<span className="flex gap-1.5 mt-0.75 flex-wrap">
					{library.archived ? (
						<span className="tag tag-doubt">archived</span>
					) : library.supplied ? (
						<span className="caption font-semibold">supplied, read-only</span>
					) : (
						!library.alone && (
							<span className={library.lock === null ? "caption font-semibold" : "tag tag-note"}>
								{lockWords(library.lock, me?.id ?? "")}
							</span>
						)
					)}
					{library.waiting > 0 && <span className="tag tag-doubt">{library.waiting} to approve</span>}
					{library.hidden && <span className="caption">hidden from my choosers</span>}
				</span>
			</NavLink>
		</li>
	);
}

function SetLine({ set }: { set: SetView }) {
	return (
		<li>
			<NavLink
				to={`/libraries/sets/${set.id}`}
				className={({ isActive }) =>
					`${LINE} border-l-3 ${isActive ? "bg-card border-l-primary" : "border-l-transparent hover:bg-sunk"}`
				}
			>
				<span className="flex gap-2">
					<span className="font-semibold truncate">{set.name}</span>
					<span className="ml-auto caption whitespace-nowrap">set of {set.libraries.length}</span>
				</span>
				<span className="block caption truncate">{set.libraries.map((l) => l.name).join(", ")}</span>
			</NavLink>
		</li>
	);
}

/** `/libraries` opens the first one that one may change, or the first. */
export function FirstLibrary() {
	const libraries = useRoute("listLibraries", {});
	if (libraries.data === undefined) return <Loading what="Libraries" />;
	const first = libraries.data.find((l) => l.mayEdit) ?? libraries.data[0];
	if (first !== undefined) return <Navigate to={`/libraries/${first.id}`} replace />;
	return (
		<section className="flex-1 bg-card p-8">
			<p className="text-lg font-bold mb-1.5">No library yet.</p>
			<p className="text-ink2">Make one with New; whoever makes a library says who reads and changes it.</p>
		</section>
	);
}
