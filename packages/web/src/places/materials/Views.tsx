import { Bookmark } from "lucide-react";
import { lazy, Suspense } from "react";
import { Popover } from "../../ui/Popover";
import type { GridView } from "./view";

const SavedViews = lazy(async () => ({ default: (await import("./SavedViews")).SavedViews }));
const SaveForm = lazy(async () => ({ default: (await import("./SavedViews")).SaveForm }));

/** Saved views: filters, strips, columns and order under a name, mine or for everyone. */
export function Views({ view, saveOnly = false }: { view: GridView; saveOnly?: boolean }) {
	return (
		<Popover
			label={saveOnly ? "Save this view" : "Views"}
			small={saveOnly}
			button={
				saveOnly ? (
					"Save as a view"
				) : (
					<>
						<Bookmark size={15} aria-hidden />
						<span className="sr-only">Views</span>
					</>
				)
			}
		>
			<div className="w-75 p-3">
				<Suspense fallback={null}>
					{!saveOnly && <SavedViews />}
					<SaveForm view={view} />
				</Suspense>
			</div>
		</Popover>
	);
}
