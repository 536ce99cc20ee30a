import { Bell as BellIcon } from "lucide-react";
import { lazy, Suspense } from "react";
import { useLocation } from "react-router";
import { useRoute } from "../api/queries";
import { Popover } from "./Popover";

const NoticeList = lazy(async () => ({ default: (await import("./NoticeList")).NoticeList }));

/** Notices are asked for now and then, and when the live news is about one; nothing pops up by itself. */
const EVERY_MS = 5 * 60_000;

/** News about what one uses: a mark while there is something fresh, the list when it is opened. */
export function Bell() {
	const notices = useRoute("listNotices", {}, { refetchInterval: EVERY_MS });
	const { pathname } = useLocation();
	const fresh = notices.data?.fresh ?? 0;
	return (
		<Popover
			key={pathname}
			label="Notices"
			button={
				<span className="relative inline-flex">
					<BellIcon size={17} aria-hidden />
					{fresh > 0 && (
						<span aria-hidden className="absolute -top-0.75 -right-1 w-2 h-2 rounded-full bg-note border border-card" />
					)}
				</span>
			}
			buttonName={fresh === 0 ? "Notices, nothing new" : `Notices, ${fresh} new`}
		>
			<Suspense fallback={null}>
				<NoticeList notices={notices.data?.notices ?? []} />
			</Suspense>
		</Popover>
	);
}
