import { parentPort } from "node:worker_threads";
import { serveTasks } from "../worker";
import { TASKS } from "./tasks";

if (parentPort === null) throw new Error("this is started as a worker thread");
serveTasks(parentPort, TASKS);
