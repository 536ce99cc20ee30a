export { discardDraft, rebaseDraft, saveDraft, saveDrafts, writeDraft } from "./drafts";
export { findAlike, keepApart, listDuplicates } from "./duplicates";
export { listTextures, readFile, takeTexture, uploadFile } from "./files";
export { manyMaterials, removeMaterial } from "./many";
export { ensureLinksAvailable, ensureNameAvailable } from "./names";
export { proposalsIn } from "./proposals";
export { baseDocument, documentToPublish, seenOf, standsOnHead } from "./publishable";
export {
	basesToJudge,
	exportMaterial,
	findColumns,
	findMaterials,
	findWithColumns,
	getMaterials,
	getRevision,
	getSheet,
	type JudgedBase,
} from "./reading";
export { changeMaterial, createMaterial, standOnNewest } from "./rows";
export { search } from "./search";
export { hiddenUses, type Use, usesOf } from "./uses";
export { listViews, removeView, saveView, starMany, starMaterial } from "./views";
