import * as yup from "yup";
import { PATHS } from "../paths.data";
import { grantee, hash, id, name, partIds, roleOf, shape, text } from "../shapes";
import type * as wire from "../wire";
import { route } from "./route";

/** Projects, their parts and what those are made of. */
export const partsRoutes = {
	listProjects: route<readonly wire.ProjectRow[]>()({
		...PATHS.listProjects,
		action: "project.read",
		summary: "projects",
		input: shape({}),
	}),
	createProject: route<wire.Undoable<{ id: string }>>()({
		...PATHS.createProject,
		action: "project.create",
		summary: "an empty project, perhaps with a default material for the parts to come",
		input: shape({ id, name, materialId: id.optional() }),
	}),
	renameProject: route<wire.Undoable<null>>()({
		...PATHS.renameProject,
		action: "project.edit",
		summary: "renames a project",
		input: shape({ id, name }),
	}),
	setMoney: route<wire.Undoable<null>>()({
		...PATHS.setMoney,
		action: "project.edit",
		summary: "the currency that costs are summed in, and dated rates for others; without a rate nothing is converted",
		input: shape({
			id,
			currency: text(3).required(),
			rates: yup
				.array(shape({ currency: text(3).required(), rate: text(30).required(), date: text(10).required() }).required())
				.strict()
				.required()
				.max(30),
		}),
	}),
	removeProject: route<wire.Undoable<null>>()({
		...PATHS.removeProject,
		action: "project.remove",
		summary: "deletes a project; it can be undone",
		input: shape({ id }),
	}),
	getProject: route<wire.ProjectView>()({
		...PATHS.getProject,
		action: "project.read",
		summary: "parts, occurrences, assignments, masses and totals",
		input: shape({ id }),
	}),
	importGeometry: route<wire.JobView>()({
		...PATHS.importGeometry,
		action: "project.edit",
		summary:
			"a STEP file as the request body; answers a job to follow. A file of a name that is here with other content is refused as `same-name` until `same` says whether it takes the other's place or stands beside it",
		raw: "upload",
		input: shape({
			id,
			file: text(300).required(),
			job: id,
			same: yup
				.string()
				.strict()
				.oneOf(["replace", "beside"] as const),
		}),
	}),
	removeGeometry: route<wire.Undoable<wire.ProjectView>>()({
		...PATHS.removeGeometry,
		action: "project.edit",
		summary: "takes a file out of the project with its parts and what they are made of; can be taken back whole",
		input: shape({ id, hash }),
	}),
	getMesh: route<Uint8Array>()({
		...PATHS.getMesh,
		action: "project.read",
		summary: "triangles and edges of all solids of one file, packed",
		raw: "download",
		input: shape({
			id,
			hash: yup
				.string()
				.strict()
				.required()
				.matches(/^[0-9a-f]{64}$/),
		}),
	}),
	assign: route<wire.Undoable<wire.ProjectView>>()({
		...PATHS.assign,
		action: "project.edit",
		summary: "gives parts a material's newest revision or my draft of it; null takes it away",
		input: shape({ id, parts: partIds, materialId: id.nullable().defined().default(null), draft: yup.boolean().strict() }),
	}),
	bringForward: route<wire.Undoable<wire.ProjectView>>()({
		...PATHS.bringForward,
		action: "project.edit",
		summary: "moves parts that are behind to the newest revision",
		input: shape({ id, parts: partIds }),
	}),
	setFollowing: route<wire.Undoable<null>>()({
		...PATHS.setFollowing,
		action: "project.edit",
		summary:
			"frozen or not; which edition of a library, or of all libraries of a set, it follows (0: the latest); which classes of change go forward by themselves",
		input: shape({
			id,
			frozen: yup.boolean().strict(),
			library: id.notRequired(),
			set: id.notRequired(),
			edition: yup.number().strict().integer().min(0),
			forward: yup
				.string()
				.strict()
				.oneOf(["none", "words", "values-added"] as const),
		}),
	}),
	setDefault: route<wire.Undoable<wire.ProjectView>>()({
		...PATHS.setDefault,
		action: "project.edit",
		summary:
			"the project's default material, given to every part that has none; null takes it from the parts that nobody confirmed",
		input: shape({ id, materialId: id.nullable().defined().default(null) }),
	}),
	confirmDefault: route<wire.Undoable<wire.ProjectView>>()({
		...PATHS.confirmDefault,
		action: "project.edit",
		summary: "parts keep the default because somebody has chosen it for them",
		input: shape({ id, parts: partIds }),
	}),
	shareProject: route<wire.Undoable<null>>()({
		...PATHS.shareProject,
		action: "project.share",
		summary: "a role in the project for a person, a team or everyone here; null takes it away",
		input: shape({
			id,
			...grantee,
			role: roleOf(["reader", "editor", "owner"] as const),
		}),
	}),
	getProjectRevision: route<wire.RevisionDocument>()({
		...PATHS.getProjectRevision,
		action: "project.read",
		summary: "the revision that parts of this project stand on, also where its library may not be seen",
		input: shape({ id, material: id }),
	}),
	createLocal: route<wire.Undoable<{ id: string }>>()({
		...PATHS.createLocal,
		action: "project.edit",
		summary: "a material of this project only: from a line such as `Gudgeon alloy 2.68 g/cm3`, or a local change of a library's",
		input: shape({ id, material: id, line: text(2000), from: id.notRequired() }),
	}),
	promoteLocal: route<wire.Undoable<{ id: string }>>()({
		...PATHS.promoteLocal,
		action: "project.edit",
		summary: "a project's own material becomes a draft in a library, which its parts try from then on",
		input: shape({ id, material: id, libraryId: id, newId: id, name }),
	}),
	returnLocal: route<wire.Undoable<{ id: string }>>()({
		...PATHS.returnLocal,
		action: "project.edit",
		summary: "a local change becomes a draft of the library's material that it began from, which its parts try from then on",
		input: shape({ id, material: id }),
	}),
	replaceLocalMaterial: route<wire.Undoable<wire.ProjectView>>()({
		...PATHS.replaceLocalMaterial,
		action: "project.edit",
		summary: "parts go from a project's own material to another; the own one goes to the project's bin",
		input: shape({ id, material: id, to: id }),
	}),
	massTable: route<Uint8Array>()({
		...PATHS.massTable,
		action: "project.read",
		summary: "the mass table with units and revisions as CSV",
		raw: "download",
		input: shape({ id, units: yup.string().strict().oneOf(["engineering", "base", "us"]) }),
	}),
} as const;
