export { newContext } from "./http/app";
export { type InstalledLibrary, type InstalledMaterial, installLibrary } from "./libraries/install";
export { scriptToken } from "./people/tokens";
export { type Installation, listen, openInstallation } from "./server";
export { start } from "./start";
