import { useCallback, useMemo, useRef, useState } from "react";
import type { Rows } from "../useRows";

/** Rows that are marked to be acted on together; the focus is another thing. */
export type Marking = {
	readonly ids: ReadonlySet<string>;
	readonly toggle: (index: number) => void;
	/** Everything from the last marked row to this one, as far as it is loaded. */
	readonly extend: (index: number) => void;
	readonly clear: () => void;
};

export function useMarking(rows: Rows): Marking {
	const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
	const anchor = useRef<number | null>(null);
	const latest = useRef(rows);
	latest.current = rows;
	const toggle = useCallback((index: number) => {
		const row = latest.current.at(index);
		if (row === undefined) return;
		anchor.current = index;
		setIds((before) => {
			const next = new Set(before);
			if (!next.delete(row.id)) next.add(row.id);
			return next;
		});
	}, []);
	const extend = useCallback((index: number) => {
		const from = anchor.current ?? index;
		anchor.current ??= index;
		const between: string[] = [];
		for (let i = Math.min(from, index); i <= Math.max(from, index); i++) {
			const row = latest.current.at(i);
			if (row !== undefined) between.push(row.id);
		}
		setIds((before) => new Set([...before, ...between]));
	}, []);
	const clear = useCallback(() => {
		anchor.current = null;
		setIds(new Set());
	}, []);
	return useMemo(() => ({ ids, toggle, extend, clear }), [ids, toggle, extend, clear]);
}
