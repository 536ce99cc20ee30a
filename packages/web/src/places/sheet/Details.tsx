import {
	BASES,
	BASIS_WORD,
	EVIDENCE,
	EVIDENCE_WORD,
	freshValueId,
	isNumber,
	type Material,
	type MaterialValue,
	makeValue,
	type NumberValue,
	SPREADS,
	USES,
} from "@alvek/core/material";
import type { PropertyRow } from "@alvek/core/property";
import { describeIssue } from "@alvek/core/result";
import { ListOrdered, Plus, Table2, X } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { useUnitSet } from "../../stores/preferences";
import { plainUnit } from "../../ui/Quantity";
import { useSheet } from "./context";
import { standardOf } from "./Provenance";
import { ReadingsForm } from "./ReadingsForm";
import { SourceField } from "./SourceField";

type Props = {
	spec: PropertyRow;
	value: MaterialValue;
	onChange: (to: MaterialValue) => void;
	onClear: () => void;
	onAnother: () => void;
};

const SPREAD_WORD = {
	tolerance: "tolerance",
	"standard-deviation": "standard deviation s",
	expanded: "expanded uncertainty",
} as const;

/** Evidence, basis, definition, condition, working value and source of one value, under its line. */
export function Details({ spec, value, onChange, onClear, onAnother }: Props) {
	const { sheet, material } = useSheet();
	const set = (key: string, text: string): void => onChange(withKey(value, key, text));
	const number = isNumber(value) ? value : null;
	const [reading, setReading] = useState(false);
	const base = baseValue(sheet.base?.head ?? null, value);
	return (
		<div className="bg-paper border border-line2 rounded-md p-2.5 mb-2 grid grid-cols-3 gap-2.5">
			<EvidenceAndBasis value={value} onSet={set} />
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
			<SourceField value={value} name={spec.name} />
			{number !== null && /±|\+\/-/.test(number.entered) && (
				<Choice
					label="What ± means"
					value={number.spread ?? ""}
					options={SPREADS.map((s) => [s, SPREAD_WORD[s]])}
					onChange={(t) => set("spread", t)}
				/>
			)}
			{number !== null && spec.scales !== true && <Working spec={spec} value={number} onChange={onChange} />}
			<div className="col-span-3 flex flex-wrap gap-1.5 items-center">
				<span className="caption mr-auto">
					{number !== null && `typed as “${number.entered}”`}
					{standardOf(value)}
				</span>
				{sheet.base !== null && base !== null && value.follows === undefined && (
					<button
						type="button"
						className="btn btn-ghost btn-small"
						onClick={() => onChange(following(base, value.id, sheet.base as NonNullable<typeof sheet.base>))}
					>
						Follow {sheet.base.name}
					</button>
				)}
				{value.follows !== undefined && (
					<button type="button" className="btn btn-ghost btn-small" onClick={() => onChange(withKey(value, "follows", ""))}>
						Keep mine, stop following
					</button>
				)}
				{number !== null && spec.scales !== true && value.own === undefined && (
					<Link className="btn btn-ghost btn-small" to={`curve/${freshValueId(material, spec.id)}?new=table&property=${spec.id}`}>
						<Table2 size={13} aria-hidden /> Over temperature…
					</Link>
				)}
				{number !== null && (
					<button type="button" className="btn btn-ghost btn-small" aria-expanded={reading} onClick={() => setReading(!reading)}>
						<ListOrdered size={13} aria-hidden /> Several readings…
					</button>
				)}
				<button type="button" className="btn btn-ghost btn-small" onClick={onAnother}>
					<Plus size={13} aria-hidden /> Another value of it
				</button>
				<button type="button" className="btn btn-ghost btn-small" onClick={onClear}>
					<X size={13} aria-hidden /> Make it blank
				</button>
				{reading && number !== null && (
					<ReadingsForm
						id={value.id}
						spec={spec}
						{...(value.own === undefined ? {} : { own: value.own })}
						before={number.kind === "readings" ? number.entered : ""}
						onDone={(to) => {
							setReading(false);
							onChange({
								...to,
								...(value.qualifier === undefined ? {} : { qualifier: value.qualifier }),
								...(value.condition === undefined ? {} : { condition: value.condition }),
							});
						}}
						onCancel={() => setReading(false)}
					/>
				)}
			</div>
		</div>
	);
}

/** How good a value is, and what it means statistically. */
export function EvidenceAndBasis({ value, onSet }: { value: MaterialValue; onSet: (key: string, text: string) => void }) {
	return (
		<>
			<Choice
				label="Evidence"
				value={value.evidence ?? ""}
				options={EVIDENCE.map((e) => [e, EVIDENCE_WORD[e]])}
				onChange={(t) => onSet("evidence", t)}
			/>
			<Choice
				label="Basis"
				value={value.basis ?? ""}
				options={BASES.map((b) => [b, BASIS_WORD[b]])}
				onChange={(t) => onSet("basis", t)}
			/>
		</>
	);
}

/** The value with one of its words set or, for an empty text, taken away. Saying something about it confirms nothing. */
export function withKey<V extends MaterialValue>(value: V, key: string, text: string): V {
	const { [key as keyof V]: _before, ...rest } = value;
	return (text === "" ? rest : { ...rest, [key]: text }) as V;
}

/** What the base says in the same place. */
export function baseValue(base: Material | null, value: MaterialValue): MaterialValue | null {
	const found = base?.values[value.id];
	return found !== undefined && found.property === value.property ? found : null;
}

/** The base's value, followed from its newest revision. */
export function following(
	base: MaterialValue,
	id: string,
	of: { name: string; uid: string; headRevision: number },
): MaterialValue {
	const { carried: _carried, follows: _follows, ...rest } = base;
	return { ...rest, id, follows: { name: of.name, uid: of.uid, revision: of.headRevision } } as MaterialValue;
}

const ENDS = [
	["low", "the low end"],
	["middle", "the middle"],
	["high", "the high end"],
] as const;

/** Which number calculations work with, for all uses or one: an end, the middle, or a number of one's own. */
function Working({ spec, value, onChange }: { spec: PropertyRow; value: NumberValue; onChange: (to: MaterialValue) => void }) {
	const unitSet = useUnitSet();
	const [use, setUse] = useState("any");
	const [typed, setTyped] = useState<string | null>(null);
	const [error, setError] = useState<string | null>(null);
	const chosen = value.working?.[use] ?? "";
	const own = chosen !== "" && !["low", "middle", "high", "mean"].includes(chosen);
	const put = (text: string): void => {
		const { [use]: _before, ...rest } = value.working ?? {};
		const working = text === "" ? rest : { ...rest, [use]: text };
		const { working: _old, ...bare } = value;
		onChange((Object.keys(working).length === 0 ? bare : { ...bare, working }) as MaterialValue);
	};
	const save = (text: string): void => {
		const read = makeValue(
			{ id: value.id, property: value.property },
			text,
			{ fieldUnit: spec.units[unitSet] },
			value.own === undefined ? {} : { own: value.own },
		);
		if (!read.ok) return setError(read.issues.map(describeIssue).join(" "));
		setError(null);
		setTyped(null);
		put(read.value.entered);
	};
	const options = value.kind === "readings" ? [...ENDS, ["mean", "the mean"] as const] : ENDS;
	return (
		<div className="col-span-3 flex flex-wrap items-end gap-2.5">
			<label className="block w-45">
				<span className="caption">Works with, for</span>
				<select aria-label="Works with, for" className="field" value={use} onChange={(e) => setUse(e.target.value)}>
					<option value="any">every use</option>
					{USES.map((u) => (
						<option key={u.id} value={u.id}>
							{u.name}
							{value.working?.[u.id] !== undefined ? " (set)" : ""}
						</option>
					))}
				</select>
			</label>
			<label className="block w-57.5">
				<span className="caption">Working value</span>
				<select
					aria-label="Working value"
					className="field"
					value={typed !== null || own ? "typed" : chosen}
					onChange={(e) => {
						const typing = e.target.value === "typed";
						setTyped(typing ? (own ? chosen : "") : null);
						if (!typing) put(e.target.value);
					}}
				>
					<option value="">as the property’s rule says</option>
					{options.map(([id, name]) => (
						<option key={id} value={id}>
							{name}
						</option>
					))}
					<option value="typed">a number of our own</option>
				</select>
			</label>
			{(typed !== null || own) && (
				<label className="block flex-1">
					<span className="caption">in {plainUnit(spec.units[unitSet]) || "numbers"}, or any unit</span>
					<input
						aria-label="Own working value"
						className="field"
						defaultValue={own ? chosen : (typed ?? "")}
						onBlur={(e) => e.target.value.trim() !== "" && e.target.value !== chosen && save(e.target.value)}
						onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
					/>
				</label>
			)}
			<Factored value={value} onChange={onChange} />
			{error && (
				<p role="alert" className="text-wrong w-full">
					{error}
				</p>
			)}
		</div>
	);
}

/** A factor on the working number, with its reason; both or neither. */
function Factored({ value, onChange }: { value: NumberValue; onChange: (to: MaterialValue) => void }) {
	const [by, setBy] = useState(value.factor?.by ?? "");
	const [reason, setReason] = useState(value.factor?.reason ?? "");
	const number = by.trim().replace(",", ".");
	const fine = /^\d{1,6}(\.\d{1,9})?$/.test(number) && Number(number) > 0 && Number(number) <= 1000;
	const save = (): void => {
		const { factor: _before, ...bare } = value;
		if (number === "" && value.factor !== undefined) onChange(bare as MaterialValue);
		if (!fine || reason.trim() === "" || (number === value.factor?.by && reason.trim() === value.factor.reason)) return;
		onChange({ ...bare, factor: { by: number, reason: reason.trim() } } as MaterialValue);
	};
	return (
		<>
			<label className="block w-20">
				<span className="caption">times</span>
				<input
					aria-label="Factor on the working value"
					className="field"
					value={by}
					maxLength={16}
					inputMode="decimal"
					aria-invalid={number !== "" && !fine}
					placeholder="1"
					onChange={(e) => setBy(e.target.value)}
					onBlur={save}
				/>
			</label>
			<label className="block flex-1 min-w-40">
				<span className="caption">because</span>
				<input
					aria-label="Reason of the factor"
					aria-invalid={fine && reason.trim() === ""}
					className="field"
					value={reason}
					maxLength={400}
					placeholder={fine && reason.trim() === "" ? "a factor needs its reason" : ""}
					onChange={(e) => setReason(e.target.value)}
					onBlur={save}
					onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
				/>
			</label>
		</>
	);
}

export function Choice({
	label,
	value,
	options,
	onChange,
	none = "unspecified",
}: {
	label: string;
	value: string;
	options: readonly (readonly [string, string])[];
	onChange: (text: string) => void;
	none?: string;
}) {
	return (
		<label className="block">
			<span className="caption">{label}</span>
			<select aria-label={label} className="field" value={value} onChange={(e) => onChange(e.target.value)}>
				<option value="">{none}</option>
				{options.map(([id, name]) => (
					<option key={id} value={id}>
						{name}
					</option>
				))}
			</select>
		</label>
	);
}

export function Text({
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
