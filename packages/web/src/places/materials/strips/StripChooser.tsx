import { Plus } from "lucide-react";
import { lazy, Suspense } from "react";
import { Popover } from "../../../ui/Popover";
import type { StripChoice } from "../view";
import type { OwnRows } from "../words";

// a list of all properties, which the first look does without
const StripList = lazy(async () => ({ default: (await import("./StripList")).StripList }));

/** Which properties stand as strips above the grid. */
export function StripChooser(props: {
	strips: readonly StripChoice[];
	own: OwnRows;
	onChange: (strips: readonly StripChoice[]) => void;
}) {
	return (
		<Popover
			label="Strips"
			button={
				<>
					<Plus size={15} aria-hidden /> Strip
				</>
			}
		>
			<Suspense fallback={<div className="w-70 h-110" />}>
				<StripList {...props} />
			</Suspense>
		</Popover>
	);
}
