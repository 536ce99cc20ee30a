import type { DragEndEvent } from "@dnd-kit/core";
import type { TrayItem } from "./tray";

/** How the open project takes materials; registered by its place, so that tray and frame need not load it. */
export type Receiver = {
	/** To the selected parts. */
	give(materialId: string, draft: boolean): void;
	/** To one part, or to the whole selection when the part belongs to it. */
	giveToPart(partId: string, materialId: string, draft: boolean): void;
	/** To the part under a point of the window, in the 3D view. */
	giveAtPoint(x: number, y: number, materialId: string, draft: boolean): void;
};

let receiver: Receiver | null = null;

/** Until the returned function is called, the project takes what is given. */
export function receive(next: Receiver): () => void {
	receiver = next;
	return () => {
		if (receiver === next) receiver = null;
	};
}

export function requestGive(materialId: string, draft: boolean): void {
	receiver?.give(materialId, draft);
}

/** A chip was let go over `part:ID` or the 3D view. */
export function dropped(item: TrayItem, target: string, event: DragEndEvent): void {
	if (target.startsWith("part:")) receiver?.giveToPart(target.slice(5), item.id, item.draft);
	if (target !== "view" || !(event.activatorEvent instanceof PointerEvent)) return;
	receiver?.giveAtPoint(
		event.activatorEvent.clientX + event.delta.x,
		event.activatorEvent.clientY + event.delta.y,
		item.id,
		item.draft,
	);
}
