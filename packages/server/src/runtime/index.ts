export { type Blobs, blobPath, openBlobs } from "./blobs";
export { daysFrom } from "./days";
export { createJobs, type Jobs } from "./jobs";
export type { Upload } from "./upload";
