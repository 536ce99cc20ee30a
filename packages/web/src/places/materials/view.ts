import { propertyById } from "@alvek/core/property";
import { useSearchParams } from "react-router";

/** Columns of a first visit. */
const DEFAULT_COLUMNS = ["density", "youngs_modulus", "yield_strength", "thermal_conductivity"];

export type GridView = {
	readonly text: string;
	readonly library: readonly string[];
	readonly group: readonly string[];
	readonly ready: readonly string[];
	readonly sort: string;
	readonly dir: "asc" | "desc";
	readonly columns: readonly string[];
	/** Material in focus, shown in the brief. */
	readonly row: string | null;
	/** The form for a new material, blank (`blank`) or from a similar one (its id). */
	readonly create: string | null;
};

type Change = Partial<{ [K in keyof GridView]: GridView[K] | null }>;

/** The whole view stands in the address, so it can be sent to a colleague. */
export function useGridView(): readonly [GridView, (change: Change) => void] {
	const [params, setParams] = useSearchParams();
	const list = (key: string): string[] => (params.get(key) ?? "").split(",").filter((s) => s !== "");
	const columns = list("columns").filter((id) => propertyById(id) !== undefined);
	const view: GridView = {
		text: params.get("text") ?? "",
		library: list("library"),
		group: list("group"),
		ready: list("ready"),
		sort: params.get("sort") ?? "group",
		dir: params.get("dir") === "desc" ? "desc" : "asc",
		columns: params.has("columns") ? columns : DEFAULT_COLUMNS,
		row: params.get("row"),
		create: params.get("create"),
	};
	const change = (wanted: Change): void => {
		setParams(
			(before) => {
				const next = new URLSearchParams(before);
				for (const [key, value] of Object.entries(wanted)) {
					const text = Array.isArray(value) ? value.join(",") : (value as string | null);
					const isDefault =
						text === null ||
						(text === "" && key !== "columns") ||
						(key === "sort" && text === "group") ||
						(key === "dir" && text === "asc");
					if (isDefault) next.delete(key);
					else next.set(key, text);
				}
				return next;
			},
			// typing and walking rows would fill the history; a checkbox must not wait for a transition
			{ replace: true, flushSync: true },
		);
	};
	return [view, change];
}
