// npm start: the server on its own data, without the demo; see docs/operate.md
import { ensure, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";

ensure();
buildIfNeeded();
process.env.ALVEK_DATA ??= `${root}/data`;
// in this process, so that a service's SIGTERM reaches the server itself
await import("../packages/server/dist/main.js");
