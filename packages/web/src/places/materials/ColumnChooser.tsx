import { Columns3 } from "lucide-react";
import { lazy, Suspense } from "react";
import { Popover } from "../../ui/Popover";
import type { ColumnChoice } from "./view";
import type { OwnRows } from "./words";

// a list of all properties, which the first look does without
const ColumnList = lazy(async () => ({ default: (await import("./ColumnList")).ColumnList }));

export function ColumnChooser(props: {
	columns: readonly ColumnChoice[];
	own: OwnRows;
	onChange: (columns: readonly ColumnChoice[]) => void;
}) {
	return (
		<Popover
			label="Columns"
			button={
				<>
					<Columns3 size={15} aria-hidden /> Columns
				</>
			}
		>
			<Suspense fallback={<div className="w-85 h-110" />}>
				<ColumnList {...props} />
			</Suspense>
		</Popover>
	);
}
