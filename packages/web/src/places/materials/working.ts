import type { MaterialRow } from "@alvek/contract";
import { runMutation } from "../../api/runMutation";

/** On the working list of its library, or off it. */
export async function switchWorking(row: MaterialRow): Promise<void> {
	const said = `${row.name} is ${row.working ? "off" : "on"} the working list`;
	await runMutation("setWorking", { id: row.libraryId, materials: [row.id], on: !row.working }, said);
}
