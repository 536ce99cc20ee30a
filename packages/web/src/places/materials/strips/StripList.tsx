import { PROPERTIES, SECTIONS } from "@alvek/core/property";
import type { StripChoice } from "../view";
import type { OwnRows } from "../words";

/** Strips of one grid: more would push the rows off the screen. */
const MOST = 6;

/** All properties that may stand as strips. */
export function StripList(props: {
	strips: readonly StripChoice[];
	own: OwnRows;
	onChange: (strips: readonly StripChoice[]) => void;
}) {
	const { strips, own, onChange } = props;
	// numbers of different scales of hardness do not stand on one axis
	const all = [...PROPERTIES, ...own.values()].filter((p) => p.scales !== true);
	return (
		<div className="w-70 max-h-110 overflow-y-auto p-3">
			<p className="caption mb-2">An axis above the grid with every material on it; drag along it to filter.</p>
			{SECTIONS.map((section) => {
				const rows = all.filter((p) => p.section === section.id);
				if (rows.length === 0) return null;
				return (
					<fieldset key={section.id} className="mb-2">
						<legend className="font-bold text-sm">{section.name}</legend>
						{rows.map((p) => {
							const on = strips.some((s) => s.id === p.id);
							return (
								<label key={p.id} className="flex items-center gap-2 py-0.5 cursor-pointer">
									<input
										type="checkbox"
										className="checkbox checkbox-primary"
										checked={on}
										disabled={!on && strips.length >= MOST}
										onChange={() => onChange(on ? strips.filter((s) => s.id !== p.id) : [...strips, { id: p.id, log: null }])}
									/>
									{p.name}
								</label>
							);
						})}
					</fieldset>
				);
			})}
		</div>
	);
}
