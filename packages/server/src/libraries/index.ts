export { changesBetween, compareEditions, editionNo, freezeEdition, insertEdition } from "./editions";
export { shareLibrary, shareProject } from "./grants";
export { changeGroup, createGroup, fitsUnder, removeGroup } from "./groups";
export { type InstalledLibrary, type InstalledMaterial, installLibrary } from "./install";
export { closeLock, openLock } from "./lock";
export { listOwnProperties, listOwnUses, listSources, saveOwnProperty, saveOwnUse, saveSource } from "./records";
export {
	changeLibrary,
	createLibrary,
	ensureLibraryNameAvailable,
	getLibrary,
	hideLibrary,
	listBin,
	listLibraries,
} from "./service";
export { freezeSet, listSets, removeSet, saveSet, shareSet } from "./sets";
export { emptyBin, listUnused, setWorking } from "./tidy";
