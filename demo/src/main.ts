import { start } from "@alvek/server";
import { seedDemo } from "./seed";

// built files stand in demo/dist
await start(new URL("../../", import.meta.url), (installation) => seedDemo(installation, (line) => console.log(line)), true);
