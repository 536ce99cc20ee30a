import * as yup from "yup";
import { PATHS } from "../paths.data";
import { digits, edit, hash, id, name, narrowing, shape, text } from "../shapes";
import type * as wire from "../wire";
import { route } from "./route";

/** Published materials, or a group with all that stands below it, and the library that they go to. */
const whatToCopy = {
	ids: yup.array(id).strict().max(5000),
	ofGroup: id.notRequired(),
	libraryId: id,
};

/** Materials: finding, sheets, drafts, publishing, files, views. */
export const materialsRoutes = {
	findMaterials: route<wire.MaterialPage>()({
		...PATHS.findMaterials,
		action: "library.read",
		summary:
			"materials by text, by facets (words between commas), by spans of values (`where=density:2600..2800`, SI; `~` behind one: what may reach it; `!measured.standard`: values of such evidence; `price:EUR:..5` per kg), starred, review passed; sorted, with counts; `near=show` lets names a few slips away stand in for a text that nothing says; `values` names the properties that the rows have to carry",
		input: shape({ ...narrowing, offset: digits(7), limit: digits(4), values: text(2000), project: text(64) }),
	}),
	findColumns: route<Uint8Array>()({
		...PATHS.findColumns,
		action: "library.read",
		summary: "numbers of some properties of all materials that pass, packed as columns",
		raw: "download",
		input: shape({ ...narrowing, properties: text(2000).required() }),
	}),
	findWithColumns: route<Uint8Array>()({
		...PATHS.findWithColumns,
		action: "library.read",
		summary:
			"the same as `/materials` (one page) and as `/materials-columns` (which leaves the spans of values aside) in one reply",
		raw: "download",
		input: shape({
			...narrowing,
			offset: digits(7),
			limit: digits(4),
			values: text(2000),
			properties: text(2000).required(),
		}),
	}),
	getMaterials: route<readonly wire.MaterialRow[]>()({
		...PATHS.getMaterials,
		action: "library.read",
		summary: "the rows of these materials, in the order asked for; what may not be seen is left out",
		input: shape({ ids: text(20_000).required() }),
	}),
	starMaterial: route<{ id: string }>()({
		...PATHS.starMaterial,
		action: "library.read",
		summary: "my star on or off; a star moves nothing",
		input: shape({ id, on: yup.boolean().strict().required() }),
	}),
	listViews: route<readonly wire.GridViewRecord[]>()({
		...PATHS.listViews,
		action: "installation.use",
		summary: "saved views of the grid: mine, and those for everyone",
		input: shape({}),
	}),
	saveView: route<{ id: string }>()({
		...PATHS.saveView,
		action: "installation.use",
		summary: "saves a view of the grid, or saves it anew",
		input: shape({ id, name: text(80).required(), address: text(8000).defined(), shared: yup.boolean().strict().required() }),
	}),
	removeView: route<{ id: string }>()({
		...PATHS.removeView,
		action: "installation.use",
		summary: "takes a view of mine away",
		input: shape({ id }),
	}),
	getSheet: route<wire.Sheet>()({
		...PATHS.getSheet,
		action: "library.read",
		summary: "one material with my draft, its revisions and where it is used",
		input: shape({ id }),
	}),
	getRevision: route<wire.LibraryRevision>()({
		...PATHS.getRevision,
		action: "library.read",
		summary: "the document of one published revision",
		input: shape({
			id,
			no: yup
				.string()
				.strict()
				.required()
				.matches(/^\d{1,6}$/),
		}),
	}),
	exportMaterial: route<Uint8Array>()({
		...PATHS.exportMaterial,
		action: "library.read",
		summary: "the newest revision (or my draft) as a JSON file",
		raw: "download",
		input: shape({ id }),
	}),
	uploadFile: route<wire.StoredFile>()({
		...PATHS.uploadFile,
		action: "library.edit",
		summary:
			"a file as the request body: an attachment (50 MB at most, any content, never opened) or a picture for a surface (8 MB)",
		raw: "upload",
		input: shape({
			id,
			file: text(1000).required(),
			as: yup
				.string()
				.strict()
				.oneOf(["attachment", "picture"] as const)
				.required(),
		}),
	}),
	listTextures: route<readonly wire.HeldTexture[]>()({
		...PATHS.listTextures,
		action: "library.read",
		summary: "pictures of surfaces that materials of readable libraries hold, each once",
		input: shape({}),
	}),
	takeTexture: route<{ taken: string }>()({
		...PATHS.takeTexture,
		action: "library.edit",
		summary: "a texture that the material `from` shows may be named in my draft of this one",
		input: shape({ id, from: id, hash }),
	}),
	getFile: route<Uint8Array>()({
		...PATHS.getFile,
		action: "library.read",
		summary: "a file of the record, always as a download; `as=picture` shows what is a picture by its content",
		raw: "download",
		input: shape({
			id,
			hash: yup
				.string()
				.strict()
				.required()
				.matches(/^[0-9a-f]{64}$/, "a checksum"),
			name: text(400),
			as: yup
				.string()
				.strict()
				.oneOf(["picture"] as const),
		}),
	}),
	createMaterial: route<wire.Undoable<{ id: string }>>()({
		...PATHS.createMaterial,
		action: "library.edit",
		summary:
			"a draft of a new material: blank, from a similar one (values carried over), a variant or a layer over a supplied one (values follow)",
		input: shape({
			id,
			libraryId: id,
			name,
			group: text(400),
			from: id.notRequired(),
			as: yup
				.string()
				.strict()
				.oneOf(["similar", "variant", "layer"] as const),
		}),
	}),
	changeMaterial: route<wire.Undoable<null>>()({
		...PATHS.changeMaterial,
		action: "library.edit",
		summary: "name, item code, shop name, names elsewhere, group, review date or purposes: no new revision",
		input: shape({
			id,
			name: text(50_000),
			itemCode: text(200),
			shopName: text(400),
			knownAs: yup
				.array(shape({ scope: text(60).defined(), name: text(200).required() }).required())
				.strict()
				.max(50),
			group: text(400),
			review: yup
				.string()
				.strict()
				.nullable()
				.matches(/^\d{4}-\d{2}-\d{2}$/, "a date such as 2027-03-01"),
			offeredFor: yup.array(yup.string().strict().required().max(40)).strict().max(30),
		}),
	}),
	saveDraft: route<wire.SavedDraft>()({
		...PATHS.saveDraft,
		action: "library.edit",
		summary:
			"edits on my draft, all or none; 409 with the current content of every place where `from` is stale. `client` and `step` number a page's saves, so that one that comes twice counts once; `draft` and `base` name what the page shows",
		input: shape({
			id,
			edits: yup.array(edit).strict().required().min(1).max(1000),
			client: yup.string().strict().min(8).max(64),
			step: yup.number().strict().integer().min(1).max(Number.MAX_SAFE_INTEGER),
			draft: yup.string().strict().max(64).nullable(),
			base: yup.string().strict().max(64).nullable(),
		}),
	}),
	saveDrafts: route<wire.Undoable<{ drafts: number }>>()({
		...PATHS.saveDrafts,
		action: "library.edit",
		summary: "edits on my drafts of many materials, all or none, undone in one step",
		input: shape({
			items: yup
				.array(shape({ id, edits: yup.array(edit).strict().required().min(1).max(1000) }).required())
				.strict()
				.required()
				.min(1)
				.max(2000),
		}),
	}),
	publishPlan: route<wire.PublishPlan>()({
		...PATHS.publishPlan,
		action: "library.edit",
		summary: "what publishing my drafts of these materials would change and touch, with the hash of each to publish it by",
		input: shape({ ids: yup.array(id).strict().required().min(1).max(1000) }),
	}),
	publishDrafts: route<wire.PublishReply>()({
		...PATHS.publishDrafts,
		action: "library.publish",
		summary: "my drafts become revisions in one publish, all or none; where a second person approves, they wait for that",
		input: shape({
			items: yup.array(shape({ id, hash }).required()).strict().required().min(1).max(2000),
			note: text(2000).defined(),
		}),
	}),
	rebaseDraft: route<wire.Undoable<wire.SavedDraft>>()({
		...PATHS.rebaseDraft,
		action: "library.edit",
		summary: "my draft stands on the newest revision; where both changed a value the chosen side stands",
		input: shape({
			id,
			chosen: yup
				.array(
					shape({
						at: yup.string().strict().required().max(320),
						side: yup
							.string()
							.strict()
							.oneOf(["mine", "theirs"] as const)
							.required(),
					}).required(),
				)
				.strict()
				.required()
				.max(1000),
		}),
	}),
	discardDraft: route<wire.Undoable<null>>()({
		...PATHS.discardDraft,
		action: "library.edit",
		summary: "throws my draft away; parts that try it go back to the revision before",
		input: shape({ id }),
	}),
	standOnNewest: route<wire.Undoable<null>>()({
		...PATHS.standOnNewest,
		action: "library.edit",
		summary: "a variant, copy or likeness stands on the newest revision of its base from now on",
		input: shape({ id, revision: yup.number().strict().required().integer().min(1) }),
	}),
	publishDraft: route<wire.PublishReply>()({
		...PATHS.publishDraft,
		action: "library.publish",
		summary: "my draft of one material becomes its next revision",
		input: shape({ id, note: text(2000).defined(), hash }),
	}),
	manyMaterials: route<wire.Undoable<{ done: number; left: readonly string[] }>>()({
		...PATHS.manyMaterials,
		action: "library.publish",
		summary:
			"moves, retires, brings back into use, bins or restores materials of one library in one step; `in-use` says first what stands on them",
		input: shape({
			ids: yup.array(id).strict().required().min(1).max(5000),
			act: yup
				.string()
				.strict()
				.oneOf(["move", "retire", "revive", "remove", "restore"] as const)
				.required(),
			group: text(400),
			successor: id.nullable().notRequired(),
			inUse: yup.boolean().strict(),
		}),
	}),
	copyPlan: route<wire.CopyPlan>()({
		...PATHS.copyPlan,
		action: "library.publish",
		summary:
			"what copying these, or a group with all below it, to another library would do: which names are taken there, by what",
		input: shape(whatToCopy),
	}),
	copyMany: route<wire.Undoable<wire.Copied>>()({
		...PATHS.copyMany,
		action: "library.publish",
		summary:
			"copies of published materials in another library, evidence and sources kept; a taken name is left out and told, or takes the copy as its next revision (`seen` of the plan), or the copy takes another name; `move` retires the originals with the copies as successors",
		input: shape({
			...whatToCopy,
			group: text(400),
			taken: yup
				.string()
				.strict()
				.oneOf(["leave", "rename", "revise"] as const),
			names: yup.array(shape({ id, name }).required()).strict().max(5000),
			seen: hash.notRequired(),
			move: yup.boolean().strict(),
		}),
	}),
	starMany: route<{ starred: number }>()({
		...PATHS.starMany,
		action: "library.read",
		summary: "my stars on or off, or their order; a star moves nothing",
		input: shape({
			ids: yup.array(id).strict().required().min(1).max(5000),
			on: yup.boolean().strict(),
			order: yup.boolean().strict(),
		}),
	}),
	removeMaterial: route<wire.Undoable<null>>()({
		...PATHS.removeMaterial,
		action: "library.publish",
		summary: "to the bin; parts keep the revision that they stand on; `in-use` says first what stands on it",
		input: shape({ id, inUse: yup.boolean().strict() }),
	}),
} as const;
