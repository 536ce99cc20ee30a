import type { RouteInput } from "@alvek/contract";
import { showIssues } from "../api/refusals";
import { runMutation } from "../api/runMutation";
import { askFirst } from "../stores/question";
import { useTray } from "../stores/tray";
import { counted } from "../ui/words";

type Many = RouteInput<"manyMaterials">;

const SAID: Readonly<Record<Many["act"], (what: string) => string>> = {
	move: (what) => `${what} moved`,
	retire: (what) => `${what} retired`,
	revive: (what) => `${what} brought back into use`,
	remove: (what) => `${what} deleted. Parts keep what they stand on.`,
	restore: (what) => `${what} restored`,
};

/**
 * One act on materials of a library. Where parts stand on them the server says so first; then the person is asked, once,
 * with those words.
 * @param name of the only material; several are counted
 * @returns whether it was done
 */
export async function actOnMany(input: Many, name?: string): Promise<boolean> {
	const what = name ?? counted(input.ids.length, "material");
	const go = async (inUse: boolean): Promise<boolean> => {
		let question: string | null = null;
		const done = await runMutation("manyMaterials", inUse ? { ...input, inUse } : input, SAID[input.act](what), (issues) => {
			const [first] = issues;
			if (first?.code === "in-use" && !inUse) question = String(first.actual);
			else showIssues(issues);
		});
		if (done !== null) {
			if (input.act === "remove") for (const id of input.ids) useTray.getState().remove(id);
			if (done.value.left.length > 0)
				showIssues([
					{ code: "left-out", actual: done.value.left.slice(0, 8).join(", "), expected: String(done.value.left.length) },
				]);
			return true;
		}
		if (question === null) return false;
		const title = input.act === "remove" ? `Delete ${what}?` : `Retire ${what}?`;
		const text = `${question}. They keep the revisions that they have${input.act === "remove" ? "; the bin keeps the material" : ""}.`;
		return (await askFirst({ title, text, act: input.act === "remove" ? "Delete all the same" : "Retire all the same" }))
			? go(true)
			: false;
	};
	return go(false);
}
