export type { WorkerReply, WorkerRequest } from "./messages";
export { serveTasks, type Task, type Tasks } from "./shell";
