import type { RouteInput, RouteName, RouteReply } from "@alvek/contract";
import type { Result } from "@alvek/core/result";
import type { Blobs } from "./db/blobs";
import type { Context } from "./db/write";
import { type Health, readHealth } from "./health";
import { history, historyTable, listSteps } from "./history/service";
import type { Jobs, Upload } from "./jobs/service";
import { copyGroup, copyLibrary, copyMany } from "./libraries/copies";
import { takeEdition, writeEdition } from "./libraries/edition-file";
import { compareEditions, draftEdition, freezeEdition } from "./libraries/editions";
import { shareLibrary } from "./libraries/grants";
import { changeGroup, createGroup, removeGroup } from "./libraries/groups";
import { closeLock, openLock } from "./libraries/lock";
import { listOwnProperties, listSources, saveOwnProperty, saveSource } from "./libraries/records";
import { changeLibrary, createLibrary, getLibrary, hideLibrary, listBin, listLibraries } from "./libraries/service";
import { freezeSet, listSets, removeSet, saveSet, shareSet } from "./libraries/sets";
import { emptyBin, listUnused, setWorking } from "./libraries/tidy";
import { readNews } from "./live/news";
import { readFile, uploadFile } from "./materials/files";
import type { Finding } from "./materials/finding";
import { search } from "./materials/search";
import { materialServices } from "./materials/service";
import { listViews, removeView, saveView, starMaterial } from "./materials/views";
import { changeNotices, listNotices } from "./notices/service";
import { partServices } from "./parts/service";
import { doorServices } from "./people/doors";
import { handOver } from "./people/leave";
import {
	changeMe,
	changePerson,
	getSession,
	invite,
	listPeople,
	removeTeam,
	resetPassword,
	saveTeam,
	withdrawInvitation,
} from "./people/service";
import { listSessions } from "./people/sessions";
import { readTicket } from "./people/tickets";
import { listTokens, makeToken, removeToken } from "./people/tokens";
import { undo } from "./undo/index";

/** Routes whose reply or body is bytes; `http/raw.ts` serves them. */
export type RawRoute =
	| "exportMaterial"
	| "findColumns"
	| "live"
	| "historyTable"
	| "getMesh"
	| "massTable"
	| "importGeometry"
	| "uploadFile"
	| "getFile"
	| "exportEdition"
	| "takeEdition";

/** Routes that set or clear the session's cookie; `http/doors.ts` serves them. */
export type DoorRoute = "signIn" | "signInAs" | "useTicket" | "signOut";

export type JsonHandlers = {
	readonly [N in Exclude<RouteName, RawRoute | DoorRoute>]: (
		ctx: Context,
		input: RouteInput<N>,
	) => Promise<Result<RouteReply<N>>>;
};

export type Services = ReturnType<typeof createServices>;

export function createServices(parts: {
	finding: Finding;
	blobs: Blobs;
	jobs: Jobs;
	version: string;
	demo: boolean;
	health: () => Promise<Health>;
}) {
	const { finding, blobs, jobs, version, demo, health } = parts;
	const { exportMaterial, findColumns, ...materials } = materialServices(finding);
	const { getMesh, massTable, ...projects } = partServices(blobs, finding);
	const json: JsonHandlers = {
		...materials,
		...projects,
		search: (ctx: Context, input: { text: string }) => search(ctx, finding, input.text),
		starMaterial,
		listViews,
		saveView,
		removeView,
		getSession: (ctx: Context) => getSession(ctx, version, demo),
		readTicket,
		listPeople,
		invite,
		withdrawInvitation,
		changePerson,
		resetPassword,
		handOver: (ctx: Context, input: RouteInput<"handOver">) => handOver(ctx, finding, input),
		saveTeam,
		removeTeam,
		changeMe,
		listSessions,
		listTokens,
		makeToken,
		removeToken,
		listLibraries,
		getLibrary,
		createLibrary,
		changeLibrary,
		copyLibrary: (ctx: Context, input: RouteInput<"copyLibrary">) => copyLibrary(ctx, finding, input),
		shareLibrary: (ctx: Context, input: RouteInput<"shareLibrary">) => shareLibrary(ctx, input),
		hideLibrary,
		openLock,
		closeLock,
		listSets,
		saveSet,
		removeSet,
		shareSet: (ctx: Context, input: RouteInput<"shareSet">) => shareSet(ctx, input),
		createGroup,
		changeGroup: (ctx: Context, input: RouteInput<"changeGroup">) => changeGroup(ctx, finding, input),
		removeGroup: (ctx: Context, input: RouteInput<"removeGroup">) => removeGroup(ctx, finding, input),
		copyGroup: (ctx: Context, input: RouteInput<"copyGroup">) => copyGroup(ctx, finding, input),
		copyMany: (ctx: Context, input: RouteInput<"copyMany">) => copyMany(ctx, finding, input),
		freezeEdition,
		freezeSet,
		compareEditions,
		draftEdition: (ctx: Context, input: RouteInput<"draftEdition">) => draftEdition(ctx, finding, input),
		setWorking: (ctx: Context, input: RouteInput<"setWorking">) => setWorking(ctx, finding, input),
		listUnused,
		emptyBin,
		history,
		listBin,
		listSources,
		saveSource,
		listOwnProperties,
		saveOwnProperty: (ctx: Context, input: RouteInput<"saveOwnProperty">) => saveOwnProperty(ctx, finding, input),
		readNews,
		listSteps,
		listNotices: (ctx: Context) => listNotices(ctx, health),
		changeNotices,
		readHealth: (ctx: Context) => readHealth(ctx, health),
		undo: (ctx: Context, input: { event: number }) => undo(ctx, finding, input),
		getJob: jobs.getJob,
		cancelJob: jobs.cancelJob,
		// core decodes every edit, so `from` and `to` may be anything here
		saveDraft: (ctx: Context, input: RouteInput<"saveDraft">) => materials.saveDraft(ctx, input as never),
		saveDrafts: (ctx: Context, input: RouteInput<"saveDrafts">) => materials.saveDrafts(ctx, input as never),
	};
	return {
		json,
		doors: doorServices({ version, demo }),
		raw: {
			exportMaterial,
			historyTable,
			findColumns,
			exportEdition: (ctx: Context, input: RouteInput<"exportEdition">) => writeEdition(ctx, blobs, input),
			takeEdition: (ctx: Context, input: RouteInput<"takeEdition">, upload: Upload) =>
				takeEdition(ctx, blobs, finding, input, upload),
			getMesh,
			massTable,
			importGeometry: jobs.importGeometry,
			uploadFile: (ctx: Context, input: RouteInput<"uploadFile">, upload: Upload) => uploadFile(ctx, blobs, input, upload),
			getFile: (ctx: Context, input: RouteInput<"getFile">) => readFile(ctx, blobs, input),
		},
	};
}
