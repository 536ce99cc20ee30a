import type { MaterialRow } from "@alvek/contract";
import type { TrayItem } from "../../stores/tray";

/** A material as the tray holds it. */
export function trayItem(row: MaterialRow): TrayItem {
	return { id: row.id, name: row.name, colour: row.document.colour, revision: row.revision, draft: row.draftId !== null };
}
