import { fillPath, type HistoryRow, PATHS, type RouteInput } from "@alvek/contract";
import { ArrowLeft, Download } from "lucide-react";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { call } from "../../api/client";
import { useRoute } from "../../api/queries";
import { showIssues } from "../../api/refusals";
import { HistoryLine, type Subject } from "../../shared/History";
import { dayOf } from "../../ui/Page";
import { Empty, Failure, Loading } from "../../ui/states";

const KINDS = ["material", "library", "project"] as const;
const WHAT = [
	{ id: "", name: "every kind of step" },
	{ id: "published", name: "publishing, merging, editions" },
	{ id: "materials", name: "materials, groups, sources" },
	{ id: "parts", name: "parts and what they got" },
	{ id: "rights", name: "roles, locks, settings" },
] as const;

type Narrowing = Omit<RouteInput<"history">, "kind" | "id" | "before">;

/** Everything that happened to one thing: narrowed by the address, day by day, as a table to take away. */
export function HistoryPlace() {
	const { kind = "", id = "" } = useParams();
	const [params, setParams] = useSearchParams();
	const known = KINDS.find((k) => k === kind);
	if (known === undefined)
		return <Empty title="There is no such history.">Open it from a material, a library or a project.</Empty>;
	const narrowing = Object.fromEntries([...params].filter(([, v]) => v !== "")) as Narrowing;
	const change = (name: keyof Narrowing, value: string): void => {
		const next = new URLSearchParams(params);
		if (value === "") next.delete(name);
		else next.set(name, value);
		setParams(next, { replace: true });
	};
	return <Shown key={`${kind} ${id} ${params}`} subject={{ kind: known, id }} narrowing={narrowing} change={change} />;
}

/** Where the thing itself is shown, and its name. */
function useSubject({ kind, id }: Subject): { readonly name: string; readonly to: string } {
	const material = useRoute("getMaterials", { ids: id }, { enabled: kind === "material" }).data?.[0]?.name;
	const library = useRoute("listLibraries", {}, { enabled: kind === "library" }).data?.find((l) => l.id === id)?.name;
	const project = useRoute("listProjects", {}, { enabled: kind === "project" }).data?.find((p) => p.id === id)?.name;
	return {
		name: material ?? library ?? project ?? kind,
		to: { material: `/materials/${id}`, library: `/libraries/${id}`, project: `/parts/${id}` }[kind],
	};
}

function Shown({
	subject,
	narrowing,
	change,
}: {
	subject: Subject;
	narrowing: Narrowing;
	change: (name: keyof Narrowing, value: string) => void;
}) {
	const { name, to } = useSubject(subject);
	const people = useRoute("listPeople", {});
	const first = useRoute("history", { ...subject, ...narrowing });
	const [more, setMore] = useState<{ rows: readonly HistoryRow[]; next: number | null } | null>(null);
	const [text, setText] = useState(narrowing.text ?? "");
	if (first.isError) return <Failure error={first.error} retry={() => first.refetch()} />;
	const rows = [...(first.data?.rows ?? []), ...(more?.rows ?? [])];
	const next = more === null ? (first.data?.next ?? null) : more.next;
	const goOn = async (): Promise<void> => {
		const page = await call("history", { ...subject, ...narrowing, before: String(next) });
		if (!page.ok) return showIssues(page.issues);
		setMore({ rows: [...(more?.rows ?? []), ...page.value.rows], next: page.value.next });
	};
	const table = fillPath(PATHS.historyTable, subject).path;
	const narrowed = Object.keys(narrowing).length > 0;
	return (
		<section aria-label="History" className="flex-1 min-w-0 bg-card overflow-y-auto">
			<div className="max-w-240 px-6 py-3.5">
				<Link to={to} className="flex items-center gap-1.5 text-ink2 hover:text-ink w-fit">
					<ArrowLeft size={14} aria-hidden /> {name}
				</Link>
				<div className="flex items-start gap-3">
					<h1 className="min-w-0 break-words">What happened to {name}</h1>
					<a
						className="btn ml-auto shrink-0"
						href={`${table}?${new URLSearchParams(narrowing as Record<string, string>)}`}
						download
					>
						<Download size={14} aria-hidden /> CSV
					</a>
				</div>
				<form
					className="flex flex-wrap items-end gap-2.5 mt-2.5 pb-2.5 border-b border-ink"
					aria-label="Narrow"
					onSubmit={(e) => {
						e.preventDefault();
						change("text", text.trim());
					}}
				>
					<Choice label="By" value={narrowing.by ?? ""} change={(v) => change("by", v)}>
						<option value="">anybody</option>
						{people.data?.people.map((p) => (
							<option key={p.id} value={p.id}>
								{p.name}
							</option>
						))}
					</Choice>
					<Choice label="What" value={narrowing.what ?? ""} change={(v) => change("what", v)}>
						{WHAT.map((w) => (
							<option key={w.id} value={w.id}>
								{w.name}
							</option>
						))}
					</Choice>
					<Day label="From" value={narrowing.from ?? ""} change={(v) => change("from", v)} />
					<Day label="Until" value={narrowing.until ?? ""} change={(v) => change("until", v)} />
					<label className="flex-1 min-w-35">
						<span className="block caption">Name or note</span>
						<input
							className="field"
							value={text}
							onChange={(e) => setText(e.target.value)}
							onBlur={() => change("text", text.trim())}
						/>
					</label>
				</form>
				{first.data === undefined ? (
					<Loading what="The history" />
				) : rows.length === 0 ? (
					<p className="py-2.5 text-ink2">{narrowed ? "No step passes these filters." : "Nothing happened yet."}</p>
				) : (
					<Days rows={rows} kind={subject.kind} />
				)}
				{next !== null && (
					<button type="button" className="btn mt-2.5" onClick={goOn}>
						Earlier steps
					</button>
				)}
			</div>
		</section>
	);
}

/** Steps under the day they fell on. */
function Days({ rows, kind }: { rows: readonly HistoryRow[]; kind: Subject["kind"] }) {
	const days = new Map<string, HistoryRow[]>();
	for (const row of rows) days.set(dayOf(row.at), [...(days.get(dayOf(row.at)) ?? []), row]);
	return [...days].map(([day, list]) => (
		<section key={day} aria-label={day} className="mt-3">
			<h2 className="font-bold text-ink2">{day}</h2>
			<ul>
				{list.map((row) => (
					<HistoryLine key={row.seq} row={row} kind={kind} wide />
				))}
			</ul>
		</section>
	));
}

function Choice({
	label,
	value,
	change,
	children,
}: {
	label: string;
	value: string;
	change: (value: string) => void;
	children: React.ReactNode;
}) {
	return (
		<label>
			<span className="block caption">{label}</span>
			<select className="field max-w-47.5" aria-label={label} value={value} onChange={(e) => change(e.target.value)}>
				{children}
			</select>
		</label>
	);
}

function Day({ label, value, change }: { label: string; value: string; change: (value: string) => void }) {
	return (
		<label>
			<span className="block caption">{label}</span>
			<input type="date" className="field w-34.5" value={value} onChange={(e) => change(e.target.value)} />
		</label>
	);
}
