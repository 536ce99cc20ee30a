import type { Sheet } from "@alvek/contract";
import {
	acknowledge,
	type Check,
	checkKey,
	checkText,
	type Figure,
	figureUnits,
	type Material,
	type Readiness,
} from "@alvek/core/material";
import type { UnitSetId } from "@alvek/core/property";
import { Box, CircleDashed, CircleDot, GitFork, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Draft } from "../../draft/useDraft";
import { actOnMany } from "../../shared/actOnMany";
import { useUnitSet } from "../../stores/preferences";
import { ReadinessList } from "../../ui/marks";
import { inUnit, plainUnit } from "../../ui/Quantity";
import { FurtherUses, OtherDrafts, Retire, WhatHappened } from "./RailTeam";

type Props = {
	sheet: Sheet;
	material: Material;
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
export function Rail({ sheet, material, readiness, checks, revision, draft, wanted, onWant, onCheck }: Props) {
	const navigate = useNavigate();
	const unitSet = useUnitSet();
	return (
		<aside
			aria-label="Readiness, checks and revisions"
			className="w-71.5 shrink-0 bg-paper px-4 py-3.5 overflow-y-auto max-md:hidden"
		>
			<h2 className="font-bold mb-0.75">Ready for</h2>
			<ReadinessList readiness={readiness} wanted={wanted} onWant={onWant} />
			<h2 className="font-bold mt-4.5 mb-1.5">Checks</h2>
			{checks.length === 0 && <p className="caption">Nothing looks wrong.</p>}
			{checks.map((check) => (
				<CheckCard
					key={checkKey(check)}
					check={check}
					material={material}
					draft={draft}
					text={checkText(check, (figure) => figureText(figure, unitSet))}
					onShow={() => onCheck(check.values[0] ?? "")}
				/>
			))}
			<h2 className="font-bold mt-4.5 mb-0.75">Revisions</h2>
			<OtherDrafts sheet={sheet} />
			<ul>
				{sheet.draftAt !== null && (
					<li className="flex items-center gap-2 py-0.75">
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
					<li key={r.id} className="flex items-start gap-2 py-0.75">
						<CircleDot size={14} aria-hidden className="text-ink2 shrink-0 mt-0.5" />
						<Link
							to={i === 0 && sheet.draftAt === null ? `/materials/${sheet.row.id}` : `/materials/${sheet.row.id}?rev=${r.no}`}
							className={`min-w-0 ${revision === r.no ? "font-semibold" : ""}`}
							title={`${r.note}\n${r.actor}${r.approvedBy === null ? "" : `, approved by ${r.approvedBy}`}, ${r.at}`}
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
			<h2 className="font-bold mt-4.5 mb-0.75">Where used</h2>
			{sheet.whereUsed.length + sheet.hiddenUses.projects === 0 && <p className="caption">On no part yet.</p>}
			<ul>
				{sheet.whereUsed.map((u) => (
					<li key={`${u.projectId} ${u.revision}`} className="flex items-start gap-2 py-0.75">
						<Box size={14} aria-hidden className="text-ink2 shrink-0 mt-0.5" />
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
			<FurtherUses sheet={sheet} />
			{sheet.variants.length > 0 && (
				<>
					<h2 className="font-bold mt-4.5 mb-0.75">Variants and likenesses</h2>
					<ul>
						{sheet.variants.map((v) => (
							<li key={v.id} className="flex items-start gap-2 py-0.75">
								<GitFork size={14} aria-hidden className="text-ink2 shrink-0 mt-0.5" />
								<Link to={`/materials/${v.id}`} className="quiet-link min-w-0 truncate">
									{v.name}
								</Link>
								<span className="ml-auto caption whitespace-nowrap">
									{v.kind} of rev {v.revision}
									{v.revision < sheet.row.revision && <span className="tag tag-note ml-1">behind</span>}
								</span>
							</li>
						))}
					</ul>
				</>
			)}
			<WhatHappened id={sheet.row.id} />
			{draft !== null && sheet.mayEdit && <Retire sheet={sheet} />}
			{draft !== null && sheet.mayEdit && (
				<button
					type="button"
					className="btn btn-ghost btn-small -ml-2 mt-4.5"
					onClick={async () =>
						(await actOnMany({ ids: [sheet.row.id], act: "remove" }, sheet.row.name)) && navigate("/materials")
					}
				>
					<Trash2 size={13} aria-hidden /> Delete this material
				</button>
			)}
		</aside>
	);
}

/** A figure of a check in the units on screen. */
function figureText(figure: Figure, unitSet: UnitSetId): string {
	const units = figureUnits(figure);
	return `${inUnit(figure.si, { units }, unitSet)} ${plainUnit(units[unitSet])}`.trim();
}

/** A check with its figures and remedy; somebody may let it pass with a reason, which stays on the sheet. */
function CheckCard({
	check,
	material,
	draft,
	text,
	onShow,
}: {
	check: Check;
	material: Material;
	draft: Draft | null;
	text: string;
	onShow: () => void;
}) {
	const [asking, setAsking] = useState(false);
	const key = checkKey(check);
	const at = `acknowledged:${key}`;
	const known = material.acknowledged[key] ?? null;
	if (check.acknowledged !== undefined) {
		return (
			<div className="border-l-3 border-line px-2.5 py-1.5 mb-1.5 text-ink2">
				<span className="block">
					{check.title}: <i>{check.acknowledged}</i>
				</span>
				{draft !== null && (
					<button
						type="button"
						className="quiet-link caption text-ink2!"
						onClick={() => draft.commit([{ at, from: known, to: null }], "check opened again")}
					>
						open it again
					</button>
				)}
			</div>
		);
	}
	return (
		<div className={`border-l-3 px-2.5 py-1.5 mb-1.5 ${TONE[check.severity]}`}>
			<button type="button" onClick={onShow} className="block w-full text-left">
				<span className="block font-bold">
					{check.title} <span className="sr-only">({check.severity})</span>
				</span>
				<span className="block text-sm leading-4 text-ink2">{text}</span>
			</button>
			{check.code === "carried-over" && (
				<Link to="values?show=carried" className="quiet-link caption text-ink2!">
					Go through them
				</Link>
			)}
			{draft !== null && check.code !== "carried-over" && check.code !== "carried-words" && !asking && (
				<button type="button" className="quiet-link caption text-ink2!" onClick={() => setAsking(true)}>
					It is right, because…
				</button>
			)}
			{asking && draft !== null && (
				<form
					className="flex gap-1.5 mt-1"
					onSubmit={(e) => {
						e.preventDefault();
						const input = e.currentTarget.elements.namedItem("reason") as HTMLInputElement;
						const reason = input.value.trim();
						if (reason !== "")
							draft.commit([{ at, from: known, to: acknowledge(check, material, reason) }], "check acknowledged");
						setAsking(false);
					}}
				>
					<input
						// biome-ignore lint/a11y/noAutofocus: the person has just asked to give a reason
						autoFocus
						name="reason"
						aria-label={`Why ${check.title} is right`}
						className="field h-6.5!"
						maxLength={400}
						onKeyDown={(e) => e.key === "Escape" && setAsking(false)}
					/>
					<button type="submit" className="btn btn-small">
						Keep
					</button>
				</form>
			)}
		</div>
	);
}

function clock(iso: string): string {
	return new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

function day(iso: string): string {
	return new Date(iso).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
}
