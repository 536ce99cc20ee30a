import type { Sheet } from "@alvek/contract";
import { judge } from "@alvek/core/judge";
import { UNIT_SETS } from "@alvek/core/property";
import { useQueries } from "@tanstack/react-query";
import { ArrowLeft, Printer } from "lucide-react";
import { useEffect } from "react";
import { Link, useSearchParams } from "react-router";
import { call, IssueError } from "../../api/client";
import { useUnitSet } from "../../stores/preferences";
import { Empty, Failure, Loading } from "../../ui/states";
import { PaperSheet, type Printed } from "./PaperSheet";
import "./paper.css";

const SIZES = [
	{ id: "A4", css: "A4", width: "210mm" },
	{ id: "Letter", css: "letter", width: "8.5in" },
] as const;

/** The most sheets of one booklet. */
const MOST = 60;

/** Sheets as they come out of the printer, or out of "save as PDF"; several make a booklet with a list of contents. */
export function PaperPlace() {
	const [params, setParams] = useSearchParams();
	const unitSet = useUnitSet();
	const ids = (params.get("ids") ?? "")
		.split(",")
		.filter((id) => /^[0-9a-zA-Z-]{1,64}(@\d{1,6})?$/.test(id))
		.slice(0, MOST);
	const size = SIZES.find((s) => s.id === params.get("size")) ?? SIZES[0];
	const sheets = useQueries({ queries: ids.map((id) => ({ queryKey: ["onPaper", id], queryFn: () => printedOf(id) })) });
	const title = sheets.length === 1 ? (sheets[0]?.data?.name ?? "Sheet") : `${sheets.length} materials`;
	useEffect(() => {
		// the browser offers the title as the name of the PDF
		const before = document.title;
		document.title = title;
		return () => {
			document.title = before;
		};
	}, [title]);
	const failed = sheets.find((s) => s.isError)?.error;
	if (ids.length === 0)
		return (
			<Empty title="Nothing to print.">
				Open a{" "}
				<Link to="/materials" className="quiet-link">
					sheet
				</Link>{" "}
				or fill the tray, and choose <b>Print</b> there.
			</Empty>
		);
	if (failed) return <Failure error={failed} />;
	const printed = sheets.flatMap((s) => (s.data === undefined ? [] : [s.data]));
	if (printed.length < sheets.length) return <Loading what="The sheets" />;
	const units = UNIT_SETS.find((s) => s.id === unitSet)?.name ?? "";
	return (
		<section aria-label="Print" className="paper-place flex-1 min-w-0 overflow-y-auto bg-sunk">
			<style>{pageRule(size.css, printed, units)}</style>
			<div className="paper-bar sticky top-0 z-10 h-12 bg-card border-b border-line flex items-center gap-3 px-5">
				<Link
					to={ids.length === 1 ? `/materials/${ids[0]?.split("@")[0]}` : "/materials"}
					className="flex items-center gap-1.5 text-ink2 hover:text-ink"
				>
					<ArrowLeft size={14} aria-hidden /> Back
				</Link>
				<h1 className="truncate">
					{printed.length === 1 ? `${printed[0]?.name} on paper` : `Booklet of ${printed.length} materials`}
				</h1>
				<label className="ml-auto flex items-center gap-1.5 text-ink2">
					Paper
					<select
						className="bg-transparent font-semibold text-ink"
						value={size.id}
						onChange={(e) => {
							const next = new URLSearchParams(params);
							next.set("size", e.target.value);
							setParams(next, { replace: true });
						}}
					>
						{SIZES.map((s) => (
							<option key={s.id} className="bg-card">
								{s.id}
							</option>
						))}
					</select>
				</label>
				<button type="button" className="btn btn-primary" onClick={() => window.print()}>
					<Printer size={15} aria-hidden /> Print or save as PDF
				</button>
			</div>
			<div className="paper-stack" style={{ width: size.width }}>
				{printed.length > 1 && <Contents printed={printed} units={units} />}
				{printed.map((p) => (
					<PaperSheet key={p.key} printed={p} />
				))}
			</div>
		</section>
	);
}

function Contents({ printed, units }: { printed: readonly Printed[]; units: string }) {
	return (
		<article className="paper-sheet" aria-label="Contents">
			<h2 className="text-2xl font-extrabold border-b-2 border-black pb-1.5">Materials</h2>
			<p className="mt-1.5">
				{printed.length} sheets, units {units}, printed {new Date().toISOString().slice(0, 10)}
			</p>
			<table className="paper-table mt-3 w-full">
				<thead>
					<tr>
						<th className="text-left!">Material</th>
						<th className="text-left!">Library</th>
						<th className="text-left!">Item code</th>
						<th>Revision</th>
						<th>Content</th>
					</tr>
				</thead>
				<tbody>
					{printed.map((p) => (
						<tr key={p.key}>
							<td className="text-left! font-semibold">{p.name}</td>
							<td className="text-left!">{p.library}</td>
							<td className="text-left!">{p.itemCode}</td>
							<td>{p.draft ? "draft" : p.revision}</td>
							<td>{p.hash.slice(0, 12)}</td>
						</tr>
					))}
				</tbody>
			</table>
		</article>
	);
}

/** Size and margins of the page, with what stands in its foot. */
function pageRule(css: string, printed: readonly Printed[], units: string): string {
	const [first] = printed;
	const name =
		printed.length === 1 && first !== undefined
			? `${first.name}, ${first.draft ? "draft" : `revision ${first.revision}`}`
			: "Materials";
	const quoted = JSON.stringify(name).replaceAll("<", "\\3c ");
	const foot = `font: 8pt Commissioner, sans-serif; color: #333`;
	return `@page { size: ${css}; margin: 15mm 15mm 17mm;
		@bottom-left { content: ${quoted}; ${foot} }
		@bottom-center { content: ${JSON.stringify(units)}; ${foot} }
		@bottom-right { content: "page " counter(page) " of " counter(pages); ${foot} } }`;
}

/** Who put a revision out, and who let it through. */
function publishedBy(revision: Sheet["revisions"][number] | undefined): string {
	if (revision === undefined) return "";
	return `published by ${revision.actor}${revision.approvedBy === null ? "" : `, approved by ${revision.approvedBy}`}`;
}

/** A material's draft or newest revision, or the one that the address names behind @. */
async function printedOf(address: string): Promise<Printed> {
	const [id = "", no] = address.split("@");
	const sheet = await call("getSheet", { id });
	if (!sheet.ok) throw new IssueError(sheet.issues);
	const { row, revisions, draftAt } = sheet.value;
	const wanted = no === undefined ? row.revision : Number(no);
	const isDraft = no === undefined && row.draftId !== null;
	const revision = revisions.find((r) => r.no === wanted);
	const other = !isDraft && no !== undefined ? await call("getRevision", { id, no }) : null;
	if (other !== null && !other.ok) throw new IssueError(other.issues);
	const material = other?.ok ? other.value.document : row.document;
	const { base } = sheet.value;
	const own = row.libraryId.startsWith("project:") ? null : await call("listOwnProperties", { id: row.libraryId });
	if (own !== null && !own.ok) throw new IssueError(own.issues);
	const judged = judge(material, {
		own: (own?.value ?? []).map((p) => p.content),
		base: base?.document == null ? null : { name: base.name, document: base.document },
	});
	return {
		key: address,
		name: row.name,
		library: row.library,
		group: row.group,
		itemCode: row.itemCode,
		revision: wanted,
		draft: isDraft,
		note: isDraft ? "" : (revision?.note ?? ""),
		by: isDraft ? "" : publishedBy(revision),
		at: isDraft ? (draftAt ?? "") : (revision?.at ?? row.changedAt),
		hash: isDraft ? "" : (revision?.hash ?? ""),
		material,
		readiness: judged.readiness,
		checks: judged.checks,
	};
}
