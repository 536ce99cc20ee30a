import { Undo2 } from "lucide-react";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { dayOf } from "../../ui/Page";

/** What was deleted, each with its way back. */
export function Bin() {
	const bin = useRoute("listBin", {});
	if (bin.data === undefined) return null;
	if (bin.data.length === 0) return <p className="caption mt-1.5">Nothing in the bin.</p>;
	return (
		<ul className="mt-1.5" aria-label="Bin">
			{bin.data.map((row) => (
				<li key={row.id} className="flex items-center gap-1.5 py-0.5">
					<span className="min-w-0" title={`${row.name}, ${row.library}`}>
						<span className="block truncate">{row.name}</span>
						<span className="block caption truncate">
							{dayOf(row.removedAt)}
							{row.by !== "" && `, ${row.by}`}, {row.library}
						</span>
					</span>
					<button
						type="button"
						className="btn btn-ghost btn-small ml-auto"
						onClick={() => runMutation("manyMaterials", { ids: [row.id], act: "restore" }, `${row.name} is back.`)}
						aria-label={`Restore ${row.name}`}
					>
						<Undo2 size={13} aria-hidden />
					</button>
				</li>
			))}
		</ul>
	);
}
