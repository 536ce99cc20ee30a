import {
	type CollisionDetection,
	DndContext,
	type DragEndEvent,
	DragOverlay,
	KeyboardSensor,
	PointerSensor,
	pointerWithin,
	rectIntersection,
	useSensor,
	useSensors,
} from "@dnd-kit/core";
import { lazy, Suspense, useState } from "react";
import { Outlet } from "react-router";
import { useRoute } from "./api/queries";
import { actOnMany } from "./shared/actOnMany";
import { assignDropped } from "./stores/assignmentTarget";
import { useQuestion } from "./stores/question";
import { useSignedOut } from "./stores/session";
import { type TrayItem, useTray } from "./stores/tray";
import { Legend } from "./ui/Legend";
import { Swatch } from "./ui/marks";
import { ErrorBoundary, Failure } from "./ui/states";
import { Toasts } from "./ui/Toasts";
import { TopBar } from "./ui/TopBar";

/** The place is drawn first; being in touch with the others comes right after. */
const LiveBars = lazy(async () => ({ default: (await import("./shared/LiveBars")).LiveBars }));

// what most visits never need is loaded when it is needed
const SignInPage = lazy(async () => ({ default: (await import("./places/entry/SignIn")).SignInPage }));
const SignInAgain = lazy(async () => ({ default: (await import("./places/entry/SignIn")).SignInAgain }));
const Tray = lazy(async () => ({ default: (await import("./ui/Tray")).Tray }));
const AskFirst = lazy(async () => ({ default: (await import("./ui/AskFirst")).AskFirst }));

/** What lies under the pointer; the keyboard has none and goes by overlap. */
const underPointer: CollisionDetection = (args) => {
	const hits = pointerWithin(args);
	return hits.length > 0 ? hits : rectIntersection(args);
};

/** Past the bar, and past a place's filters to what they filter. */
function skipToContent(): void {
	const to = document.querySelector<HTMLElement>("[data-content]") ?? document.getElementById("content");
	to?.focus();
}

/** Bar, place, tray: the frame that all places share. */
export function App() {
	const [dragged, setDragged] = useState<TrayItem | null>(null);
	const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }), useSensor(KeyboardSensor));
	const session = useRoute("getSession", {});
	const signedOut = useSignedOut((s) => s.out);
	const holding = useTray((s) => s.items.length > 0);
	const asked = useQuestion((s) => s.open !== null);
	if (session.isError) return <Failure error={session.error} retry={() => session.refetch()} />;
	if (session.data === undefined) return null;
	if (session.data.person === null)
		return (
			<Suspense>
				<SignInPage session={session.data} />
			</Suspense>
		);
	const itemOf = (data: unknown): TrayItem | null => (data as { item?: TrayItem } | undefined)?.item ?? null;
	return (
		<DndContext
			sensors={sensors}
			collisionDetection={underPointer}
			onDragStart={(e) => setDragged(itemOf(e.active.data.current))}
			onDragCancel={() => setDragged(null)}
			onDragEnd={(e: DragEndEvent) => {
				setDragged(null);
				const item = itemOf(e.active.data.current);
				if (item === null || e.over === null) return;
				const over = String(e.over.id);
				// some places say themselves what becomes of what is let go there
				const { take } = (e.over.data.current ?? {}) as { take?: (item: TrayItem) => void };
				if (take !== undefined) return take(item);
				const { rows } = (e.active.data.current ?? {}) as { rows?: readonly string[] };
				if (over.startsWith("group:") && rows !== undefined)
					void actOnMany({ ids: [...rows], act: "move", group: over.slice(6) });
				else assignDropped(item, over, e);
			}}
		>
			<div className="h-full flex flex-col">
				<button
					type="button"
					className="sr-only focus:not-sr-only focus:absolute! focus:z-50 focus:top-1.5 focus:left-1.5 focus:bg-card focus:px-3 focus:py-2 font-semibold"
					onClick={skipToContent}
				>
					Skip to the content
				</button>
				<TopBar />
				<Suspense fallback={null}>
					<LiveBars me={session.data.person.id} />
				</Suspense>
				<main id="content" tabIndex={-1} className="flex-1 min-h-0 flex outline-none!">
					<ErrorBoundary>
						<Outlet />
					</ErrorBoundary>
				</main>
				<Toasts />
				{holding && (
					<Suspense>
						<Tray />
					</Suspense>
				)}
			</div>
			<Suspense>
				{signedOut && <SignInAgain />}
				{asked && <AskFirst />}
			</Suspense>
			<Legend />
			<DragOverlay dropAnimation={null}>
				{dragged && (
					<div className="floating h-8.5 inline-flex items-center gap-2 px-2.5 font-semibold">
						<Swatch colour={dragged.colour} /> {dragged.name}
					</div>
				)}
			</DragOverlay>
		</DndContext>
	);
}
