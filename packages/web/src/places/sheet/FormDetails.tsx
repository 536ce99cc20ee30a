import type { MaterialValue } from "@alvek/core/material";
import type { Form } from "@alvek/core/property";
import { Plus, X } from "lucide-react";
import { Link } from "react-router";
import { EvidenceAndBasis, Text, withKey } from "./Details";
import { SourceField } from "./SourceField";

/** Evidence, basis, condition and source of a curve, a set or a model. */
export function FormDetails({
	form,
	value,
	onChange,
	onClear,
	another,
}: {
	form: Pick<Form, "name">;
	value: MaterialValue;
	onChange: (to: MaterialValue) => void;
	onClear: () => void;
	another: string | null;
}) {
	const set = (key: string, text: string): void => onChange(withKey(value, key, text));
	return (
		<div className="bg-paper border border-line2 rounded-md p-2.5 mb-2 grid grid-cols-3 gap-2.5">
			<EvidenceAndBasis value={value} onSet={set} />
			<Text
				label="Condition"
				hint="direction, thickness, state"
				value={value.condition ?? ""}
				onChange={(t) => set("condition", t)}
			/>
			<SourceField value={value} name={form.name} />
			<div className="flex items-end justify-end gap-1.5">
				{another !== null && (
					<Link className="btn btn-ghost btn-small" to={another}>
						<Plus size={13} aria-hidden /> Another one
					</Link>
				)}
				<button type="button" className="btn btn-ghost btn-small" onClick={onClear}>
					<X size={13} aria-hidden /> Make it blank
				</button>
			</div>
		</div>
	);
}
