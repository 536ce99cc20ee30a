import type { RouteInput, RouteName, RouteReply, SessionView } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import type { Blobs } from "./db/blobs";
import type { Context } from "./db/write";
import type { Jobs } from "./jobs/service";
import { listBin, listLibraries } from "./libraries/service";
import type { Finding } from "./materials/finding";
import { materialServices } from "./materials/service";
import { partServices } from "./parts/service";
import { undo } from "./undo";

/** Routes whose reply or body is bytes; `http/raw.ts` serves them. */
export type RawRoute = "exportMaterial" | "getMesh" | "massTable" | "importGeometry";

export type JsonHandlers = {
	readonly [N in Exclude<RouteName, RawRoute>]: (ctx: Context, input: RouteInput<N>) => Promise<Result<RouteReply<N>>>;
};

export type Services = ReturnType<typeof createServices>;

export function createServices(parts: { finding: Finding; blobs: Blobs; jobs: Jobs; version: string }) {
	const { finding, blobs, jobs, version } = parts;
	const { exportMaterial, ...materials } = materialServices(finding);
	const { getMesh, massTable, ...projects } = partServices(blobs);
	const json: JsonHandlers = {
		...materials,
		...projects,
		getSession: (ctx: Context) => getSession(ctx, version),
		listLibraries,
		listBin,
		undo: (ctx: Context, input: { event: number }) => undo(ctx, finding, input),
		getJob: jobs.getJob,
		cancelJob: jobs.cancelJob,
		// core decodes every edit, so `from` and `to` may be anything here
		saveDraft: (ctx: Context, input: RouteInput<"saveDraft">) => materials.saveDraft(ctx, input as never),
	};
	return { json, raw: { exportMaterial, getMesh, massTable, importGeometry: jobs.importGeometry } };
}

async function getSession(ctx: Context, version: string): Promise<Result<SessionView>> {
	const person = await ctx.db.one<{ id: string; name: string; initials: string }>(
		"SELECT id, name, initials FROM person WHERE id = $id",
		{
			id: ctx.actor.person,
		},
	);
	return person === null
		? fail({ code: "not-found", path: "The person" })
		: ok({ person: person.id, name: person.name, initials: person.initials, version });
}
