import { CloudOff, Megaphone } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useLocation } from "react-router";
import { call } from "../api/client";
import { onRefresh, refreshAll } from "../api/queries";
import { inWords } from "../live/about";
import { connect, type Link } from "../live/connect";
import { clearNews, dropNews, take, useNews } from "../live/news";
import { stepBack } from "../live/stepBack";
import { useSignedOut } from "../stores/session";
import { useShortcuts } from "../ui/useShortcuts";
import { UnsavedBar } from "./UnsavedBar";
import { useOwnKeys } from "./useOwnKeys";
import { WorkBar } from "./WorkBar";

/** A moment without a connection is nothing to speak of. */
const GRACE_MS = 2_500;

/** Places with steps of their own that are not on the server yet: a sheet's draft, a curve, cells. */
const OWN_STEPS = /^\/materials\/[^/]/;

/** Keeps the page in touch with the server, and says above the place when it is not, or when there is news. */
export function LiveBars({ me }: { me: string }) {
	const link = useRef<Link | null>(null);
	useEffect(() => {
		const made = connect(me, take);
		link.current = made;
		// what a person's own step asked for anew is no news any more
		const stop = onRefresh(dropNews);
		return () => {
			made.close();
			stop();
		};
	}, [me]);
	const { pathname } = useLocation();
	useShortcuts(OWN_STEPS.test(pathname) ? [] : [{ keys: "$mod+z", run: () => void stepBack() }]);
	useOwnKeys();
	// biome-ignore lint/correctness/useExhaustiveDependencies: another place asks anew for what it shows
	useEffect(clearNews, [pathname]);
	return (
		<>
			<Lost retry={() => link.current?.retry()} />
			<UnsavedBar me={me} />
			<WorkBar />
			<News me={me} />
		</>
	);
}

function Lost({ retry }: { retry: () => void }) {
	const { link, lostAt } = useNews();
	const [late, setLate] = useState(false);
	const signedOut = useSignedOut((s) => s.out);
	useEffect(() => {
		if (link === "live") return setLate(false);
		const timer = setTimeout(() => {
			setLate(true);
			// an ended session closes the stream too; asking anything brings the way in again
			void call("readNews", { after: "0" });
		}, GRACE_MS);
		return () => clearTimeout(timer);
	}, [link]);
	if (link === "live" || !late || signedOut) return <div role="status" className="sr-only" />;
	const since = lostAt?.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" }) ?? "";
	return (
		<div role="status" className="min-h-8 shrink-0 flex items-center gap-2.5 px-4 py-0.75 bg-doubt-soft text-doubt">
			<CloudOff size={15} aria-hidden className="shrink-0" />
			<span>
				<b>No connection to the server since {since}.</b> You see what was last received. What you type on a sheet is kept here
				and sent when the connection is back.
			</span>
			<button type="button" className="btn btn-small ml-auto shrink-0" onClick={retry}>
				Try now
			</button>
		</div>
	);
}

function News({ me }: { me: string }) {
	const { news, missed } = useNews();
	const latest = news.at(-1);
	if (latest === undefined && !missed) return null;
	const more = news.length - 1;
	return (
		<div role="status" className="min-h-8 shrink-0 flex items-center gap-2.5 px-4 py-0.75 bg-note-soft text-note">
			<Megaphone size={15} aria-hidden className="shrink-0" />
			<span>
				{latest === undefined ? "A lot happened while the connection was away." : <b>{inWords(latest, me)}</b>}
				{more > 0 && ` And ${more} more.`}
			</span>
			<span className="ml-auto flex gap-1.5 shrink-0">
				<button type="button" className="btn btn-small" onClick={() => refreshAll()}>
					Show it
				</button>
				<button type="button" className="btn btn-ghost btn-small" onClick={clearNews}>
					Later
				</button>
			</span>
		</div>
	);
}
