import { instabilities, statedStretches, USUAL_RANGE } from "@alvek/core/curve";
import {
	type Coefficient,
	type Edit,
	type ModelValue,
	makeCoefficient,
	modelNumbers,
	orthotropic,
	type SetValue,
	setStability,
} from "@alvek/core/material";
import type { Component, ModelForm, SetForm } from "@alvek/core/property";
import { significant } from "@alvek/core/quantity";
import { describeIssue } from "@alvek/core/result";
import { useState } from "react";
import type { Draft } from "../../draft/useDraft";
import { useUnitSet } from "../../stores/preferences";
import { inUnit, plainUnit, SymbolText, UnitText } from "../../ui/Quantity";

type Props = {
	form: SetForm | ModelForm;
	at: string;
	value: SetValue | ModelValue | null;
	draft: Draft | null;
};

/** The numbers of a directional set or a model, each typed with its unit, under its form. */
export function CoefficientEditor({ form, at, value, draft }: Props) {
	const [shapeId, setShapeId] = useState<string>(
		form.kind === "set" ? (form.symmetries[0]?.id ?? "") : (form.forms[0]?.id ?? ""),
	);
	const chosen = value === null ? shapeId : value.kind === "set" ? value.symmetry : value.form;
	const coefficients: Readonly<Record<string, Coefficient>> =
		value === null ? {} : value.kind === "set" ? value.components : value.coefficients;
	const specs = specsOf(form, chosen);
	const optional = form.kind === "model" ? (form.forms.find((f) => f.id === chosen)?.optional ?? []) : [];

	const blank = (): SetValue | ModelValue =>
		form.kind === "set"
			? { id: at, property: form.id, kind: "set", symmetry: chosen, axes: ["1", "2", "3"], components: {} }
			: { id: at, property: form.id, kind: "model", form: chosen, coefficients: {} };
	const write = (to: SetValue | ModelValue, what: string): void => {
		const edits: Edit[] = [{ at, from: value, to }];
		draft?.commit(edits, `${form.name} ${what}`);
	};
	const put = (name: string, coefficient: Coefficient | null): void => {
		const { [name]: _before, ...rest } = coefficients;
		const next = coefficient === null ? rest : { ...rest, [name]: coefficient };
		const before = value ?? blank();
		write(before.kind === "set" ? { ...before, components: next } : { ...before, coefficients: next }, name);
	};
	const reshape = (id: string): void => {
		setShapeId(id);
		if (value === null) return;
		// what was entered stays; a number that the new form does not have waits for the way back
		if (value.kind === "set") return write({ ...value, symmetry: id }, "symmetry");
		const kept = Object.fromEntries(Object.entries(value.coefficients).filter(([name]) => specsOf(form, id)[name] !== undefined));
		write({ ...value, form: id, coefficients: kept }, "form");
	};
	const shapes = form.kind === "set" ? form.symmetries : form.forms;

	return (
		<div className="bg-paper border border-line2 rounded-md p-3 mb-2">
			<div className="flex flex-wrap items-end gap-3 mb-2.5">
				<label className="block">
					<span className="caption block">{form.kind === "set" ? "Symmetry" : "Form"}</span>
					<select
						aria-label={form.kind === "set" ? "Symmetry" : "Form of the model"}
						className="field w-65!"
						value={chosen}
						disabled={draft === null}
						onChange={(e) => reshape(e.target.value)}
					>
						{shapes.map((s) => (
							<option key={s.id} value={s.id}>
								{s.name}
							</option>
						))}
					</select>
				</label>
				{form.kind === "model" && (
					<p className="pb-1.5 font-semibold">
						<Expression text={form.forms.find((f) => f.id === chosen)?.expression ?? ""} />
					</p>
				)}
				{value?.kind === "set" && (
					<Axes value={value} onChange={draft === null ? null : (axes) => write({ ...value, axes }, "axes")} />
				)}
			</div>
			<div className={chosen === "anisotropic" ? "grid grid-cols-6 gap-1.5" : "grid grid-cols-3 gap-x-4 gap-y-1.5"}>
				{Object.entries(specs).map(([name, spec]) => (
					<Cell
						// the 6 x 6 stands as its upper triangle
						column={chosen === "anisotropic" ? Number(name[2]) : null}
						key={`${chosen} ${name} ${coefficients[name]?.entered ?? ""}`}
						name={name}
						spec={spec}
						coefficient={coefficients[name] ?? null}
						optional={optional.includes(name)}
						onPut={draft === null ? null : (c) => put(name, c)}
					/>
				))}
			</div>
			<Verdict value={value} />
		</div>
	);
}

function specsOf(form: SetForm | ModelForm, shape: string): Readonly<Record<string, Component>> {
	if (form.kind === "model") return form.forms.find((f) => f.id === shape)?.coefficients ?? {};
	const names = form.symmetries.find((s) => s.id === shape)?.components ?? [];
	return Object.fromEntries(names.map((n) => [n, form.components[n] as Component]));
}

function Cell({
	name,
	spec,
	coefficient,
	optional,
	column,
	onPut,
}: {
	name: string;
	spec: Component;
	coefficient: Coefficient | null;
	optional: boolean;
	/** Column of the matrix that it stands in; then there is room for the number alone. */
	column: number | null;
	onPut: ((c: Coefficient | null) => void) | null;
}) {
	const unitSet = useUnitSet();
	const [error, setError] = useState<string | null>(null);
	const save = (text: string): void => {
		setError(null);
		if (text === (coefficient?.entered ?? "")) return;
		if (text === "") return onPut?.(null);
		const unit = spec.units[unitSet];
		const made = makeCoefficient(text, spec, unit === "1" ? {} : { fieldUnit: unit });
		if (!made.ok) return setError(made.issues.map(describeIssue).join(" "));
		onPut?.(made.value);
	};
	const middle = coefficient?.low == null || coefficient.high === null ? null : (coefficient.low + coefficient.high) / 2;
	return (
		<label className="block" title={spec.name} style={column === null ? undefined : { gridColumnStart: column }}>
			<span className="flex items-baseline gap-1.5">
				<SymbolText symbol={spec.symbol} />
				<span className={column === null ? "caption truncate" : "sr-only"}>
					{spec.name}
					{optional && ", may stay blank"}
				</span>
			</span>
			<span className="flex items-center gap-1.5">
				<input
					className="field font-semibold"
					aria-label={`${name}, ${spec.name}`}
					aria-invalid={error !== null}
					defaultValue={coefficient?.entered ?? ""}
					readOnly={onPut === null}
					placeholder={plainUnit(spec.units[unitSet]) || "number"}
					onBlur={(e) => save(e.target.value.trim())}
					onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
				/>
				{middle !== null && column === null && (
					<span className="caption whitespace-nowrap w-17.5">
						{inUnit(middle, spec, unitSet)} <UnitText unit={spec.units[unitSet]} />
					</span>
				)}
			</span>
			{error && (
				<span role="alert" className="text-wrong text-sm">
					{error}
				</span>
			)}
		</label>
	);
}

function Axes({ value, onChange }: { value: SetValue; onChange: ((axes: [string, string, string]) => void) | null }) {
	return (
		<fieldset className="flex gap-1.5 items-end">
			{[0, 1, 2].map((i) => (
				<label key={i} className="block w-24">
					<span className="caption">axis {i + 1} is</span>
					<input
						className="field"
						key={value.axes[i]}
						defaultValue={value.axes[i]}
						maxLength={60}
						readOnly={onChange === null}
						placeholder="along the fibre"
						onBlur={(e) => {
							const axes = [...value.axes] as [string, string, string];
							axes[i] = e.target.value.trim();
							if (axes[i] !== value.axes[i]) onChange?.(axes);
						}}
					/>
				</label>
			))}
		</fieldset>
	);
}

/** What follows from the numbers: soundness of a set, stability of a rubber, numbers that the symmetry fills in. */
function Verdict({ value }: { value: SetValue | ModelValue | null }) {
	const unitSet = useUnitSet();
	if (value === null) return null;
	if (value.kind === "model") {
		if (value.property !== "hyperelastic_model" || Object.keys(value.coefficients).length === 0) return null;
		const stated = statedStretches(value.validity ?? "");
		const [from, to] = stated ?? USUAL_RANGE;
		const fails = instabilities(value.form, modelNumbers(value), [from, to]);
		return (
			<p
				className={`mt-2.5 border-l-3 px-2.5 py-1 ${fails.length === 0 ? "border-primary bg-accent-soft" : "border-wrong bg-wrong-soft"}`}
			>
				{fails.length === 0
					? `Stable: the tangent is positive in tension and compression of every mode, from a stretch of ${significant(from, 3)} to ${significant(to, 3)}${stated === null ? "" : ", as the model says it holds"}.`
					: `Not stable: ${fails.map((f) => `${f.mode} from a stretch of ${significant(f.stretch, 3)} ${f.stretch < 1 ? "down" : "on"}`).join(", ")}.`}
			</p>
		);
	}
	const stability = setStability(value);
	const full = value.symmetry === "transverse" ? orthotropic(value) : null;
	if (stability === null) return <p className="caption mt-2.5">Soundness is judged once the set is complete.</p>;
	return (
		<p
			className={`mt-2.5 border-l-3 px-2.5 py-1 ${stability.sound ? "border-primary bg-accent-soft" : "border-wrong bg-wrong-soft"}`}
		>
			{stability.sound
				? "Sound: the compliance is positive definite."
				: stability.failingPairs.length > 0
					? `Impossible: ν${stability.failingPairs[0]} is too large for its two moduli.`
					: "Impossible: each pair passes, but the whole compliance is not positive definite."}
			{full !== null &&
				` G23 follows from E2 and ν23: ${inUnit(full.G23, { units: { engineering: "GPa", base: "Pa", us: "Msi" } }, unitSet)}.`}
		</p>
	);
}

/** `σ_0 + H ε_p` with its indices set low. */
function Expression({ text }: { text: string }) {
	return (
		<>
			{text.split(/(_[\p{L}\p{N}.]+)/u).map((piece, i) =>
				// biome-ignore lint/suspicious/noArrayIndexKey: pieces of one fixed text
				piece.startsWith("_") ? <sub key={i}>{piece.slice(1)}</sub> : <span key={i}>{piece}</span>,
			)}
		</>
	);
}
