import { confirmed, EVIDENCE_WORD, freshValueId, type Material, type MaterialValue } from "@alvek/core/material";
import type { Form } from "@alvek/core/property";
import { ChartSpline, EllipsisVertical, Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { Draft } from "../../draft/useDraft";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { Leavable } from "../../ui/Leavable";
import { wordsOf } from "../../ui/Quantity";
import { CoefficientEditor } from "./CoefficientEditor";
import { ConflictStrip } from "./ConflictStrip";
import { FormDetails } from "./FormDetails";
import type { FormSheetLine } from "./lines";
import { MiniCurve } from "./MiniCurve";
import { Provenance } from "./Provenance";
import { SetInAnalysis } from "./SetInAnalysis";

/** The line of a curve, a directional set or a model: a summary, and the door to its editor. */
export function FormLine({ line, material, draft }: { line: FormSheetLine; material: Material; draft: Draft | null }) {
	const { form, value, key } = line;
	const unitSet = useUnitSet();
	const [open, setOpen] = useState(false);
	const [details, setDetails] = useState(false);
	const conflict = draft?.conflicts.find((c) => c.at === key);
	const write = (to: MaterialValue | null, what: string): void =>
		draft?.commit([{ at: key, from: value, to }], `${form.name} ${what}`);
	const clear = (): void => {
		setOpen(false);
		setDetails(false);
		write(null, "removed");
		showToast({ tone: "plain", text: `${form.name} is blank again.`, action: { label: "Undo", run: () => draft?.undo() } });
	};
	const marked = value?.kind === "unknown" || value?.kind === "not-applicable";
	return (
		<div id={`line-${key}`} className="group border-b border-line2 scroll-mt-15">
			<div className="grid grid-cols-[38px_minmax(110px,178px)_minmax(190px,290px)_86px_minmax(0,1fr)_30px] items-center min-h-8 max-md:grid-cols-[30px_1fr_auto_24px]">
				<span className="text-ink3">{form.kind === "curve" && <ChartSpline size={15} aria-hidden />}</span>
				<span className="truncate" title={form.explanation}>
					{form.name}
				</span>
				<span className="min-w-0 flex items-center gap-2 pr-2">
					{value === null ? (
						draft === null ? (
							<span className="text-ink3">blank</span>
						) : (
							<Begin form={form} at={key} onOpen={() => setOpen(!open)} />
						)
					) : marked ? (
						<i className="text-ink2">{wordsOf(value, unitSet)}</i>
					) : form.kind === "curve" ? (
						<Link to={`curve/${value.id}`} className="quiet-link font-semibold truncate flex items-center gap-2">
							<MiniCurve value={value} />
							<span className={`truncate ${value.carried ? "carried" : ""}`}>{wordsOf(value, unitSet)}</span>
						</Link>
					) : (
						<button
							type="button"
							aria-expanded={open}
							className={`quiet-link font-semibold truncate ${value.carried ? "carried" : ""}`}
							onClick={() => setOpen(!open)}
						>
							{wordsOf(value, unitSet)}
						</button>
					)}
				</span>
				<span className="caption text-ink2! max-md:hidden">
					{value?.evidence === undefined ? "" : EVIDENCE_WORD[value.evidence]}
				</span>
				<span className="caption min-w-0 max-md:hidden flex items-center gap-1.5">
					{value === null ? (
						<span className="truncate invisible group-hover:visible group-focus-within:visible">{form.explanation}</span>
					) : (
						<Provenance value={value} onConfirm={draft === null ? null : () => write(confirmed(value), "confirmed")} />
					)}
				</span>
				{draft !== null && value !== null ? (
					<button
						type="button"
						className="btn btn-ghost btn-small px-1!"
						aria-expanded={details}
						aria-label={`Evidence, source and more of ${form.name}`}
						onClick={() => setDetails(!details)}
					>
						<EllipsisVertical size={14} aria-hidden />
					</button>
				) : (
					<span />
				)}
			</div>
			{form.id === "elastic_set" && (value?.kind === "set" || material.elasticity === "directional") && (
				<SetInAnalysis material={material} draft={draft} />
			)}
			{conflict && draft && <ConflictStrip conflict={conflict} draft={draft} />}
			{details && value !== null && draft !== null && (
				<Leavable leave={() => setDetails(false)}>
					<FormDetails
						form={form}
						value={value}
						onChange={(to) => write(to, "details changed")}
						onClear={clear}
						another={form.kind === "curve" ? `curve/${freshValueId(material, form.id)}?new=curve&property=${form.id}` : null}
					/>
				</Leavable>
			)}
			{open && form.kind !== "curve" && (
				<Leavable leave={() => setOpen(false)}>
					<CoefficientEditor
						form={form}
						at={key}
						value={value?.kind === "set" || value?.kind === "model" ? value : null}
						draft={draft}
					/>
				</Leavable>
			)}
		</div>
	);
}

function Begin({ form, at, onOpen }: { form: Form; at: string; onOpen: () => void }) {
	if (form.kind === "curve") {
		return (
			<Link to={`curve/${at}?new=curve&property=${form.id}`} className="text-ink3 hover:text-ink quiet-link">
				blank, paste or type points
			</Link>
		);
	}
	return (
		<button type="button" className="text-ink3 hover:text-ink flex items-center gap-1" onClick={onOpen}>
			<Plus size={12} aria-hidden /> blank, fill in
		</button>
	);
}
