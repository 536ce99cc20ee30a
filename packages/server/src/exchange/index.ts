import type { Workers } from "../runtime";
import type { TASKS } from "./tasks";

export { type EditionFile, FORMAT } from "./read-edition";

/** Reads an edition's file in a worker. */
export const readEdition = (workers: Workers, bytes: Uint8Array) =>
	workers.run<typeof TASKS, "edition">("exchange", "edition", bytes);

/** Takes the one STEP file out of an archive in a worker. */
export const unpackStepIn = (workers: Workers, bytes: Uint8Array) =>
	workers.run<typeof TASKS, "unpack-step">("exchange", "unpack-step", bytes);
