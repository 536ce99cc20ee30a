import type { Notice } from "@alvek/contract";
import { useEffect } from "react";
import { Link } from "react-router";
import { call } from "../api/client";
import { queryClient } from "../api/queries";
import { momentOf } from "./Page";

/** What happened to things one uses, the newest first. */
export function NoticeList({ notices }: { notices: readonly Notice[] }) {
	// opening it is looking at it; the marks stay until it is closed
	useEffect(() => {
		const seen = call("changeNotices", { seen: true });
		return () => void seen.then(() => queryClient.invalidateQueries({ queryKey: ["listNotices"] }));
	}, []);
	return (
		<div className="w-90 max-h-[70vh] overflow-y-auto py-2">
			{notices.length === 0 && (
				<p className="px-3.5 py-1.5 text-ink2">
					Nothing. You are told here when something that your projects use, or that you starred, gets a new revision.
				</p>
			)}
			<ul>
				{notices.map((n) => (
					<li key={n.key} className="border-b border-line2 last:border-b-0">
						<Link to={n.to} className="block px-3.5 py-1.5 hover:bg-sunk">
							<span className="flex gap-1.5">
								<span className="min-w-0 break-words">
									<b>{n.subject}</b> {n.message}
									{n.note !== "" && <span className="text-ink2"> “{n.note}”</span>}
								</span>
								{n.fresh && <span className="tag tag-note ml-auto self-start shrink-0">new</span>}
							</span>
							<span className="caption">{momentOf(n.at)}</span>
						</Link>
					</li>
				))}
			</ul>
			<p className="px-3.5 pt-1.5">
				<Link to="/account" className="quiet-link caption">
					What you are told of
				</Link>
			</p>
		</div>
	);
}
