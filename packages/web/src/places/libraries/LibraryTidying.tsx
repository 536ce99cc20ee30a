import type { LibraryDetail, UnusedRow } from "@alvek/contract";
import { useState } from "react";
import { Link } from "react-router";
import { useMe, useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { showToast } from "../../stores/toasts";
import { dayOf, Part } from "../../ui/Page";
import { counted } from "../../ui/words";

const FIRST = 8;

/** Working list, open drafts, what nobody uses, and the bin. */
export function LibraryTidying({ library }: { library: LibraryDetail }) {
	return (
		<>
			<Part title="Where used">
				<UsedBy library={library} />
			</Part>
			<Part title="Working list and drafts">
				<p className="py-2 leading-5">
					<Link className="quiet-link" to={`/materials?library=${library.id}&marks=working`}>
						{counted(library.working, "material")} on the working list
					</Link>
					; choosers show those first. <Drafting library={library} />
				</p>
			</Part>
			<Unused library={library} />
			<Bin library={library} />
		</>
	);
}

/** Who drafts how much; what I draft myself is one click away, to be looked through and published. */
function Drafting({ library }: { library: LibraryDetail }) {
	const me = useMe();
	if (library.drafting.length === 0) return "No open drafts.";
	return (
		<>
			Open drafts:{" "}
			{library.drafting.map((d, i) => (
				<span key={d.person}>
					{i > 0 && ", "}
					{d.person === me?.id ? (
						<Link className="quiet-link" to={`/materials?library=${library.id}&open=draft`}>
							{counted(d.drafts, "draft")} of yours
						</Link>
					) : (
						`${d.name} ${d.drafts}`
					)}
				</span>
			))}
			.
		</>
	);
}

/** Projects that stand on the library. */
function UsedBy({ library }: { library: LibraryDetail }) {
	const { usedBy, hiddenUsers } = library;
	if (usedBy.length + hiddenUsers === 0) return <p className="py-2 text-ink2">No project stands on it yet.</p>;
	return (
		<ul>
			{usedBy.map((p) => (
				<li key={p.id} className="flex border-b border-line2 py-1.5">
					<Link className="quiet-link font-semibold" to={`/parts/${p.id}`}>
						{p.name}
					</Link>
					<span className="ml-auto text-ink2">{counted(p.parts, "part")}</span>
				</li>
			))}
			{hiddenUsers > 0 && <li className="py-1.5 text-ink2">{counted(hiddenUsers, "project")} you may not see</li>}
		</ul>
	);
}

function Unused({ library }: { library: LibraryDetail }) {
	const [open, setOpen] = useState(false);
	const unused = useRoute("listUnused", { id: library.id }, { enabled: open });
	const [all, setAll] = useState(false);
	const rows = unused.data ?? [];
	return (
		<Part
			title="Tidy up"
			aside={
				<button type="button" className="btn btn-small" aria-expanded={open} onClick={() => setOpen(!open)}>
					{open ? "Close" : "What no project uses"}
				</button>
			}
		>
			{!open && <p className="py-2 text-ink2">Lists what no project stands on. Nothing is ever deleted by itself.</p>}
			{open && (
				<>
					<p className="py-2">
						{unused.data === undefined
							? "Looking …"
							: `${counted(rows.length, "material")} of ${library.materials} are on no part, the longest untouched first.`}
					</p>
					<ul>
						{rows.slice(0, all ? rows.length : FIRST).map((r) => (
							<li key={r.id} className="flex gap-2.5 border-b border-line2 py-1">
								<Link className="quiet-link font-semibold truncate" to={`/materials/${r.id}`}>
									{r.name}
								</Link>
								<span className="caption truncate">{r.group}</span>
								{r.retired && <span className="tag tag-doubt">retired</span>}
								<span className="caption whitespace-nowrap">{followers(r)}</span>
								<span className="caption ml-auto whitespace-nowrap">changed {dayOf(r.changedAt)}</span>
							</li>
						))}
					</ul>
					{!all && rows.length > FIRST && (
						<button type="button" className="btn btn-ghost btn-small mt-1.5" onClick={() => setAll(true)}>
							All {rows.length}
						</button>
					)}
				</>
			)}
		</Part>
	);
}

/** What hangs on a material that no part stands on: it would be missed there. */
function followers({ variants, copies, links }: UnusedRow): string {
	const said = [
		variants === 0 ? "" : `${counted(variants, "variant")} ${variants === 1 ? "follows" : "follow"} it`,
		copies === 0 ? "" : counted(copies, "copy", "copies"),
		links === 0 ? "" : counted(links, "name elsewhere", "names elsewhere"),
	];
	return said.filter((s) => s !== "").join(", ");
}

function Bin({ library }: { library: LibraryDetail }) {
	const bin = useRoute("listBin", {});
	const rows = bin.data?.filter((r) => r.libraryId === library.id) ?? [];
	if (rows.length === 0) return null;
	return (
		<Part
			title="Bin"
			aside={
				library.maySteward &&
				!library.supplied && (
					<button
						type="button"
						className="btn btn-small"
						title="What has lain here for 90 days and nothing refers to goes for good"
						onClick={async () => {
							const done = await runMutation("emptyBin", { id: library.id });
							if (done === null) return;
							const text = `${counted(done.gone, "material")} gone for good, ${done.kept} kept because something refers to them.`;
							showToast({ tone: "plain", text });
						}}
					>
						Empty what is older than 90 days
					</button>
				)
			}
		>
			<ul aria-label="Bin">
				{rows.map((r) => (
					<li key={r.id} className="flex items-center gap-2.5 border-b border-line2 min-h-8.5">
						<span className="font-semibold truncate">{r.name}</span>
						<span className="caption">
							{dayOf(r.removedAt)}
							{r.by !== "" && ` by ${r.by}`}
						</span>
						{library.mayEdit && (
							<button
								type="button"
								className="btn btn-ghost btn-small ml-auto"
								aria-label={`Restore ${r.name}`}
								onClick={() => runMutation("manyMaterials", { ids: [r.id], act: "restore" }, `${r.name} is back.`)}
							>
								Restore
							</button>
						)}
					</li>
				))}
			</ul>
		</Part>
	);
}
