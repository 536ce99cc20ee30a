import type { Issue } from "@alvek/core/result";
import { type FormEvent, type ReactNode, useId } from "react";
import { Dialog } from "./Dialog";
import { Refusal } from "./Refusal";

/** A text field under its name, with what helps to fill it. */
export function Field({
	label,
	value,
	change,
	type = "text",
	hint,
	autoComplete = "off",
	readOnly = false,
	list,
}: {
	label: string;
	value: string;
	change: (value: string) => void;
	type?: "text" | "password" | "number";
	hint?: string;
	autoComplete?: string;
	readOnly?: boolean;
	/** The id of a `datalist` with what is usual here. */
	list?: string;
}) {
	const id = useId();
	return (
		<div>
			<label htmlFor={id} className="block mb-0.75 font-semibold">
				{label}
			</label>
			<input
				id={id}
				className="field read-only:bg-sunk"
				type={type}
				value={value}
				autoComplete={autoComplete}
				readOnly={readOnly}
				list={list}
				aria-describedby={hint === undefined ? undefined : `${id}-hint`}
				onChange={(e) => change(e.target.value)}
			/>
			{hint !== undefined && (
				<p id={`${id}-hint`} className="caption">
					{hint}
				</p>
			)}
		</div>
	);
}

/** A choice under its name. */
export function Choose({
	label,
	value,
	change,
	none,
	options,
}: {
	label: string;
	value: string;
	change: (value: string) => void;
	/** The line for nothing chosen. */
	none?: string;
	options: readonly { readonly id: string; readonly name: string }[];
}) {
	const id = useId();
	return (
		<div>
			<label htmlFor={id} className="block mb-0.75 font-semibold">
				{label}
			</label>
			<select id={id} className="field" value={value} onChange={(e) => change(e.target.value)}>
				{none !== undefined && <option value="">{none}</option>}
				{options.map((o) => (
					<option key={o.id} value={o.id}>
						{o.name}
					</option>
				))}
			</select>
		</div>
	);
}

/** A dialog that is a form: its refusal stands above the button. */
export function FormDialog({
	title,
	act: label,
	ready,
	submit,
	close,
	children,
	error,
}: {
	title: string;
	act: string;
	ready: boolean;
	submit: () => void;
	close: () => void;
	children: ReactNode;
	error: readonly Issue[] | null;
}) {
	return (
		<Dialog title={title} close={close}>
			<form
				className="flex flex-col gap-3"
				noValidate
				onSubmit={(e: FormEvent) => {
					e.preventDefault();
					submit();
				}}
			>
				{children}
				{error !== null && <Refusal issues={error} />}
				<button type="submit" className="btn btn-primary self-start" disabled={!ready}>
					{label}
				</button>
			</form>
		</Dialog>
	);
}

export function Ticks<T extends { readonly id: string; readonly name: string }>({
	legend,
	options,
	chosen,
	change,
}: {
	legend: string;
	options: readonly T[];
	chosen: readonly string[];
	change: (ids: readonly string[]) => void;
}) {
	return (
		<fieldset>
			<legend className="font-semibold mb-1">{legend}</legend>
			<div className="grid grid-cols-2 gap-x-3">
				{options.map((o) => (
					<label key={o.id} className="flex items-center gap-2 h-7">
						<input
							type="checkbox"
							className="checkbox"
							checked={chosen.includes(o.id)}
							onChange={(e) => change(e.target.checked ? [...chosen, o.id] : chosen.filter((c) => c !== o.id))}
						/>
						<span className="truncate">{o.name}</span>
					</label>
				))}
			</div>
		</fieldset>
	);
}
