import { fillPath, ROUTES, writeList } from "@alvek/contract";
import { type PackedColumns, unpackColumns } from "@alvek/core/table";
import { useQuery } from "@tanstack/react-query";
import { IssueError } from "../../../api/client";
import type { narrowingOf } from "../view";

/** Numbers of some properties of all rows that pass everything but spans of values: those are tried here, while they are dragged. */
export function useColumns(narrowing: ReturnType<typeof narrowingOf>, properties: readonly string[]) {
	const { where: _, sort: __, dir: ___, ...others } = narrowing as ReturnType<typeof narrowingOf> & { where?: string };
	const asked = { ...others, properties: writeList([...properties].sort()) };
	return useQuery<PackedColumns, IssueError>({
		// named so that whatever refreshes rows refreshes these too
		queryKey: ["findColumns", asked],
		enabled: properties.length > 0,
		queryFn: async ({ signal }) => {
			const { path, rest } = fillPath(ROUTES.findColumns, asked);
			const query = new URLSearchParams(Object.entries(rest).map(([k, v]) => [k, String(v)]));
			const response = await fetch(`${path}?${query}`, { signal }).catch(() => null);
			const unpacked = response?.ok ? unpackColumns(await response.arrayBuffer()) : null;
			if (unpacked === null) throw new IssueError([{ code: "unreachable" }]);
			if (!unpacked.ok) throw new IssueError(unpacked.issues);
			return unpacked.value;
		},
	});
}
