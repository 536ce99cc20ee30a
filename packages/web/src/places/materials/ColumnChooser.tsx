import { PROPERTIES, SECTIONS } from "@alvek/core/property";
import { ArrowDown, ArrowUp, Columns3 } from "lucide-react";
import { Popover } from "../../ui/Popover";

/** Which properties stand as columns, and in which order. */
export function ColumnChooser({
	columns,
	onChange,
}: {
	columns: readonly string[];
	onChange: (columns: readonly string[]) => void;
}) {
	const move = (id: string, by: number): void => {
		const at = columns.indexOf(id);
		const next = columns.filter((c) => c !== id);
		next.splice(Math.max(0, at + by), 0, id);
		onChange(next);
	};
	const name = (id: string): string => PROPERTIES.find((p) => p.id === id)?.name ?? id;
	return (
		<Popover
			label="Columns"
			button={
				<>
					<Columns3 size={15} aria-hidden /> Columns
				</>
			}
		>
			<div className="w-[300px] max-h-[440px] overflow-y-auto p-[12px]">
				{columns.length > 0 && (
					<ol className="mb-[10px]" aria-label="Order of columns">
						{columns.map((id, i) => (
							<li key={id} className="flex items-center py-[1px]">
								<span className="font-semibold">{name(id)}</span>
								<button
									type="button"
									className="btn btn-ghost btn-small ml-auto px-[4px]!"
									disabled={i === 0}
									onClick={() => move(id, -1)}
									aria-label={`${name(id)} further left`}
								>
									<ArrowUp size={13} aria-hidden />
								</button>
								<button
									type="button"
									className="btn btn-ghost btn-small px-[4px]!"
									disabled={i === columns.length - 1}
									onClick={() => move(id, 1)}
									aria-label={`${name(id)} further right`}
								>
									<ArrowDown size={13} aria-hidden />
								</button>
							</li>
						))}
					</ol>
				)}
				{SECTIONS.map((section) => (
					<fieldset key={section.id} className="mb-[8px]">
						<legend className="font-bold text-[12px]">{section.name}</legend>
						{PROPERTIES.filter((p) => p.section === section.id).map((p) => (
							<label key={p.id} className="flex items-center gap-[7px] py-[2px] cursor-pointer">
								<input
									type="checkbox"
									className="checkbox checkbox-primary"
									checked={columns.includes(p.id)}
									onChange={() => onChange(columns.includes(p.id) ? columns.filter((c) => c !== p.id) : [...columns, p.id])}
								/>
								{p.name}
							</label>
						))}
					</fieldset>
				))}
			</div>
		</Popover>
	);
}
