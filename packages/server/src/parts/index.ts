export { assign, bringForward } from "./assign";
export { removeGeometry, undoGeometry } from "./files";
export { confirmDefault, setDefault, setFollowing } from "./following";
export { createImports } from "./import";
export { createLocal, getProjectRevision, promoteLocal, replaceLocalMaterial, returnLocal } from "./local";
export { massesOf } from "./mass";
export {
	createProject,
	getMesh,
	getProject,
	listProjects,
	massTableOf,
	removeProject,
	renameProject,
	setMoney,
} from "./projects";
