import type { DuplicatePairs, LibraryDetail } from "@alvek/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { IssueError } from "../../../api/client";
import { answerAsJob } from "../../../live/asJob";
import { whyAlike } from "../../../shared/alikeWords";
import { keepApart } from "../../../shared/keepApart";
import { Part } from "../../../ui/Page";
import { counted } from "../../../ui/words";

const FIRST = 10;

/** The finder of materials that were entered twice. It looks when it is asked, because it compares everything with everything. */
export function Duplicates({ library }: { library: LibraryDetail }) {
	const [open, setOpen] = useState(false);
	const [all, setAll] = useState(false);
	const found = useQuery<DuplicatePairs, IssueError>({
		queryKey: ["listDuplicates", { id: library.id }],
		enabled: open,
		queryFn: async () => {
			const answer = await answerAsJob("listDuplicates", { id: library.id }, `Looking for duplicates in ${library.name}`);
			if (!answer.ok) throw new IssueError(answer.issues);
			return answer.value;
		},
	});
	const [withApart, setWithApart] = useState(false);
	const every = found.data?.pairs ?? [];
	const apart = every.filter((p) => p.apart).length;
	const pairs = withApart ? every : every.filter((p) => !p.apart);
	return (
		<Part
			title="Likely duplicates"
			aside={
				<button type="button" className="btn btn-small" aria-expanded={open} onClick={() => setOpen(!open)}>
					{open ? "Close" : "Look for them"}
				</button>
			}
		>
			{!open && (
				<p className="py-2 text-ink2">
					Names a slip apart, or one family and condition with four values within 1 % of which two tell materials apart.
				</p>
			)}
			{open && (
				<>
					<p className="py-2" role="status">
						{found.data === undefined
							? found.isError
								? found.error.issues[0]?.code === "cancelled"
									? "Stopped. Close this and look again when there is time."
									: "That did not work; close and look again."
								: "Looking …"
							: pairs.length === 0
								? "None: no two materials here, or here and in another library, are likely one."
								: `${counted(pairs.length, "pair")}, the most alike first.${found.data.complete ? "" : " There was too much to compare; merge these and look again."}`}
					</p>
					<ul aria-label="Pairs">
						{pairs.slice(0, all ? pairs.length : FIRST).map(({ a, b, apart: left, ...like }) => (
							<li key={`${a.id} ${b.id}`} className="flex items-start gap-2.5 border-b border-line2 py-1.5">
								<span className="min-w-0">
									<Link className="quiet-link font-semibold" to={`/materials/${a.id}`}>
										{a.name}
									</Link>{" "}
									and{" "}
									<Link className="quiet-link font-semibold" to={`/materials/${b.id}`}>
										{b.name}
									</Link>
									{b.libraryId !== a.libraryId && <span className="text-ink2"> in {b.library}</span>}
									<span className="block caption">{whyAlike(like)}</span>
								</span>
								{library.mayEdit && (
									<span className="ml-auto flex gap-1.5 shrink-0">
										<button type="button" className="btn btn-ghost btn-small" onClick={() => keepApart([a, b], !left)}>
											{left ? "Perhaps one after all" : "Leave both"}
										</button>
										{!left && (
											<Link className="btn btn-small" to={`/libraries/merge?keep=${b.id}&drop=${a.id}`}>
												Look and merge…
											</Link>
										)}
									</span>
								)}
							</li>
						))}
					</ul>
					{apart > 0 && (
						<label className="flex items-center gap-2 py-1.5 caption">
							<input type="checkbox" className="checkbox" checked={withApart} onChange={(e) => setWithApart(e.target.checked)} />
							with {counted(apart, "pair")} of which somebody said that they are two
						</label>
					)}
					{!all && pairs.length > FIRST && (
						<button type="button" className="btn btn-ghost btn-small mt-1.5" onClick={() => setAll(true)}>
							All {pairs.length}
						</button>
					)}
				</>
			)}
		</Part>
	);
}
