import type { MaterialRow, Sheet } from "@alvek/contract";
import { Archive, EyeOff, Layers, UserPen } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { actOnMany } from "../../shared/actOnMany";
import { History } from "../../shared/History";
import { PickMaterial } from "../../shared/PickMaterial";
import { FormDialog } from "../../ui/Form";
import { momentOf } from "../../ui/Page";
import { counted } from "../../ui/words";

/** Who else has a draft open: both know of each other before either publishes. */
export function OtherDrafts({ sheet }: { sheet: Sheet }) {
	return sheet.otherDrafts.map((d) => (
		<p key={d.name} className="flex items-start gap-2 bg-doubt-soft border-l-3 border-doubt px-2 py-1.5 mb-1">
			<UserPen size={14} aria-hidden className="shrink-0 mt-0.5" />
			<span>
				<b>{d.name}</b> has a draft too, saved {momentOf(d.savedAt)}. Whoever publishes second is merged value by value.
			</span>
		</p>
	));
}

/** Uses that one may not see, and editions that hold a revision. */
export function FurtherUses({ sheet }: { sheet: Sheet }) {
	const { hiddenUses, editions, row } = sheet;
	return (
		<>
			{hiddenUses.projects > 0 && (
				<p className="flex items-center gap-2 py-0.75">
					<EyeOff size={14} aria-hidden className="text-ink2" />
					{counted(hiddenUses.projects, "project")} you may not see
					<span className="ml-auto caption">{counted(hiddenUses.parts, "part")}</span>
				</p>
			)}
			{editions.slice(0, 4).map((e) => (
				<p key={e.no} className="flex items-center gap-2 py-0.75">
					<Layers size={14} aria-hidden className="text-ink2" />
					<Link className="quiet-link" to={`/libraries/${row.libraryId}`}>
						Edition {e.no}
					</Link>
					<span className="ml-auto caption">rev {e.revision}</span>
				</p>
			))}
		</>
	);
}

export function WhatHappened({ id }: { id: string }) {
	const [open, setOpen] = useState(false);
	return (
		<>
			<h2 className="font-bold mt-4.5 mb-0.75">
				<button type="button" aria-expanded={open} className="quiet-link" onClick={() => setOpen(!open)}>
					History
				</button>
			</h2>
			{open && <History kind="material" id={id} />}
		</>
	);
}

/** Not to be used any more, with what takes its place; or back into use. */
export function Retire({ sheet }: { sheet: Sheet }) {
	const [asking, setAsking] = useState(false);
	const { row } = sheet;
	if (row.revision === 0) return null;
	return (
		<>
			{row.retired !== null ? (
				<button
					type="button"
					className="btn btn-ghost btn-small -ml-2 mt-3.5"
					onClick={() => actOnMany({ ids: [row.id], act: "revive" }, row.name)}
				>
					<Archive size={14} aria-hidden /> Bring back into use
				</button>
			) : (
				<button type="button" className="btn btn-ghost btn-small -ml-2 mt-3.5" onClick={() => setAsking(true)}>
					<Archive size={14} aria-hidden /> Retire…
				</button>
			)}
			{asking && <RetireDialog sheet={sheet} close={() => setAsking(false)} />}
		</>
	);
}

function RetireDialog({ sheet, close }: { sheet: Sheet; close: () => void }) {
	const { row } = sheet;
	const [successor, setSuccessor] = useState<MaterialRow | null>(null);
	const submit = async (): Promise<void> => {
		close();
		await actOnMany({ ids: [row.id], act: "retire", ...(successor === null ? {} : { successor: successor.id }) }, row.name);
	};
	return (
		<FormDialog title={`Retire ${row.name}`} act="Retire" ready submit={submit} close={close} error={null}>
			<p className="text-ink2">
				It stays readable, but is not offered first any more. With a successor, parts that stand on it show behind and can be
				brought forward to that.
			</p>
			<PickMaterial
				label="Successor, if there is one"
				legend="Successor"
				chosen={successor?.id ?? null}
				choose={setSuccessor}
				without={(r) => r.id === row.id}
			/>
		</FormDialog>
	);
}
