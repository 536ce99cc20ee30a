import * as yup from "yup";
import { PATHS } from "../paths.data";
import { id, shape, text } from "../shapes";
import type * as wire from "../wire";
import type { HistoryRow } from "../wire-libraries";
import type { Health, News } from "../wire-live";
import { route } from "./route";

/** Who is here, finding over everything, background work. */
export const installationRoutes = {
	getSession: route<wire.SessionView>()({
		...PATHS.getSession,
		action: "session.open",
		summary: "who is here, and how one signs in",
		open: true,
		input: shape({}),
	}),
	search: route<readonly wire.Found[]>()({
		...PATHS.search,
		action: "installation.use",
		summary: "materials, projects and parts by name or code, exact ones first, slips of typing forgiven",
		input: shape({ text: text(200).required() }),
	}),
	undo: route<wire.Undoable<null>>()({
		...PATHS.undo,
		action: "installation.use",
		summary: "the inverse of one event, unless something newer stands in the way",
		input: shape({ event: yup.number().strict().required().integer() }),
	}),
	live: route<null>()({
		...PATHS.live,
		action: "installation.use",
		summary: "a stream of what happens (server-sent events); after=N begins with what came after that event",
		raw: "download",
		input: shape({ after: text(20) }),
	}),
	readNews: route<News>()({
		...PATHS.readNews,
		action: "installation.use",
		summary: "what happened after an event, for whoever cannot hold the stream open",
		input: shape({
			after: text(20)
				.required()
				.matches(/^\d{1,15}$/),
		}),
	}),
	readHealth: route<Health>()({
		...PATHS.readHealth,
		action: "installation.watch",
		summary: "database, queue, disk and backups, with figures",
		input: shape({}),
	}),
	listSteps: route<readonly HistoryRow[]>()({
		...PATHS.listSteps,
		action: "installation.use",
		summary: "my latest steps that can be taken back, the newest first; also after a reload",
		input: shape({}),
	}),
	getJob: route<wire.JobView>()({
		...PATHS.getJob,
		action: "job.read",
		summary: "state and progress of background work",
		input: shape({ id }),
	}),
	getJobResult: route<unknown>()({
		...PATHS.getJobResult,
		action: "job.read",
		summary:
			"what a request answered that was run as a job: one of those that may be large, sent with `X-Alvek-Job` and an id of one's own",
		input: shape({ id }),
	}),
	cancelJob: route<wire.JobView>()({
		...PATHS.cancelJob,
		action: "job.cancel",
		summary: "stops background work; nothing of it stays",
		input: shape({ id }),
	}),
} as const;
