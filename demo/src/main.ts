import { start } from "@alvek/server";
import { startStandIns } from "@alvek/standins";
import { seedDemo } from "./seed";

// built files stand in demo/dist
const root = new URL("../../", import.meta.url);
process.env.ALVEK_STANDINS = await startStandIns(new URL("packages/standins/dist/main.js", root));
await start(root, (installation) => seedDemo(installation, (line) => console.log(line)), true);
