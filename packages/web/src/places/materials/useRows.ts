import type { MaterialPage, MaterialRow } from "@alvek/contract";
import { writeList } from "@alvek/contract";
import { useQueries, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { call, IssueError } from "../../api/client";
import { showIssues } from "../../api/refusals";
import { type ColumnsQuestion, findFirst } from "./strips/useColumns";
import type { narrowingOf } from "./view";

/** Rows of one request. */
const CHUNK = 100;

export type Rows = {
	readonly total: number;
	readonly groups: MaterialPage["groups"];
	/** Undefined until it has arrived. */
	readonly at: (index: number) => MaterialRow | undefined;
	/** Where a loaded row stands; -1 where it has not arrived or is not here. */
	readonly indexOf: (id: string) => number;
	/** Whether every row is here. */
	readonly complete: boolean;
	/** Tells which rows are in sight. */
	readonly show: (first: number, last: number) => void;
	/** Rows from `first` on, fetched where they are missing; null when that failed. */
	readonly range: (first: number, count: number) => Promise<readonly MaterialRow[] | null>;
	/** Those that have arrived, for the looks of columns. */
	readonly sample: readonly MaterialRow[];
};

/** Rows that pass, fetched piece by piece as they come into sight; the first piece brings counts and headings along. */
export function useRows(narrowing: ReturnType<typeof narrowingOf>, values: readonly string[], strips: ColumnsQuestion) {
	const [pieces, setPieces] = useState<readonly number[]>([]);
	const input = { ...narrowing, values: writeList(values), limit: String(CHUNK) };
	const head = useQuery<MaterialPage, IssueError>({
		queryKey: ["findMaterials", input],
		queryFn: async ({ signal }) => {
			const result = await findFirst(input, strips, signal);
			if (!result.ok) throw new IssueError(result.issues);
			return result.value;
		},
	});
	const later = pieces.filter((p) => p > 0);
	const more = useQueries({
		queries: later.map((piece) => {
			const asked = { ...input, offset: String(piece * CHUNK) };
			return {
				queryKey: ["findMaterials", asked],
				queryFn: async ({ signal }: { signal: AbortSignal }) => {
					const result = await call("findMaterials", asked, signal);
					if (!result.ok) throw new IssueError(result.issues);
					return result.value;
				},
				// rows of another place would stand here for a moment
				placeholderData: undefined,
			};
		}),
	});
	const loaded = new Map<number, readonly MaterialRow[]>();
	if (head.data !== undefined) loaded.set(0, head.data.rows);
	for (const [i, piece] of later.entries()) {
		const data = more[i]?.data as MaterialPage | undefined;
		if (data !== undefined) loaded.set(piece, data.rows);
	}
	// the map is made anew at each render; what arrived in it decides
	const arrived = later.map((piece, i) => `${piece}:${more[i]?.dataUpdatedAt ?? 0}`).join(" ");
	const asked = JSON.stringify(input);
	// biome-ignore lint/correctness/useExhaustiveDependencies: see above
	const rows = useMemo((): Rows => {
		const total = head.data?.total ?? 0;
		const places = new Map<string, number>();
		for (const [piece, list] of loaded) for (const [i, row] of list.entries()) places.set(row.id, piece * CHUNK + i);
		const at = (index: number): MaterialRow | undefined => loaded.get(Math.floor(index / CHUNK))?.[index % CHUNK];
		return {
			total,
			groups: head.data?.groups ?? [],
			at,
			indexOf: (id) => places.get(id) ?? -1,
			complete: places.size >= total,
			show: (first, last) => {
				const wanted = span(Math.floor(first / CHUNK), Math.floor(last / CHUNK));
				setPieces((now) => (wanted.every((p) => now.includes(p)) ? now : [...new Set([...now.slice(-KEPT), ...wanted])]));
			},
			range: async (first, count) => {
				const here = span(first, first + count - 1).map(at);
				if (here.every((r) => r !== undefined)) return here;
				const fetched: MaterialRow[] = [];
				for (let from = first; from < Math.min(first + count, total); from += MOST) {
					const limit = Math.min(MOST, first + count - from);
					const result = await call("findMaterials", { ...input, offset: String(from), limit: String(limit) });
					if (!result.ok) {
						showIssues(result.issues);
						return null;
					}
					fetched.push(...result.value.rows);
				}
				return fetched;
			},
			sample: [...loaded.values()].flat(),
		};
	}, [head.data, arrived, asked]);
	return { head, rows };
}

/** Pieces that stay asked for when others come into sight. */
const KEPT = 6;
/** Rows that the server answers at once. */
const MOST = 1000;

function span(from: number, to: number): readonly number[] {
	return Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);
}
