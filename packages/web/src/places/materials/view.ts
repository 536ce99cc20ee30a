import { propertyById } from "@alvek/core/property";
import { useEffect, useRef, useState } from "react";
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
	const [address, setAddress] = useSearchParams();
	// the router takes a moment to follow; what was clicked shows at once
	const [ahead, setAhead] = useState<URLSearchParams | null>(null);
	const params = ahead ?? address;
	const latest = useRef(params);
	latest.current = params;
	// biome-ignore lint/correctness/useExhaustiveDependencies: a new address has caught up
	useEffect(() => setAhead(null), [address]);
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
		const next = new URLSearchParams(latest.current);
		for (const [key, value] of Object.entries(wanted)) {
			const text = Array.isArray(value) ? value.join(",") : (value as string | null);
			if (text === null || isDefault(key, text)) next.delete(key);
			else next.set(key, text);
		}
		latest.current = next;
		setAhead(next);
		// typing and walking rows would fill the history
		setAddress(next, { replace: true });
	};
	return [view, change];
}

/** What need not stand in the address. An empty list of columns is a choice, not the default. */
function isDefault(key: string, text: string): boolean {
	return (text === "" && key !== "columns") || (key === "sort" && text === "group") || (key === "dir" && text === "asc");
}
