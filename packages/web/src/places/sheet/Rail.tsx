import type { Sheet } from "@alvek/contract";
import { type Check, checkText, type Figure, type Readiness } from "@alvek/core/material";
import { property, type UnitSetId } from "@alvek/core/property";
import { Box, CircleDashed, CircleDot, Trash2 } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { useUnitSet } from "../../stores/preferences";
import { ReadinessList } from "../../ui/marks";
import { inUnit, plainUnit } from "../../ui/Quantity";
import { remove } from "../materials/Brief";
import type { Draft } from "./useDraft";

type Props = {
	sheet: Sheet;
	readiness: readonly Readiness[];
	checks: readonly Check[];
	revision: number | null;
	draft: Draft | null;
	wanted: string;
	onWant: (use: string) => void;
	onCheck: (valueId: string) => void;
};

const TONE = {
	wrong: "border-wrong bg-wrong-soft",
	doubtful: "border-doubt bg-doubt-soft",
	note: "border-note bg-note-soft",
} as const;

/** Always in sight: what it is good for, what looks wrong, its revisions, where it is used. */
export function Rail({ sheet, readiness, checks, revision, draft, wanted, onWant, onCheck }: Props) {
	const navigate = useNavigate();
	const unitSet = useUnitSet();
	return (
		<aside
			aria-label="Readiness, checks and revisions"
			className="w-[286px] shrink-0 bg-paper px-[16px] py-[14px] overflow-y-auto max-md:hidden"
		>
			<h2 className="font-bold mb-[3px]">Ready for</h2>
			<ReadinessList readiness={readiness} wanted={wanted} onWant={onWant} />
			<h2 className="font-bold mt-[18px] mb-[6px]">Checks</h2>
			{checks.length === 0 && <p className="caption">Nothing looks wrong.</p>}
			{checks.map((check) => (
				<button
					key={check.code + check.values.join()}
					type="button"
					onClick={() => onCheck(check.values[0] ?? "")}
					className={`block w-full text-left border-l-[3px] px-[10px] py-[6px] mb-[6px] ${TONE[check.severity]}`}
				>
					<span className="block font-bold">
						{check.title} <span className="sr-only">({check.severity})</span>
					</span>
					<span className="block text-[12px] leading-[16px] text-ink2">
						{checkText(check, (figure) => figureText(figure, unitSet))}
					</span>
				</button>
			))}
			<h2 className="font-bold mt-[18px] mb-[3px]">Revisions</h2>
			<ul>
				{sheet.draftAt !== null && (
					<li className="flex items-center gap-[7px] py-[3px]">
						<CircleDashed size={14} aria-hidden className="text-ink2" />
						<Link to={`/materials/${sheet.row.id}`} className={revision === null ? "font-semibold" : ""}>
							Draft,{" "}
							{draft === null || draft.state === "saved"
								? `saved ${clock(sheet.draftAt)}`
								: draft.state === "saving"
									? "saving"
									: "not saved yet, trying again"}
						</Link>
						<span className="ml-auto caption">yours</span>
					</li>
				)}
				{sheet.revisions.map((r, i) => (
					<li key={r.id} className="flex items-start gap-[7px] py-[3px]">
						<CircleDot size={14} aria-hidden className="text-ink2 shrink-0 mt-[2px]" />
						<Link
							to={i === 0 && sheet.draftAt === null ? `/materials/${sheet.row.id}` : `/materials/${sheet.row.id}?rev=${r.no}`}
							className={`min-w-0 ${revision === r.no ? "font-semibold" : ""}`}
							title={`${r.note}\n${r.actor}, ${r.at}`}
						>
							<span className="line-clamp-2">
								Rev {r.no} · {r.note}
							</span>
						</Link>
						<span className="ml-auto caption whitespace-nowrap">{day(r.at)}</span>
					</li>
				))}
				{sheet.revisions.length === 0 && <li className="caption">Never published: only you see it.</li>}
			</ul>
			<h2 className="font-bold mt-[18px] mb-[3px]">Where used</h2>
			{sheet.whereUsed.length === 0 && <p className="caption">On no part yet.</p>}
			<ul>
				{sheet.whereUsed.map((u) => (
					<li key={`${u.projectId} ${u.revision}`} className="flex items-start gap-[7px] py-[3px]">
						<Box size={14} aria-hidden className="text-ink2 shrink-0 mt-[2px]" />
						<span className="min-w-0">
							<Link to={`/parts/${u.projectId}`} className="quiet-link">
								{u.project}
							</Link>
							<span className="block caption">{u.parts.join(", ")}</span>
						</span>
						<span className="ml-auto caption whitespace-nowrap">
							{u.behind ? (
								<span className="tag tag-note">behind, rev {u.revision}</span>
							) : u.revision === 0 ? (
								"draft"
							) : (
								`rev ${u.revision}`
							)}
						</span>
					</li>
				))}
			</ul>
			{draft !== null && sheet.mayEdit && (
				<button
					type="button"
					className="btn btn-ghost btn-small -ml-[8px] mt-[18px]"
					onClick={async () => (await remove(sheet.row)) && navigate("/materials")}
				>
					<Trash2 size={13} aria-hidden /> Delete this material
				</button>
			)}
		</aside>
	);
}

/** A figure of a check in the units on screen. */
function figureText({ si, property: id }: Figure, unitSet: UnitSetId): string {
	const spec = property(id);
	return `${inUnit(si, spec, unitSet)} ${plainUnit(spec.units[unitSet])}`.trim();
}

function clock(iso: string): string {
	return new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

function day(iso: string): string {
	return new Date(iso).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
}
