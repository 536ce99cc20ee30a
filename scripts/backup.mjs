// npm run backup: see docs/operate.md
import { ensure, root } from "./ensure.mjs";
import { buildIfNeeded } from "./stale.mjs";

ensure();
buildIfNeeded();
process.env.ALVEK_DATA ??= `${root}/data`;
process.argv.splice(2, 0, "backup");
await import("../packages/server/dist/keep.js");
