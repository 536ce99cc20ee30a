import type { MaterialPage } from "@alvek/contract";
import { type RouteInput, unpackFound, writeList } from "@alvek/contract";
import { evidenceOnly, readWhere, writeWhere } from "@alvek/core/material";
import { ok, type Result } from "@alvek/core/result";
import { type PackedColumns, unpackColumns } from "@alvek/core/table";
import { useQuery } from "@tanstack/react-query";
import { bytesOf, call, IssueError } from "../../../api/client";
import { queryClient } from "../../../api/queries";
import type { narrowingOf } from "../view";

/** What strips ask: numbers of some properties of all rows that pass everything but spans of values; null without strips. */
export type ColumnsQuestion = RouteInput<"findColumns"> | null;

/**
 * Spans of values are tried in the browser while they are dragged, so the columns do not depend on them, nor on the order;
 * only on the evidence that values need to have.
 */
export function columnsQuestion(narrowing: ReturnType<typeof narrowingOf>, properties: readonly string[]): ColumnsQuestion {
	if (properties.length === 0) return null;
	const { where, sort: _, dir: __, ...others } = narrowing;
	const judged = evidenceOnly(readWhere(where ?? ""));
	return {
		...others,
		...(judged.length > 0 ? { where: writeWhere(judged) } : {}),
		properties: writeList([...new Set(properties)].sort()),
	};
}

const keyOf = (question: ColumnsQuestion) => ["findColumns", question] as const;

/** Rows of the first page; when columns of strips are missing or out of date too, they come in the same reply. */
export async function findFirst(
	input: RouteInput<"findMaterials">,
	question: ColumnsQuestion,
	signal: AbortSignal,
): Promise<Result<MaterialPage>> {
	if (question === null || isKnown(question)) return call("findMaterials", input, signal);
	const bytes = await bytesOf("findWithColumns", { ...input, properties: question.properties }, signal);
	if (!bytes.ok) return bytes;
	const found = unpackFound(bytes.value, (utf8) => new TextDecoder().decode(utf8));
	if (!found.ok) return found;
	queryClient.setQueryData(keyOf(question), found.value.columns);
	return ok(found.value.page);
}

/** Columns this old come along with the next rows: others may have changed them meanwhile. */
const OLD_MS = 10_000;

function isKnown(question: ColumnsQuestion): boolean {
	const known = queryClient.getQueryState(keyOf(question));
	return known?.data !== undefined && !known.isInvalidated && Date.now() - known.dataUpdatedAt < OLD_MS;
}

/**
 * The columns of the strips.
 * @param arriving rows are under way and bring columns along where they are needed
 */
export function useColumns(question: ColumnsQuestion, arriving: boolean): PackedColumns | undefined {
	return useQuery<PackedColumns, IssueError>({
		queryKey: keyOf(question),
		// out of date: whatever refreshes rows refreshes these with them
		enabled: (query) => question !== null && !arriving && !query.state.isInvalidated,
		staleTime: Number.POSITIVE_INFINITY,
		queryFn: async ({ signal }) => {
			const bytes = await bytesOf("findColumns", question as RouteInput<"findColumns">, signal);
			const unpacked = bytes.ok ? unpackColumns(bytes.value) : bytes;
			if (!unpacked.ok) throw new IssueError(unpacked.issues);
			return unpacked.value;
		},
	}).data;
}
