import { valueLabel } from "@alvek/core/material";
import { Link, useParams } from "react-router";
import { useRoute } from "../../api/queries";
import { useUnitSet } from "../../stores/preferences";
import { Page, Part } from "../../ui/Page";
import { EvidenceLetter, wordsOf } from "../../ui/Quantity";
import { Failure, Loading } from "../../ui/states";

/** What parts of a project stand on, also where the library is not open to whoever reads the project. */
export function AssignedMaterialPlace() {
	const { id = "", material = "" } = useParams();
	const unitSet = useUnitSet();
	const revision = useRoute("getProjectRevision", { id, material });
	if (revision.isError) return <Failure error={revision.error} />;
	if (revision.data === undefined) return <Loading what="The revision" />;
	const { name, no, document } = revision.data;
	return (
		<Page
			title={`${name}, revision ${no}`}
			says="Parts of this project stand on this revision, so whoever reads the project reads it. Its library is not open to you."
			aside={
				<Link className="btn" to={`/parts/${id}`}>
					Back to the parts
				</Link>
			}
		>
			{document.description !== "" && <p>{document.description}</p>}
			<Part title="Values">
				<dl>
					{Object.values(document.values).map((value) => (
						<div key={value.id} className="flex gap-3 py-1 border-b border-line2">
							<dt className="w-65 text-ink2">{valueLabel(value).name}</dt>
							<dd>
								<b className={value.carried ? "carried" : ""}>{wordsOf(value, unitSet)}</b>
								<EvidenceLetter value={value} />
							</dd>
						</div>
					))}
				</dl>
			</Part>
		</Page>
	);
}
