import * as yup from "yup";
import { PATHS } from "../paths.data";
import { digits, grantee, hash, id, name, roleOf, shape, text } from "../shapes";
import type * as wire from "../wire";
import { route } from "./route";

const grant = { ...grantee, role: roleOf(["reader", "editor", "steward"] as const) };

const day = yup
	.string()
	.strict()
	.matches(/^\d{4}-\d{2}-\d{2}$/, "a day such as 2026-11-26");
const history = {
	id,
	kind: yup
		.string()
		.strict()
		.oneOf(["material", "library", "project"] as const)
		.required(),
	by: text(64),
	what: yup
		.string()
		.strict()
		.oneOf(["published", "materials", "parts", "rights"] as const),
	from: day,
	until: day,
	text: text(200),
};

/** Libraries and the records that belong to them. */
export const librariesRoutes = {
	listLibraries: route<readonly wire.LibraryView[]>()({
		...PATHS.listLibraries,
		action: "library.read",
		summary: "libraries that the actor may read, with their groups",
		input: shape({}),
	}),
	getLibrary: route<wire.LibraryDetail>()({
		...PATHS.getLibrary,
		action: "library.read",
		summary: "one library: who can see and change it, groups, editions, what waits for approval",
		input: shape({ id }),
	}),
	createLibrary: route<wire.Undoable<{ id: string }>>()({
		...PATHS.createLibrary,
		action: "library.create",
		summary: "an empty library; whoever makes it is its steward",
		input: shape({ id, name, description: text(20_000).defined() }),
	}),
	changeLibrary: route<wire.Undoable<null>>()({
		...PATHS.changeLibrary,
		action: "library.steward",
		summary: "name, description, owner, approval, the lock's idle time, archived or not",
		input: shape({
			id,
			name: text(50_000),
			description: text(20_000),
			owner: id.notRequired(),
			approval: yup.boolean().strict(),
			lockMinutes: yup.number().strict().integer().min(5).max(480),
			archived: yup.boolean().strict(),
		}),
	}),
	copyLibrary: route<wire.Undoable<{ id: string; materials: number }>>()({
		...PATHS.copyLibrary,
		action: "library.read",
		summary: "a library of one's own with a copy of every published material, origins kept",
		input: shape({ id, newId: id, name }),
	}),
	shareLibrary: route<wire.Undoable<null>>()({
		...PATHS.shareLibrary,
		action: "library.steward",
		summary: "a role for a person, a team or everyone here; null takes it away",
		input: shape({ id, ...grant }),
	}),
	hideLibrary: route<null>()({
		...PATHS.hideLibrary,
		action: "library.read",
		summary: "leaves a library out of my own choosers, or not",
		input: shape({ id, on: yup.boolean().strict().required() }),
	}),
	openLock: route<wire.LockView | null>()({
		...PATHS.openLock,
		action: "library.publish",
		summary: "opens the lock for a while; `takeOver` takes it from whoever holds it",
		input: shape({ id, takeOver: yup.boolean().strict() }),
	}),
	closeLock: route<null>()({
		...PATHS.closeLock,
		action: "library.publish",
		summary: "closes the lock that I hold",
		input: shape({ id }),
	}),
	listSets: route<readonly wire.SetView[]>()({
		...PATHS.listSets,
		action: "installation.use",
		summary: "sets of libraries that I may see",
		input: shape({}),
	}),
	saveSet: route<null>()({
		...PATHS.saveSet,
		action: "library.steward",
		summary: "libraries that are shared and frozen together; a steward of each may say so",
		input: shape({ id, name, libraries: yup.array(id).strict().required().min(1).max(100) }),
	}),
	removeSet: route<null>()({
		...PATHS.removeSet,
		action: "library.steward",
		summary: "takes a set away, with what was shared through it; its libraries stay",
		input: shape({ id }),
	}),
	shareSet: route<null>()({
		...PATHS.shareSet,
		action: "library.steward",
		summary: "a role in each library of the set; null takes it away",
		input: shape({ id, ...grant }),
	}),
	createGroup: route<wire.Undoable<{ id: string }>>()({
		...PATHS.createGroup,
		action: "library.publish",
		summary: "a group under another or at the top",
		input: shape({ id, group: id, parent: id.nullable().defined().default(null), name }),
	}),
	changeGroup: route<wire.Undoable<null>>()({
		...PATHS.changeGroup,
		action: "library.publish",
		summary: "renames a group, or moves it under another; null is the top",
		input: shape({ id, name: text(50_000), parent: id.nullable().notRequired() }),
	}),
	removeGroup: route<wire.Undoable<{ moved: number }>>()({
		...PATHS.removeGroup,
		action: "library.publish",
		summary: "takes a group away; its materials and groups go where `to` says, null is the top",
		input: shape({ id, to: id.nullable().defined().default(null) }),
	}),
	freezeEdition: route<{ id: string; no: number }>()({
		...PATHS.freezeEdition,
		action: "library.publish",
		summary: "freezes what is published now as the next edition",
		input: shape({ id, note: text(2000).required() }),
	}),
	freezeSet: route<{ editions: number }>()({
		...PATHS.freezeSet,
		action: "library.steward",
		summary: "freezes every library of the set together",
		input: shape({ id, note: text(2000).required() }),
	}),
	compareEditions: route<wire.EditionComparison>()({
		...PATHS.compareEditions,
		action: "library.read",
		summary: "two editions, or one and the library as it is now (0), material by material",
		input: shape({ id, from: digits(6).required(), to: digits(6).required() }),
	}),
	draftEdition: route<{ drafts: readonly string[]; later: readonly { id: string; name: string }[] }>()({
		...PATHS.draftEdition,
		action: "library.edit",
		summary: "drafts of mine that would make the library as that edition was; what came later is named",
		input: shape({ id, no: digits(6).required() }),
	}),
	exportEdition: route<Uint8Array>()({
		...PATHS.exportEdition,
		action: "library.read",
		summary: "an edition as a file, to be taken in elsewhere",
		raw: "download",
		input: shape({ id, no: digits(6).required() }),
	}),
	takeEdition: route<wire.TakenEdition>()({
		...PATHS.takeEdition,
		action: "library.create",
		summary:
			"an edition's file as the request body: a supplied library, or its next edition with what differs; `preview` changes nothing",
		raw: "upload",
		input: shape({ preview: yup.string().strict().oneOf(["1"]) }),
	}),
	approvePublish: route<{ published: number; movedParts: number }>()({
		...PATHS.approvePublish,
		action: "library.publish",
		summary: "what a colleague proposed is published, when every draft is still what was seen",
		input: shape({ id, items: yup.array(shape({ id, hash }).required()).strict().required().min(1).max(5000) }),
	}),
	declinePublish: route<null>()({
		...PATHS.declinePublish,
		action: "library.publish",
		summary: "a proposal is sent back with a reason, or withdrawn by whoever made it; the drafts stay",
		input: shape({ id, note: text(2000).defined() }),
	}),
	setWorking: route<wire.Undoable<null>>()({
		...PATHS.setWorking,
		action: "library.read",
		summary: "puts materials on the library's working list, or takes them off",
		input: shape({ id, materials: yup.array(id).strict().required().min(1).max(5000), on: yup.boolean().strict().required() }),
	}),
	listUnused: route<readonly wire.UnusedRow[]>()({
		...PATHS.listUnused,
		action: "library.read",
		summary: "materials that no project stands on, the longest untouched first",
		input: shape({ id }),
	}),
	emptyBin: route<{ gone: number; kept: number }>()({
		...PATHS.emptyBin,
		action: "library.steward",
		summary: "what has been in the bin for 90 days and nothing refers to goes for good",
		input: shape({ id }),
	}),
	history: route<wire.HistoryPage>()({
		...PATHS.history,
		action: "installation.use",
		summary:
			"who did what, when and why to a material, a library or a project, the newest first; by person, kind of step, days (`from`, `until`) and words",
		input: shape({ ...history, before: digits(15) }),
	}),
	historyTable: route<Uint8Array>()({
		...PATHS.historyTable,
		action: "installation.use",
		summary: "the same as CSV, all of it",
		raw: "download",
		input: shape(history),
	}),
	listSources: route<readonly wire.SourceView[]>()({
		...PATHS.listSources,
		action: "library.read",
		summary: "source records of a library, the newest first",
		input: shape({ id }),
	}),
	saveSource: route<wire.SourceView>()({
		...PATHS.saveSource,
		action: "library.edit",
		summary: "a new source record, or the next version of one; documents keep the content that they were published with",
		input: shape({ id, source: id, version: yup.number().strict().required().integer().min(0), content: yup.mixed().required() }),
	}),
	listOwnProperties: route<readonly wire.OwnPropertyView[]>()({
		...PATHS.listOwnProperties,
		action: "library.read",
		summary: "properties that a library adds to the catalogue",
		input: shape({ id }),
	}),
	saveOwnProperty: route<wire.OwnPropertyView>()({
		...PATHS.saveOwnProperty,
		action: "library.edit",
		summary: "a new property of a library's own, or the next version of one",
		input: shape({ id, version: yup.number().strict().required().integer().min(0), content: yup.mixed().required() }),
	}),
	listOwnUses: route<readonly wire.OwnUseView[]>()({
		...PATHS.listOwnUses,
		action: "library.read",
		summary: "uses that a library adds to the built-in ones, put away ones among them",
		input: shape({ id }),
	}),
	saveOwnUse: route<wire.OwnUseView>()({
		...PATHS.saveOwnUse,
		action: "library.edit",
		summary: "a new use of a library's own (a name, the entries and the file that it needs), or the next version of one",
		input: shape({ id, version: yup.number().strict().required().integer().min(0), content: yup.mixed().required() }),
	}),
	listBin: route<readonly wire.BinRow[]>()({
		...PATHS.listBin,
		action: "library.read",
		summary: "materials in the bin",
		input: shape({}),
	}),
} as const;
