import type { LibraryView } from "@alvek/contract";
import { Lock, LockOpen } from "lucide-react";
import { useMe } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { momentOf } from "../../ui/Page";
import { lockWords } from "./words";

/** The lock as everybody sees it, and what one may do with it. A library that one has for oneself has none. */
export function LockBar({ library }: { library: LibraryView }) {
	const me = useMe();
	if (library.alone || library.supplied || library.archived) return null;
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
					{mine ? (
						<button type="button" className="btn btn-small" onClick={() => runMutation("closeLock", { id: library.id })}>
							Close it
						</button>
					) : (
						<OpenLock library={library} />
					)}
				</span>
			)}
		</section>
	);
}

/** Opens the lock of a library, or takes it over from a colleague; `again` where the page has named both already. */
function OpenLock({ library, again = false }: { library: LibraryView; again?: boolean }) {
	const { id, name, lock } = library;
	if (lock === null)
		return (
			<button type="button" className="btn btn-small" onClick={() => runMutation("openLock", { id })}>
				{again ? "Open it" : "Open the lock"}
			</button>
		);
	const takeOver = () => runMutation("openLock", { id, takeOver: true }, `You hold the lock of ${name} now.`);
	return (
		<button type="button" className="btn btn-small" onClick={takeOver}>
			{again ? "Take it over" : `Take it over from ${lock.name}`}
		</button>
	);
}

/** Locks that have to be opened before something can be done, each with its button. */
export function ShutLocks({ libraries }: { libraries: readonly LibraryView[] }) {
	return libraries.map((l) => (
		<p key={l.id} className="mt-1 flex flex-wrap items-center gap-x-2 gap-y-1 text-doubt font-semibold">
			The lock of {l.name} has to be open, by you. <OpenLock library={l} again />
		</p>
	));
}
