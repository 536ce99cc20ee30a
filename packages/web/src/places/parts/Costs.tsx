import type { PartView, ProjectView } from "@alvek/contract";
import { costedPart, type Money, rollUpCosts } from "@alvek/core/cost";
import { MASS_UNITS, showComputed } from "@alvek/core/mass";
import { typeset } from "@alvek/core/quantity";
import { type FormEvent, useState } from "react";

import { mutate, undoEvent } from "../../api/mutate";
import { sentences } from "../../api/queries";
import { useUnitSet } from "../../stores/preferences";
import { showToast } from "../../stores/toasts";
import { Dialog } from "../../ui/Dialog";

/** What the material in these parts costs and carries, with how much of it the sums cover. */
export function Costs({ project, parts }: { project: ProjectView; parts: readonly PartView[] }) {
	const unitSet = useUnitSet();
	const [open, setOpen] = useState(false);
	const { money } = project;
	const totals = rollUpCosts(parts.map(costedPart), money);
	const { cost, carbon_kg: carbon, pieces, ratesMissing } = totals;
	const covered = (n: number): string | null => (n === pieces ? null : `${n} of ${pieces} parts`);
	return (
		<>
			<h3 className="font-bold mt-3.5 flex items-baseline">
				Material cost and carbon
				{project.mayEdit && (
					<button type="button" className="quiet-link caption ml-auto font-normal" onClick={() => setOpen(true)}>
						rates
					</button>
				)}
			</h3>
			<dl>
				<Sum
					name="Cost"
					text={cost === null ? null : `${moneyText(cost)} ${money.currency}`}
					covers={covered(totals.piecesWithCost)}
					none="no price"
				/>
				<Sum
					name="CO₂ equivalent"
					text={carbon === null ? null : `${typeset(showComputed(carbon, "mass", unitSet))} ${MASS_UNITS[unitSet].mass}`}
					covers={covered(totals.piecesWithCarbon)}
					none="unspecified"
				/>
			</dl>
			{ratesMissing.length > 0 && (
				<p className="caption text-doubt!">Prices in {ratesMissing.join(", ")} are left out: no rate is given.</p>
			)}
			{open && <MoneyForm project={project.id} money={money} missing={ratesMissing} close={() => setOpen(false)} />}
		</>
	);
}

function Sum({ name, text, covers, none }: { name: string; text: string | null; covers: string | null; none: string }) {
	return (
		<div className="flex py-0.5">
			<dt className="text-ink2">{name}</dt>
			<dd className="ml-auto text-right">
				{text === null ? <span className="caption">{none}</span> : <b className="font-semibold">{text}</b>}
				{text !== null && covers !== null && <span className="caption text-doubt! block">only {covers}</span>}
			</dd>
		</div>
	);
}

/** Two decimals, as money is written. */
function moneyText(amount: number): string {
	return typeset(amount.toFixed(2));
}

type RateRow = { readonly currency: string; readonly rate: string; readonly date: string };

/** The currency of the sums, and what one unit of another is worth in it, with its date. */
function MoneyForm(props: { project: string; money: Money; missing: readonly string[]; close: () => void }) {
	const today = new Date().toISOString().slice(0, 10);
	const asked = props.missing.map((currency): RateRow => ({ currency, rate: "", date: today }));
	const [currency, setCurrency] = useState(props.money.currency);
	const [rates, setRates] = useState<readonly RateRow[]>([...props.money.rates, ...asked]);
	const [error, setError] = useState<string | null>(null);
	const change = (at: number, row: Partial<RateRow>): void => setRates(rates.map((r, i) => (i === at ? { ...r, ...row } : r)));
	const submit = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		const kept = rates.filter((r) => r.currency !== "" || r.rate !== "").map((r) => ({ ...r, rate: r.rate.replace(",", ".") }));
		const result = await mutate("setMoney", { id: props.project, currency, rates: kept });
		if (!result.ok) return setError(sentences(result.issues));
		const what = "Currency and rates changed";
		showToast({ tone: "plain", text: `${what}.`, action: { label: "Undo", run: () => undoEvent(result.value.event, what) } });
		props.close();
	};
	return (
		<Dialog title="Currency and rates" close={props.close}>
			<form onSubmit={submit}>
				<label className="flex items-center gap-2 mb-3">
					Sums are in
					<input
						className="field w-17.5!"
						maxLength={3}
						value={currency}
						onChange={(e) => setCurrency(e.target.value.toUpperCase())}
						aria-label="Currency of the sums"
					/>
				</label>
				{rates.map((r, i) => (
					// biome-ignore lint/suspicious/noArrayIndexKey: rows of a form have no other identity
					<div key={i} className="flex items-center gap-1.5 mb-1.5">
						<span>1</span>
						<input
							className="field w-16!"
							maxLength={3}
							value={r.currency}
							aria-label={`Currency ${i + 1}`}
							placeholder="USD"
							onChange={(e) => change(i, { currency: e.target.value.toUpperCase() })}
						/>
						<span>=</span>
						<input
							className="field w-22.5! text-right"
							inputMode="decimal"
							value={r.rate}
							aria-label={`Rate ${i + 1}`}
							placeholder="0.92"
							onChange={(e) => change(i, { rate: e.target.value })}
						/>
						<span>{currency} on</span>
						<input
							type="date"
							className="field w-35!"
							value={r.date}
							aria-label={`Date of rate ${i + 1}`}
							onChange={(e) => change(i, { date: e.target.value })}
						/>
					</div>
				))}
				<button
					type="button"
					className="btn btn-ghost btn-small"
					onClick={() => setRates([...rates, { currency: "", rate: "", date: today }])}
				>
					Another currency
				</button>
				<p className="caption my-2.5">
					Without a rate a price is left out of the sum, never guessed. Cost is that of the material in the parts: mass times
					price.
				</p>
				{error !== null && (
					<p role="alert" className="text-wrong mb-2">
						{error}
					</p>
				)}
				<button type="submit" className="btn btn-primary">
					Keep
				</button>
			</form>
		</Dialog>
	);
}
