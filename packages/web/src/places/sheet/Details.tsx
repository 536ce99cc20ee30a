import { BASES, EVIDENCE, type MaterialValue } from "@alvek/core/material";
import type { PropertyRow } from "@alvek/core/property";
import { Plus, X } from "lucide-react";
import { BASIS_WORD, EVIDENCE_WORD } from "../../ui/Quantity";

type Props = {
	spec: PropertyRow;
	value: MaterialValue;
	onChange: (to: MaterialValue) => void;
	onClear: () => void;
	onAnother: () => void;
};

/** Evidence, basis, definition, condition and source of one value, under its line. */
export function Details({ spec, value, onChange, onClear, onAnother }: Props) {
	const set = (key: keyof MaterialValue, text: string): void => {
		const { [key]: _before, ...rest } = value;
		onChange((text === "" ? rest : { ...rest, [key]: text }) as MaterialValue);
	};
	return (
		<div className="bg-paper border border-line2 rounded-[3px] p-[10px] mb-[8px] grid grid-cols-3 gap-[10px]">
			<Choice
				label="Evidence"
				value={value.evidence ?? ""}
				options={EVIDENCE.map((e) => [e, EVIDENCE_WORD[e]])}
				onChange={(t) => set("evidence", t)}
			/>
			<Choice
				label="Basis"
				value={value.basis ?? ""}
				options={BASES.map((b) => [b, BASIS_WORD[b]])}
				onChange={(t) => set("basis", t)}
			/>
			{spec.qualifiers ? (
				<Choice
					label="Definition"
					value={value.qualifier ?? ""}
					options={spec.qualifiers.map((q) => [q.id, q.label])}
					onChange={(t) => set("qualifier", t)}
				/>
			) : (
				<span />
			)}
			<Text
				label="Condition"
				hint="20–200 °C, 6 mm, along the grain"
				value={value.condition ?? ""}
				onChange={(t) => set("condition", t)}
			/>
			<Text
				label="Source"
				hint="document, report, address, person, date"
				value={value.source ?? ""}
				onChange={(t) => set("source", t)}
				wide
			/>
			<div className="col-span-3 flex gap-[6px] items-center">
				<span className="caption">
					typed as “{value.entered}”{spec.standard !== undefined && ` · measured after ${spec.standard}`}
				</span>
				<button type="button" className="btn btn-ghost btn-small ml-auto" onClick={onAnother}>
					<Plus size={13} aria-hidden /> Another value of it
				</button>
				<button type="button" className="btn btn-ghost btn-small" onClick={onClear}>
					<X size={13} aria-hidden /> Make it blank
				</button>
			</div>
		</div>
	);
}

function Choice({
	label,
	value,
	options,
	onChange,
}: {
	label: string;
	value: string;
	options: readonly (readonly [string, string])[];
	onChange: (text: string) => void;
}) {
	return (
		<label className="block">
			<span className="caption">{label}</span>
			<select aria-label={label} className="field" value={value} onChange={(e) => onChange(e.target.value)}>
				<option value="">not said</option>
				{options.map(([id, name]) => (
					<option key={id} value={id}>
						{name}
					</option>
				))}
			</select>
		</label>
	);
}

function Text({
	label,
	hint,
	value,
	onChange,
	wide = false,
}: {
	label: string;
	hint: string;
	value: string;
	onChange: (text: string) => void;
	wide?: boolean;
}) {
	return (
		<label className={`block ${wide ? "col-span-2" : ""}`}>
			<span className="caption">{label}</span>
			<input
				key={value}
				aria-label={label}
				className="field"
				maxLength={400}
				placeholder={hint}
				defaultValue={value}
				onBlur={(e) => e.target.value.trim() !== value && onChange(e.target.value.trim())}
				onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
			/>
		</label>
	);
}
