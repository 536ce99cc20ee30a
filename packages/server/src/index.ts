export { newContext } from "./http/app";
export { type InstalledLibrary, type InstalledMaterial, installLibrary } from "./libraries";
export { scriptToken } from "./people";
export { builtWorkers } from "./runtime";
export { type Installation, listen, openInstallation } from "./server";
export { start } from "./start";
