import { useCallback, useMemo, useRef, useState } from "react";
import { call } from "../../../api/client";
import { showIssues } from "../../../api/refusals";
import { showToast } from "../../../stores/toasts";
import type { Rows } from "../useRows";
import type { narrowingOf } from "../view";

/** Rows that are marked to be acted on together; the focus is another thing. */
export type Marking = {
	readonly ids: ReadonlySet<string>;
	readonly toggle: (index: number) => void;
	/** Everything from the last marked row to this one, as far as it is loaded. */
	readonly extend: (index: number) => void;
	/** All that pass, as many as one step takes. */
	readonly all: () => Promise<void>;
	readonly clear: () => void;
};

/** Materials that one step takes, and one question gives. */
const MOST = 1000;

/** @param narrowing what the rows were asked for by */
export function useMarking(rows: Rows, narrowing: ReturnType<typeof narrowingOf>): Marking {
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
	const question = useRef(narrowing);
	question.current = narrowing;
	const all = useCallback(async () => {
		const found = await call("findMaterials", { ...question.current, limit: String(MOST), values: "density" });
		if (!found.ok) return showIssues(found.issues);
		anchor.current = null;
		setIds(new Set(found.value.rows.map((r) => r.id)));
		const { total } = found.value;
		if (total > MOST) showToast({ tone: "plain", text: `The first ${MOST} of ${total} are marked: as many as one step takes.` });
	}, []);
	return useMemo(() => ({ ids, toggle, extend, all, clear }), [ids, toggle, extend, all, clear]);
}
