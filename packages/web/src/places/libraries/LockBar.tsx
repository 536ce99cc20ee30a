import type { LibraryView } from "@alvek/contract";
import { Lock, LockOpen } from "lucide-react";
import { useAlone, useMe } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { momentOf } from "../../ui/Page";
import { lockWords } from "./words";

/** The lock as everybody sees it, and what one may do with it. Somebody who works alone has none. */
export function LockBar({ library }: { library: LibraryView }) {
	const me = useMe();
	const alone = useAlone();
	if (alone || library.supplied || library.archived) return null;
	const { lock } = library;
	const mine = lock !== null && lock.person === me?.id;
	return (
		<section
			aria-label="Lock"
			className={`flex items-center gap-2.5 px-3 min-h-10.5 border-l-3 ${lock === null ? "bg-sunk border-line" : "bg-note-soft border-note"}`}
		>
			{lock === null ? <Lock size={15} aria-hidden /> : <LockOpen size={15} aria-hidden />}
			<span>
				<b>{lock === null ? "Locked." : `${lockWords(lock, me?.id ?? "").replace(/^o/, "O")}.`}</b>{" "}
				<span className="text-ink2">
					{lock === null
						? "Drafts need no lock; publishing, moving and deleting do."
						: `Since ${momentOf(lock.since)}; closes itself when nobody uses it.`}
				</span>
			</span>
			{library.mayEdit && (
				<span className="ml-auto flex gap-1.5 shrink-0">
					{lock === null && (
						<button type="button" className="btn btn-small" onClick={() => runMutation("openLock", { id: library.id })}>
							Open the lock
						</button>
					)}
					{mine && (
						<button type="button" className="btn btn-small" onClick={() => runMutation("closeLock", { id: library.id })}>
							Close it
						</button>
					)}
					{lock !== null && !mine && (
						<button
							type="button"
							className="btn btn-small"
							onClick={() =>
								runMutation("openLock", { id: library.id, takeOver: true }, `You hold the lock of ${library.name} now.`)
							}
						>
							Take it over from {lock.name}
						</button>
					)}
				</span>
			)}
		</section>
	);
}
