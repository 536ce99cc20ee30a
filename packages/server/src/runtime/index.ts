export { type Blobs, blobPath, openBlobs } from "./blobs";
export { daily } from "./daily";
export { daysFrom } from "./days";
export { createJobs, type Jobs } from "./jobs";
export { removeUnusedFiles } from "./unused-files";
export type { Upload } from "./upload";
export { builtWorkers, createWorkers, type WorkerFiles, type Workers } from "./workers";
