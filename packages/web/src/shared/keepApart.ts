import type { MaterialRow } from "@alvek/contract";
import { runMutation } from "../api/runMutation";
import { showToast } from "../stores/toasts";

type Named = Pick<MaterialRow, "id" | "name">;

/** Two look-alikes stay two, and are not told as duplicates again; or may be told again. The first one is of one's own library. */
export async function keepApart([one, other]: readonly [Named, Named], on: boolean): Promise<boolean> {
	if ((await runMutation("keepApart", { id: one.id, other: other.id, on })) === null) return false;
	const text = on ? `${one.name} and ${other.name} stay two.` : `${one.name} and ${other.name} are told as duplicates again.`;
	const back = { label: "Undo", run: () => void keepApart([one, other], !on) };
	showToast({ tone: "plain", text, action: back });
	return true;
}
