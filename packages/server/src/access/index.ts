export {
	authoriseWorkingList,
	currentLock,
	isSingleUser,
	requireOpenLock,
	requirePublishing,
	waitsForSecond,
} from "./lock";
export {
	authorised,
	authorisedAll,
	authoriseInstallation,
	authoriseLibrary,
	authorisePlace,
	authoriseProject,
	authoriseRemovedProject,
	type LibraryAction,
	libraryList,
	readableLibraries,
	readableProjects,
} from "./places";
export { canSee, type Visibility, viewerOf, visibilityOf } from "./visibility";
