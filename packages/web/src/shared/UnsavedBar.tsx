import { CloudOff } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import type { Orphan } from "../draft/keep";
import { adoptOrphans, dropOrphans, orphansOf, resume, useUnsaved, watchPage } from "../draft/registry";
import { askFirst } from "../stores/question";
import { useSignedOut } from "../stores/session";
import { showToast } from "../stores/toasts";
import { counted } from "../ui/words";

let watched = false;

/** What was typed and is not with the server, wherever one is; and what an earlier page of this person left behind. */
export function UnsavedBar({ me }: { me: string }) {
	const out = useSignedOut((s) => s.out);
	useEffect(() => {
		if (watched) return;
		watched = true;
		watchPage();
	}, []);
	useEffect(() => {
		if (!out) resume(me);
	}, [me, out]);
	return (
		<>
			<Elsewhere />
			<LeftBehind key={me} me={me} />
		</>
	);
}

/** Materials with something unconfirmed whose sheet is not the one on screen. */
function Elsewhere() {
	const { unsaved } = useUnsaved();
	const { pathname } = useLocation();
	const others = unsaved.filter(
		(u) => !pathname.startsWith(`/materials/${u.id}`) && (u.phase !== "sending" || u.asked + u.refused > 0),
	);
	if (others.length === 0) return null;
	return (
		<Bar>
			<b>Not saved yet:</b>
			<span>
				{others.slice(0, 4).map((u, i) => (
					<span key={u.id}>
						{i > 0 && ", "}
						<Link className="quiet-link" to={`/materials/${u.id}`}>
							{u.name}
						</Link>{" "}
						({u.asked > 0 ? "changed elsewhere too" : u.refused > 0 ? "refused" : counted(u.waiting, "change")})
					</span>
				))}
				{others.length > 4 && ` and ${others.length - 4} more`}.
				{others.some((u) => u.waiting > 0) && " It is sent when the server answers; until then it is kept in this browser."}
			</span>
		</Bar>
	);
}

const LOOK_MS = 15_000;

/** A page was closed, reloaded or crashed with something unconfirmed: it is offered again. */
function LeftBehind({ me }: { me: string }) {
	const [orphans, setOrphans] = useState<readonly Orphan[]>(() => orphansOf(me));
	useEffect(() => {
		// a page that crashed is known to be gone only after it was silent for a while
		const timer = setInterval(() => setOrphans(orphansOf(me)), LOOK_MS);
		return () => clearInterval(timer);
	}, [me]);
	if (orphans.length === 0) return null;
	const changes = orphans.reduce((n, o) => n + o.queue.length + o.contested.length + o.refused.length, 0);
	const put = async (): Promise<void> => {
		const { lost } = await adoptOrphans(me);
		setOrphans(orphansOf(me));
		if (lost.length > 0)
			showToast({
				tone: "wrong",
				text: `${lost.join(", ")}: not reachable, or not yours to change any more. It is still kept here.`,
			});
	};
	const leave = async (): Promise<void> => {
		const sure = await askFirst({
			title: "Throw away what was typed?",
			text: `${counted(changes, "change")} of ${orphans.map((o) => o.name).join(", ")} will be gone.`,
			act: "Throw away",
		});
		if (!sure) return;
		dropOrphans(me);
		setOrphans(orphansOf(me));
	};
	return (
		<Bar>
			<b>
				{counted(changes, "change")} you typed {changes === 1 ? "was" : "were"} not saved before the page was closed:
			</b>{" "}
			{[...new Set(orphans.map((o) => o.name))].join(", ")}.
			<span className="ml-auto flex gap-1.5 shrink-0">
				<button type="button" className="btn btn-small" onClick={put}>
					Save now
				</button>
				<button type="button" className="btn btn-ghost btn-small" onClick={leave}>
					Throw away…
				</button>
			</span>
		</Bar>
	);
}

function Bar({ children }: { children: React.ReactNode }) {
	return (
		<div role="status" className="min-h-8 shrink-0 flex items-center gap-2.5 px-4 py-0.75 bg-doubt-soft text-doubt">
			<CloudOff size={15} aria-hidden className="shrink-0" />
			<span className="flex-1 min-w-0 flex flex-wrap items-center gap-x-1">{children}</span>
		</div>
	);
}
