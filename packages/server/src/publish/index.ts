export { approvePublish, declinePublish } from "./approve";
export { copyLibrary, copyMany } from "./copies";
export { draftEdition } from "./edition-drafts";
export { takeEdition, writeEdition } from "./edition-file";
export { mergeMaterials, mergePlan } from "./merge";
export { handOver } from "./offboarding";
export { copyPlan } from "./placing";
export { publishPlan } from "./plan";
export { publishDrafts } from "./publish";
