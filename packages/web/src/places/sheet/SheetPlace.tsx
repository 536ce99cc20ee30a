import type { Sheet } from "@alvek/contract";
import { Outlet, useParams, useSearchParams } from "react-router";
import { useRoute } from "../../api/queries";
import { type Draft, useDraft } from "../../draft/useDraft";
import { showToast } from "../../stores/toasts";
import { Failure, Loading } from "../../ui/states";
import { useShortcuts } from "../../ui/useShortcuts";
import { type SheetContext, useJudged } from "./context";

/** One material: its sheet and the views of it (a pasted page, a curve, its values against the base) over one draft. */
export function SheetPlace() {
	const { id = "" } = useParams();
	const [params] = useSearchParams();
	const sheet = useRoute("getSheet", { id });
	const no = params.get("rev");
	const revision = useRoute("getRevision", { id, no: no ?? "1" }, { enabled: no !== null });
	if (sheet.isError) return <Failure error={sheet.error} retry={() => sheet.refetch()} />;
	if (sheet.data === undefined || sheet.data.row.id !== id) return <Loading what="The sheet" />;
	if (no !== null) {
		if (revision.isError) return <Failure error={revision.error} />;
		if (revision.data === undefined || String(revision.data.no) !== no) return <Loading what={`Revision ${no}`} />;
		const { document, no: number } = revision.data;
		return <Views key={`${id}@${no}`} sheet={sheet.data} material={document} revision={number} draft={null} />;
	}
	return <DraftViews key={id} sheet={sheet.data} />;
}

function DraftViews({ sheet }: { sheet: Sheet }) {
	const draft = useDraft(sheet);
	const { undo } = draft;
	const stepBack = (): void => {
		const label = undo();
		showToast({ tone: "plain", text: label === null ? "Nothing more to undo on this sheet." : `Undone: ${label}` });
	};
	useShortcuts([{ keys: "$mod+z", run: stepBack }]);
	return <Views sheet={sheet} material={draft.material} revision={null} draft={draft} />;
}

function Views({
	sheet,
	material,
	revision,
	draft,
}: Omit<SheetContext, "draft" | "typed" | "checks" | "uses" | "own" | "beside"> & { draft: Draft | null }) {
	const judged = useJudged(sheet, material);
	const context: SheetContext = { sheet, material, revision, draft: sheet.mayEdit ? draft : null, typed: draft, ...judged };
	return <Outlet context={context} />;
}
