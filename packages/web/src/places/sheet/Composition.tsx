import type { Constituent, Material } from "@alvek/core/material";
import { Plus, X } from "lucide-react";
import { useState } from "react";
import type { Draft } from "../../draft/useDraft";

/** Constituents in mass percent; one may be the balance. Typed as `Cu balance; Sn 11-13; Pb max 0.5`. */
export function Composition({ material, commit }: { material: Material; commit: Draft["commit"] | null }) {
	const { composition } = material;
	const [error, setError] = useState<string | null>(null);
	const save = (next: readonly Constituent[]): void =>
		commit?.([{ at: "field:composition", from: composition, to: next }], "composition");
	const add = (text: string): boolean => {
		const read = text
			.split(";")
			.map((t) => t.trim())
			.filter((t) => t !== "")
			.map(readConstituent);
		const bad = read.indexOf(null);
		if (bad >= 0) {
			setError("Type a constituent with its mass percent: Sn 11-13, or Pb max 0.5, or Cu balance.");
			return false;
		}
		setError(null);
		const added = read as Constituent[];
		save([...composition.filter((c) => !added.some((a) => a.name === c.name)), ...added]);
		return true;
	};
	return (
		<section id="section-composition" aria-label="Composition" className="mt-6 scroll-mt-3">
			<h2 className="rule-head text-md">
				Composition <span className="caption font-normal">mass percent</span>
			</h2>
			<ul className="flex flex-wrap gap-x-5 py-1.5">
				{composition.map((c) => (
					<li key={c.name} className="flex items-center gap-1.5 h-6.5">
						<b>{c.name}</b> {share(c)}
						{commit !== null && (
							<button
								type="button"
								className="text-ink3 hover:text-ink p-0.5"
								aria-label={`Take ${c.name} out`}
								onClick={() => save(composition.filter((x) => x !== c))}
							>
								<X size={12} aria-hidden />
							</button>
						)}
					</li>
				))}
				{composition.length === 0 && <li className="caption py-1">Not said.</li>}
			</ul>
			{commit !== null && (
				<form
					className="flex gap-2 items-center"
					onSubmit={(e) => {
						e.preventDefault();
						const input = e.currentTarget.elements.namedItem("constituent") as HTMLInputElement;
						if (input.value.trim() !== "" && add(input.value)) input.value = "";
					}}
				>
					<input
						name="constituent"
						aria-label="Constituent"
						className="field max-w-80"
						maxLength={400}
						placeholder="Sn 11-13; Pb max 0.5; Cu balance"
					/>
					<button type="submit" className="btn btn-ghost btn-small">
						<Plus size={13} aria-hidden /> Add
					</button>
					{error && (
						<span role="alert" className="text-wrong">
							{error}
						</span>
					)}
				</form>
			)}
		</section>
	);
}

function share({ min, max, balance }: Constituent): string {
	if (balance) return "balance";
	if (min === max) return min;
	if (min === "") return `≤ ${max}`;
	return max === "" ? `≥ ${min}` : `${min}–${max}`;
}

/** `Sn 11-13`, `Pb max 0.5`, `Cu balance`, `Zn 2,0`; null for anything else. */
function readConstituent(text: string): Constituent | null {
	const match =
		/^([\p{L}][\p{L}\d ().-]{0,38}?)\s*(?::|=|\s)\s*(?:(balance|bal\.?|rest)|(?:(max\.?|<=|≤|<)|(min\.?|>=|≥|>))?\s*(\d+(?:[.,]\d+)?)(?:\s*(?:-|–|to|\.\.)\s*(\d+(?:[.,]\d+)?))?\s*%?)$/iu.exec(
			text,
		);
	if (match === null) return null;
	const [, name = "", balance, upper, lower, first = "", second] = match;
	const number = (x: string): string => x.replace(",", ".");
	if (balance !== undefined) return { name: name.trim(), min: "", max: "", balance: true };
	if (upper !== undefined) return { name: name.trim(), min: "", max: number(first) };
	if (lower !== undefined) return { name: name.trim(), min: number(first), max: "" };
	return { name: name.trim(), min: number(first), max: number(second ?? first) };
}
