import type { Material, Readiness } from "@alvek/core/material";
import { parseDocument } from "./store";

/** What a revision's bytes say. */
export type Parsed = { readonly document: Material; readonly readiness: readonly Readiness[] | null };

/** Bytes of documents whose parsed form is kept. */
const BUDGET = 32 * 1024 * 1024;

/** Revisions read lately, parsed: their content never changes, so nothing here can be out of date but the facts beside it. */
export class ParsedRevisions {
	private readonly kept = new Map<string, Parsed & { readonly size: number }>();
	private size = 0;

	/** @param readiness as stored with the facts, JSON; null where they are not made yet */
	read(revision: string, bytes: Buffer, readiness: string | null): Parsed {
		const known = this.kept.get(revision);
		if (known !== undefined) {
			// to the end of the line: the first to go is the one that nobody asked for longest
			this.kept.delete(revision);
			this.kept.set(revision, known);
			return known;
		}
		const size = bytes.length + (readiness?.length ?? 0);
		const made = {
			document: parseDocument(bytes),
			readiness: readiness === null ? null : (JSON.parse(readiness) as readonly Readiness[]),
			size,
		};
		if (readiness === null || size > BUDGET / 8) return made;
		this.kept.set(revision, made);
		this.size += size;
		for (const [id, old] of this.kept) {
			if (this.size <= BUDGET) break;
			this.kept.delete(id);
			this.size -= old.size;
		}
		return made;
	}

	/** Facts were made anew. */
	clear(): void {
		this.kept.clear();
		this.size = 0;
	}
}
