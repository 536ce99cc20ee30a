// npm run restore: see docs/operate.md
import { ensure, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";

ensure();
buildIfNeeded();
process.env.ALVEK_DATA ??= `${root}/data`;
process.argv.splice(2, 0, "restore");
await import("../packages/server/dist/keep.js");
