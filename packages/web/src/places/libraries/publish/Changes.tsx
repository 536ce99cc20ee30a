import type { PublishEffect, PublishPlan } from "@alvek/contract";
import type { Edit, Side } from "@alvek/core/material";
import { useState } from "react";
import { sentences } from "../../../api/queries";
import { runMutation } from "../../../api/runMutation";
import { ChangeLine } from "../../../shared/ChangeLine";
import { Swatch } from "../../../ui/marks";
import { counted } from "../../../ui/words";

/** What changes, material by material; one alone is open at once. */
export function Changes({
	plan,
	left,
	setLeft,
}: {
	plan: PublishPlan;
	left: ReadonlySet<string>;
	setLeft: (left: ReadonlySet<string>) => void;
}) {
	const places = plan.materials.reduce((n, m) => n + m.edits.length, 0);
	return (
		<>
			<h2 className="rule-head mt-5">
				What changes <span className="caption font-normal">{counted(places, "change")}; differences in rounding left out</span>
			</h2>
			{plan.materials.map((m) => (
				<MaterialChanges
					key={m.id}
					effect={m}
					alone={plan.materials.length === 1}
					taken={!left.has(m.id)}
					take={(on) => setLeft(new Set(on ? [...left].filter((id) => id !== m.id) : [...left, m.id]))}
				/>
			))}
		</>
	);
}

const SHOWN = 40;

function MaterialChanges({
	effect,
	alone,
	taken,
	take,
}: {
	effect: PublishEffect;
	alone: boolean;
	taken: boolean;
	take: (on: boolean) => void;
}) {
	const [open, setOpen] = useState(alone);
	const [shown, setShown] = useState(SHOWN);
	const refused = effect.issues.length > 0;
	const conflicts = effect.issues.filter((i) => i.code === "conflict");
	return (
		<div className={alone ? "" : "border-b border-line2 py-1.5"}>
			{!alone && (
				<div className="flex items-center gap-2">
					<input
						type="checkbox"
						className="checkbox checkbox-primary"
						aria-label={`Publish ${effect.name}`}
						disabled={refused}
						checked={taken && !refused}
						onChange={(e) => take(e.target.checked)}
					/>
					<Swatch colour={effect.colour} />
					<span className="font-semibold truncate">{effect.name}</span>
					<span className="caption whitespace-nowrap">
						{effect.revision === 0 ? "first revision" : `revision ${effect.revision} → ${effect.revision + 1}`}
					</span>
					<button type="button" className="quiet-link caption ml-auto" aria-expanded={open} onClick={() => setOpen(!open)}>
						{counted(effect.edits.length, "change")}
					</button>
				</div>
			)}
			{conflicts.length > 0 ? (
				<Conflicts effect={effect} places={conflicts.map((c) => c.path ?? "")} />
			) : (
				refused && (
					<p role="alert" className="text-wrong py-1">
						{sentences(effect.issues)}
					</p>
				)
			)}
			{open && (
				<ul className={alone ? "" : "pl-7"}>
					{effect.edits.slice(0, shown).map((edit) => (
						<ChangeLine key={edit.at} edit={edit} />
					))}
				</ul>
			)}
			{open && effect.edits.length > shown && (
				<button type="button" className="btn btn-small mt-1.5" onClick={() => setShown(effect.edits.length)}>
					Show all {effect.edits.length}
				</button>
			)}
		</div>
	);
}

/** Somebody published a newer revision, and both changed these places: each gets a side, then the draft stands on the newer one. */
function Conflicts({ effect, places }: { effect: PublishEffect; places: readonly string[] }) {
	const [sides, setSides] = useState<Readonly<Record<string, Side>>>({});
	const chosen = places.flatMap((at) => (sides[at] === undefined ? [] : [{ at, side: sides[at] }]));
	return (
		<section aria-label="Changed by both" className="bg-doubt-soft border-l-3 border-doubt px-3 py-2.5 my-2">
			<p role="alert" className="font-semibold">
				Revision {effect.revision} came out meanwhile. {counted(places.length, "value")} both changed: which side stands?
			</p>
			{places.map((at) => {
				const edit = effect.edits.find((e) => e.at === at) ?? ({ at, from: null, to: null } as Edit);
				return (
					<fieldset key={at} className="flex items-start gap-3 py-1">
						<legend className="sr-only">{at}</legend>
						<ul className="flex-1 min-w-0">
							<ChangeLine edit={edit} />
						</ul>
						{(["theirs", "mine"] as const).map((side) => (
							<label key={side} className="flex items-center gap-1.5 pt-0.75">
								<input
									type="radio"
									name={`${effect.id} ${at}`}
									checked={sides[at] === side}
									onChange={() => setSides({ ...sides, [at]: side })}
								/>
								{side === "mine" ? "mine" : "the published one"}
							</label>
						))}
					</fieldset>
				);
			})}
			<button
				type="button"
				className="btn btn-small mt-1"
				disabled={chosen.length < places.length}
				onClick={() =>
					runMutation(
						"rebaseDraft",
						{ id: effect.id, chosen },
						`Your draft of ${effect.name} stands on revision ${effect.revision} now.`,
					)
				}
			>
				Put the draft on revision {effect.revision}
			</button>
		</section>
	);
}
