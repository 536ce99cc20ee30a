import type { RouteInput, RouteName, RouteReply } from "@alvek/contract";
import type { Edit } from "@alvek/core/material";
import type { Result } from "@alvek/core/result";
import type { Context } from "./db";
import { type Health, readHealth } from "./health";
import { history, historyTable, listSteps } from "./history";
import * as libraries from "./libraries";
import { readNews } from "./live";
import type { MaterialQueries } from "./material-index";
import * as materials from "./materials";
import { changeNotices, listNotices } from "./notices";
import * as parts from "./parts";
import * as people from "./people";
import * as publish from "./publish";
import type { Blobs, Jobs, Upload, Workers } from "./runtime";
import { undo } from "./undo";

/** Routes whose reply or body is bytes; `http/raw.ts` serves them. */
export type RawRoute =
	| "exportMaterial"
	| "findColumns"
	| "findWithColumns"
	| "live"
	| "historyTable"
	| "getMesh"
	| "massTable"
	| "importGeometry"
	| "uploadFile"
	| "getFile"
	| "exportEdition"
	| "takeEdition";

/** Routes that set or clear the session's cookie; `http/sign-in.ts` serves them. */
export type SignInRoute = "signIn" | "signInAs" | "useTicket" | "signOut";

export type JsonHandlers = {
	readonly [N in Exclude<RouteName, RawRoute | SignInRoute>]: (
		ctx: Context,
		input: RouteInput<N>,
	) => Promise<Result<RouteReply<N>>>;
};

export type Services = ReturnType<typeof createServices>;

export type ServiceParts = {
	readonly queries: MaterialQueries;
	readonly blobs: Blobs;
	readonly workers: Workers;
	readonly jobs: Jobs;
	readonly imports: ReturnType<typeof parts.createImports>;
	readonly version: string;
	readonly demo: boolean;
	readonly health: () => Promise<Health>;
};

/** Everything that a route or a script may ask for. */
export function createServices({ queries, blobs, workers, jobs, imports, version, demo, health }: ServiceParts) {
	const json: JsonHandlers = {
		...readingOf(queries),
		...materialRows(),
		...publishing(queries),
		...librariesOf(),
		...projectsOf(),
		...peopleOf(version, demo),
		history,
		readNews,
		listSteps,
		undo,
		listNotices: (ctx) => listNotices(ctx, health),
		changeNotices,
		readHealth: (ctx) => readHealth(ctx, health),
		getJob: jobs.getJob,
		getJobResult: jobs.resultOf,
		cancelJob: jobs.cancelJob,
	};
	return {
		json,
		runJob: jobs.run,
		signIn: people.signInServices({ version, demo }),
		raw: {
			exportMaterial: (ctx: Context, input: { id: string }) => materials.exportMaterial(ctx, queries, input.id),
			findColumns: (ctx: Context, input: RouteInput<"findColumns">) => materials.findColumns(ctx, queries, input),
			findWithColumns: (ctx: Context, input: RouteInput<"findWithColumns">) => materials.findWithColumns(ctx, queries, input),
			historyTable,
			exportEdition: (ctx: Context, input: RouteInput<"exportEdition">) => publish.writeEdition(ctx, blobs, input),
			takeEdition: (ctx: Context, input: RouteInput<"takeEdition">, upload: Upload) =>
				publish.takeEdition(ctx, { blobs, workers }, input, upload),
			getMesh: (ctx: Context, input: RouteInput<"getMesh">) => parts.getMesh(ctx, blobs, input),
			massTable: parts.massTableOf,
			importGeometry: imports.importGeometry,
			uploadFile: (ctx: Context, input: RouteInput<"uploadFile">, upload: Upload) =>
				materials.uploadFile(ctx, blobs, input, upload),
			getFile: (ctx: Context, input: RouteInput<"getFile">) => materials.readFile(ctx, blobs, input),
		},
	};
}

/** What is asked of materials. */
const readingOf = (queries: MaterialQueries) =>
	({
		findMaterials: (ctx, input) => materials.findMaterials(ctx, queries, input),
		getMaterials: (ctx, input) => materials.getMaterials(ctx, queries, input),
		getSheet: (ctx, input) => materials.getSheet(ctx, queries, input.id),
		getRevision: (ctx, input) => materials.getRevision(ctx, input.id, Number(input.no)),
		findAlike: (ctx, input) => materials.findAlike(ctx, queries, input),
		keepApart: materials.keepApart,
		listDuplicates: (ctx, input) => materials.listDuplicates(ctx, queries, input),
		search: (ctx, input) => materials.search(ctx, queries, input.text),
	}) satisfies Partial<JsonHandlers>;

/** Rows and drafts of materials. */
/** Edits of the wire: what is left out is nothing. Core decodes what they put in. */
const editsOf = (edits: RouteInput<"saveDraft">["edits"]): readonly Edit[] =>
	edits.map(({ at, from = null, to = null }) => ({ at, from, to }));

const materialRows = () =>
	({
		createMaterial: materials.createMaterial,
		changeMaterial: materials.changeMaterial,
		standOnNewest: materials.standOnNewest,
		manyMaterials: materials.manyMaterials,
		removeMaterial: materials.removeMaterial,
		saveDraft: (ctx, input) => materials.saveDraft(ctx, { ...input, edits: editsOf(input.edits) }),
		saveDrafts: (ctx, { items }) =>
			materials.saveDrafts(ctx, { items: items.map(({ id, edits }) => ({ id, edits: editsOf(edits) })) }),
		discardDraft: (ctx, input) => materials.discardDraft(ctx, input.id),
		rebaseDraft: materials.rebaseDraft,
		starMaterial: materials.starMaterial,
		starMany: materials.starMany,
		listViews: materials.listViews,
		listTextures: materials.listTextures,
		takeTexture: materials.takeTexture,
		saveView: materials.saveView,
		removeView: materials.removeView,
	}) satisfies Partial<JsonHandlers>;

/** What stands above materials, libraries and projects. */
const publishing = (queries: MaterialQueries) =>
	({
		publishPlan: publish.publishPlan,
		publishDrafts: publish.publishDrafts,
		publishDraft: (ctx, { id, hash, note }) => publish.publishDrafts(ctx, { items: [{ id, hash }], note }),
		approvePublish: publish.approvePublish,
		declinePublish: publish.declinePublish,
		mergePlan: (ctx, input) => publish.mergePlan(ctx, queries, input),
		mergeMaterials: publish.mergeMaterials,
		copyLibrary: publish.copyLibrary,
		copyPlan: publish.copyPlan,
		copyMany: publish.copyMany,
		draftEdition: publish.draftEdition,
		handOver: publish.handOver,
	}) satisfies Partial<JsonHandlers>;

const librariesOf = () =>
	({
		listLibraries: libraries.listLibraries,
		getLibrary: libraries.getLibrary,
		createLibrary: libraries.createLibrary,
		changeLibrary: libraries.changeLibrary,
		shareLibrary: libraries.shareLibrary,
		hideLibrary: libraries.hideLibrary,
		openLock: libraries.openLock,
		closeLock: libraries.closeLock,
		listSets: libraries.listSets,
		saveSet: libraries.saveSet,
		removeSet: libraries.removeSet,
		shareSet: libraries.shareSet,
		createGroup: libraries.createGroup,
		changeGroup: libraries.changeGroup,
		removeGroup: libraries.removeGroup,
		freezeEdition: libraries.freezeEdition,
		freezeSet: libraries.freezeSet,
		compareEditions: libraries.compareEditions,
		setWorking: libraries.setWorking,
		listUnused: libraries.listUnused,
		emptyBin: libraries.emptyBin,
		listBin: libraries.listBin,
		listSources: libraries.listSources,
		saveSource: libraries.saveSource,
		listOwnProperties: libraries.listOwnProperties,
		listOwnUses: libraries.listOwnUses,
		saveOwnUse: libraries.saveOwnUse,
		saveOwnProperty: libraries.saveOwnProperty,
	}) satisfies Partial<JsonHandlers>;

const projectsOf = () =>
	({
		listProjects: parts.listProjects,
		createProject: parts.createProject,
		renameProject: parts.renameProject,
		setMoney: parts.setMoney,
		removeProject: parts.removeProject,
		getProject: parts.getProject,
		setFollowing: parts.setFollowing,
		setDefault: parts.setDefault,
		confirmDefault: parts.confirmDefault,
		shareProject: libraries.shareProject,
		getProjectRevision: parts.getProjectRevision,
		createLocal: parts.createLocal,
		promoteLocal: parts.promoteLocal,
		returnLocal: parts.returnLocal,
		replaceLocalMaterial: parts.replaceLocalMaterial,
		removeGeometry: parts.removeGeometry,
		assign: parts.assign,
		bringForward: parts.bringForward,
	}) satisfies Partial<JsonHandlers>;

const peopleOf = (version: string, demo: boolean) =>
	({
		getSession: (ctx) => people.getSession(ctx, version, demo),
		readTicket: people.readTicket,
		listPeople: people.listPeople,
		invite: people.invite,
		withdrawInvitation: people.withdrawInvitation,
		changePerson: people.changePerson,
		resetPassword: people.resetPassword,
		saveTeam: people.saveTeam,
		removeTeam: people.removeTeam,
		changeMe: people.changeMe,
		listSessions: people.listSessions,
		listTokens: people.listTokens,
		makeToken: people.makeToken,
		removeToken: people.removeToken,
	}) satisfies Partial<JsonHandlers>;
