export { API_ROOT, fillPath, STEPS_HEADER, UPLOAD_LIMIT_BYTES } from "./address";
export { AS_JOB, JOB_HEADER, type JobRoute } from "./as-job";
export { csvText } from "./csv";
export { type FoundWithColumns, packFound, unpackFound } from "./found";
export { uuid7 } from "./id";
export { readList, writeList } from "./list";
export { massTable } from "./mass-table";
export { type MeshSolid, packMeshes, unpackMeshes } from "./mesh";
export { linkText } from "./namelink";
export { PATHS } from "./paths.data";
// shapes of inputs, and what checks them, are the server's: it imports them from `@alvek/contract/routes`
export type { RouteInput, RouteName, RouteReply } from "./routes";
export type * from "./wire";
export type * from "./wire-duplicates";
export type * from "./wire-live";
export { NOTICE_KINDS, type Notice, type NoticeKind, type Notices } from "./wire-notices";
