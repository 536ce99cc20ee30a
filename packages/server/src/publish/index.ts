export { approvePublish, declinePublish } from "./approve";
export { copyGroup, copyLibrary, copyMany, copyMaterial } from "./copies";
export { draftEdition } from "./edition-drafts";
export { takeEdition, writeEdition } from "./edition-file";
export { mergeMaterials, mergePlan } from "./merge";
export { handOver } from "./offboarding";
export { publishPlan } from "./plan";
export { publishDrafts } from "./publish";
