import type { DragEndEvent } from "@dnd-kit/core";
import type { TrayItem } from "./tray";

/** How the open project takes materials; registered by its place, so that tray and frame need not load it. */
export type AssignmentTarget = {
	/** To the selected parts. */
	assign(materialId: string, draft: boolean): void;
	/** To one part, or to the whole selection when the part belongs to it. */
	assignToPart(partId: string, materialId: string, draft: boolean): void;
	/** To the part under a point of the window, in the 3D view. */
	assignAtPoint(x: number, y: number, materialId: string, draft: boolean): void;
};

let target: AssignmentTarget | null = null;

/** Until the returned function is called, this project takes what is assigned. */
export function takeAssignments(next: AssignmentTarget): () => void {
	target = next;
	return () => {
		if (target === next) target = null;
	};
}

export function requestAssignment(materialId: string, draft: boolean): void {
	target?.assign(materialId, draft);
}

/** A chip was let go over `part:ID` or the 3D view. */
export function assignDropped(item: TrayItem, over: string, event: DragEndEvent): void {
	if (over.startsWith("part:")) target?.assignToPart(over.slice(5), item.id, item.draft);
	if (over !== "view" || !(event.activatorEvent instanceof PointerEvent)) return;
	target?.assignAtPoint(
		event.activatorEvent.clientX + event.delta.x,
		event.activatorEvent.clientY + event.delta.y,
		item.id,
		item.draft,
	);
}
