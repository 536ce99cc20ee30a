import type { Readable } from "node:stream";

/** Bytes on their way in; the length where whoever sends them said it. */
export type Upload = { readonly stream: Readable; readonly length: number | null };
