import { newContext } from "./http/app";
import { installLibrary } from "./libraries";
import { start } from "./start";

// built files stand in packages/server/dist
await start(new URL("../../../", import.meta.url), async (installation) => {
	if (await installation.db.has("library", {})) return;
	// a first start without the demo: one library to begin with, empty
	const ctx = newContext(installation.db);
	await installLibrary(ctx, { id: ctx.newId(), name: "Our materials", kind: "own", materials: [] });
});
