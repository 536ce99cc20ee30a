import { readEditionFile } from "./read-edition";
import { unpackStep } from "./unpack";

/** What the worker for files does; each is a plain function that its test calls without one. */
export const TASKS = { edition: readEditionFile, "unpack-step": unpackStep };
