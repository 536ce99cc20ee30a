import type { Action } from "@alvek/core/rights";
import * as yup from "yup";
import type * as wire from "./wire";

/** Phantom holder of a reply's type; nothing at run time. */
type Carries<T> = { readonly _reply?: T };

export type Route<Input = unknown, Reply = unknown> = Carries<Reply> & {
	readonly method: "GET" | "POST" | "PATCH" | "DELETE";
	/** Express style, under `/api/v1`. Names behind `:` are taken from the input. */
	readonly path: string;
	/** What `may()` is asked. */
	readonly action: Action;
	/** One line for the list of routes. */
	readonly does: string;
	readonly input: yup.ObjectSchema<Input & yup.AnyObject>;
	/** Answers or takes bytes instead of JSON. */
	readonly raw?: "download" | "upload";
};

const id = yup
	.string()
	.strict()
	.required()
	.matches(/^[0-9a-zA-Z-]{1,64}$/, "an id");
const text = (max: number) => yup.string().strict().max(max);
// a generous ceiling of shape; core says what a name may be, with its own message
const name = yup.string().strict().required().max(50_000);
const partIds = yup.array(id).strict().required().min(1).max(50_000);

function shape<T extends yup.ObjectShape>(fields: T) {
	return yup.object(fields).strict().noUnknown();
}

function route<Reply>() {
	return <S extends yup.AnyObjectSchema>(definition: Omit<Route, "input" | "_reply"> & { input: S }) =>
		definition as Omit<Route, "input" | "_reply"> & { input: S } & Carries<Reply>;
}

const edit = yup
	.object({ at: yup.string().strict().required().max(100), from: yup.mixed().nullable(), to: yup.mixed().nullable() })
	.strict()
	.noUnknown();

/** The one table: it drives Express, the client, the list in the docs and the test of rights. */
export const ROUTES = {
	getSession: route<wire.SessionView>()({
		method: "GET",
		path: "/session",
		action: "installation.use",
		does: "who is here",
		input: shape({}),
	}),
	listLibraries: route<readonly wire.LibraryView[]>()({
		method: "GET",
		path: "/libraries",
		action: "library.read",
		does: "libraries that the actor may read, with their groups",
		input: shape({}),
	}),
	findMaterials: route<wire.MaterialPage>()({
		method: "GET",
		path: "/materials",
		action: "library.read",
		does: "materials by text, library, group and readiness (comma-separated ids), sorted, with counts",
		input: shape({
			text: text(200),
			library: text(2000),
			group: text(4000),
			ready: text(200),
			sort: text(60),
			dir: yup.string().strict().oneOf(["asc", "desc"]),
			offset: yup
				.string()
				.strict()
				.matches(/^\d{1,7}$/),
			limit: yup
				.string()
				.strict()
				.matches(/^\d{1,5}$/),
		}),
	}),
	getSheet: route<wire.Sheet>()({
		method: "GET",
		path: "/materials/:id",
		action: "library.read",
		does: "one material with my draft, its revisions and where it is used",
		input: shape({ id }),
	}),
	getRevision: route<wire.RevisionDocument>()({
		method: "GET",
		path: "/materials/:id/revisions/:no",
		action: "library.read",
		does: "the document of one published revision",
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
		method: "GET",
		path: "/materials/:id/export.json",
		action: "library.read",
		does: "the newest revision (or my draft) as a JSON file",
		raw: "download",
		input: shape({ id }),
	}),
	createMaterial: route<wire.Undoable<{ id: string }>>()({
		method: "POST",
		path: "/materials",
		action: "library.edit",
		does: "a draft of a new material, blank or from a similar one (values carried over)",
		input: shape({ id, libraryId: id, name, group: text(400), from: id.notRequired() }),
	}),
	changeMaterial: route<wire.Undoable<null>>()({
		method: "PATCH",
		path: "/materials/:id",
		action: "library.edit",
		does: "name, item code, shop name or group: no new revision",
		input: shape({ id, name: text(50_000), itemCode: text(200), shopName: text(400), group: text(400) }),
	}),
	saveDraft: route<{ draftId: string; version: number; savedAt: string }>()({
		method: "PATCH",
		path: "/materials/:id/draft",
		action: "library.edit",
		does: "edits on my draft; 409 with the current content where `from` is stale",
		input: shape({ id, edits: yup.array(edit).strict().required().min(1).max(1000) }),
	}),
	discardDraft: route<wire.Undoable<null>>()({
		method: "DELETE",
		path: "/materials/:id/draft",
		action: "library.edit",
		does: "throws my draft away; parts that try it go back to the revision before",
		input: shape({ id }),
	}),
	publishDraft: route<{ revision: number; movedParts: number }>()({
		method: "POST",
		path: "/materials/:id/publish",
		action: "library.edit",
		does: "my draft becomes the next revision, with a note",
		input: shape({ id, note: text(2000).required(), version: yup.number().strict().required().integer() }),
	}),
	copyMaterial: route<wire.Undoable<{ id: string }>>()({
		method: "POST",
		path: "/materials/:id/copies",
		action: "library.edit",
		does: "a copy in another library, evidence and sources kept",
		input: shape({ id, newId: id, libraryId: id }),
	}),
	removeMaterial: route<wire.Undoable<null>>()({
		method: "DELETE",
		path: "/materials/:id",
		action: "library.edit",
		does: "to the bin; parts keep the revision that they stand on",
		input: shape({ id }),
	}),
	listBin: route<readonly wire.BinRow[]>()({
		method: "GET",
		path: "/bin",
		action: "library.read",
		does: "materials in the bin",
		input: shape({}),
	}),
	undo: route<wire.Undoable<null>>()({
		method: "POST",
		path: "/undo",
		action: "installation.use",
		does: "the inverse of one event, unless something newer stands in the way",
		input: shape({ event: yup.number().strict().required().integer() }),
	}),
	listProjects: route<readonly wire.ProjectRow[]>()({
		method: "GET",
		path: "/projects",
		action: "project.read",
		does: "projects",
		input: shape({}),
	}),
	createProject: route<wire.Undoable<{ id: string }>>()({
		method: "POST",
		path: "/projects",
		action: "project.create",
		does: "an empty project",
		input: shape({ id, name }),
	}),
	renameProject: route<wire.Undoable<null>>()({
		method: "PATCH",
		path: "/projects/:id",
		action: "project.edit",
		does: "renames a project",
		input: shape({ id, name }),
	}),
	removeProject: route<wire.Undoable<null>>()({
		method: "DELETE",
		path: "/projects/:id",
		action: "project.remove",
		does: "deletes a project; it can be undone",
		input: shape({ id }),
	}),
	getProject: route<wire.ProjectView>()({
		method: "GET",
		path: "/projects/:id",
		action: "project.read",
		does: "parts, occurrences, assignments, masses and totals",
		input: shape({ id }),
	}),
	importGeometry: route<wire.JobView>()({
		method: "POST",
		path: "/projects/:id/geometry",
		action: "project.edit",
		does: "a STEP file as the request body; answers a job to follow",
		raw: "upload",
		input: shape({ id, file: text(300).required(), job: id }),
	}),
	getMesh: route<Uint8Array>()({
		method: "GET",
		path: "/projects/:id/geometry/:hash/mesh",
		action: "project.read",
		does: "triangles and edges of all solids of one file, packed",
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
		method: "POST",
		path: "/projects/:id/assignments",
		action: "project.edit",
		does: "gives parts a material's newest revision or my draft of it; null takes it away",
		input: shape({ id, parts: partIds, materialId: id.nullable().defined().default(null), draft: yup.boolean().strict() }),
	}),
	bringForward: route<wire.Undoable<wire.ProjectView>>()({
		method: "POST",
		path: "/projects/:id/bring-forward",
		action: "project.edit",
		does: "moves parts that are behind to the newest revision",
		input: shape({ id, parts: partIds }),
	}),
	massTable: route<Uint8Array>()({
		method: "GET",
		path: "/projects/:id/mass.csv",
		action: "project.read",
		does: "the mass table with units and revisions as CSV",
		raw: "download",
		input: shape({ id, units: yup.string().strict().oneOf(["engineering", "base", "us"]) }),
	}),
	getJob: route<wire.JobView>()({
		method: "GET",
		path: "/jobs/:id",
		action: "job.read",
		does: "state and progress of background work",
		input: shape({ id }),
	}),
	cancelJob: route<wire.JobView>()({
		method: "POST",
		path: "/jobs/:id/cancel",
		action: "job.cancel",
		does: "stops background work; nothing of it stays",
		input: shape({ id }),
	}),
} as const;

export type RouteName = keyof typeof ROUTES;
export type RouteInput<N extends RouteName> = yup.InferType<(typeof ROUTES)[N]["input"]>;
export type RouteReply<N extends RouteName> = NonNullable<(typeof ROUTES)[N]["_reply"]>;

export const API_ROOT = "/api/v1";
export const UPLOAD_LIMIT_BYTES = 200 * 1024 * 1024;

/** The path with its `:names` filled in, and the input that is left for the query or the body. */
export function fillPath(
	route: Pick<Route, "path">,
	input: Record<string, unknown>,
): { path: string; rest: Record<string, unknown> } {
	const rest = { ...input };
	const path = route.path.replace(/:(\w+)/g, (_, key: string) => {
		delete rest[key];
		return encodeURIComponent(String(input[key]));
	});
	return { path: API_ROOT + path, rest };
}
