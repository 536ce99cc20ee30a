import { start } from "./start";

// built files stand in packages/server/dist
await start(new URL("../../../", import.meta.url));
