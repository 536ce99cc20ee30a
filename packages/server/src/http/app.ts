import { existsSync } from "node:fs";
import { join } from "node:path";
import { API_ROOT, AS_JOB, JOB_HEADER, type RouteName, uuid7 } from "@alvek/contract";
import { ROUTES } from "@alvek/contract/routes";
import type { Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import compression from "compression";
import express, { type Express, type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import type { Logger } from "pino";
import { type Context, type Db, faultOf } from "../db";
import { type Health, healthInWords } from "../health";
import type { Hub } from "../live";
import type { Services } from "../services";
import { contextOf, identify, requireSignIn, stillIn } from "./authentication";
import { checkHost } from "./guard";
import { readInput } from "./input";
import { FAIR, fairShare } from "./limits";
import { openApi } from "./openapi";
import { registerRaw } from "./raw";
import { sendIssues, sendResult } from "./reply";
import { createMetrics, requestLog } from "./request-log";
import { registerSignIn } from "./sign-in";
import { eventStream } from "./stream";

export type AppOptions = {
	readonly db: Db;
	readonly services: Services;
	readonly hub: Hub;
	readonly health: () => Promise<Health>;
	readonly log: Logger;
	readonly webRoot: string | null;
	readonly hostNames: readonly string[];
	/** Requests of one person in ten seconds; more are asked to come again. */
	readonly fairShare?: number;
	/** TLS ends at a proxy on this machine or network, whose headers say so. */
	readonly behindProxy?: boolean;
};

/** The one Express process: API, then the interface's files. */
export function createApp(options: AppOptions): Express {
	const app = express();
	app.disable("x-powered-by");
	const metrics = createMetrics(options.health, options.hub.size);
	app.use(requestLog(options.log, metrics));
	app.use(
		helmet({
			// nothing comes from outside; WebGL textures and workers are our own
			contentSecurityPolicy: {
				useDefaults: false,
				directives: {
					defaultSrc: ["'self'"],
					scriptSrc: ["'self'"],
					styleSrc: ["'self'", "'unsafe-inline'"],
					imgSrc: ["'self'", "data:", "blob:"],
					fontSrc: ["'self'"],
					connectSrc: ["'self'"],
					workerSrc: ["'self'", "blob:"],
					objectSrc: ["'none'"],
					baseUri: ["'none'"],
					frameAncestors: ["'none'"],
					formAction: ["'self'"],
				},
			},
			// by IP over plain http there is no secure origin to insist on
			strictTransportSecurity: false,
			crossOriginOpenerPolicy: false,
			originAgentCluster: false,
		}),
	);
	if (options.behindProxy) app.set("trust proxy", "loopback, linklocal, uniquelocal");
	app.use(overTls);
	app.use(checkHost(options.hostNames));
	// the fastest level: pages of rows are large, and most readers are near; a stream has to arrive as it is written
	app.use(compression({ level: 1, filter: (req, res) => !isStream(res) && compression.filter(req, res) }));
	app.get("/api/health", async (_req, res) => {
		const health = await options.health();
		res.status(health.ok ? 200 : 503).json(healthInWords(health));
	});
	const { actor: _server, ...base } = newContext(options.db);
	app.get("/api/metrics", identify(base), requireSignIn(ROUTES.readHealth), async (_req, res) => {
		const refused = may(contextOf(res).actor, "installation.watch", { kind: "installation" });
		if (refused !== null) return sendIssues(res, [refused]);
		res.type(metrics.registry.contentType).send(await metrics.registry.metrics());
	});
	app.use(API_ROOT, unkept, identify(base), fairShare(options.fairShare ?? FAIR));
	app.get(
		API_ROOT + ROUTES.live.path,
		requireSignIn(ROUTES.live),
		eventStream(options.hub, (req) => stillIn(base, req)),
	);
	app.get(`${API_ROOT}/openapi.json`, (_req, res) => res.json(openApi()));
	registerRaw(app, options.services.raw);
	registerSignIn(app, options.services.signIn);
	app.use(API_ROOT, express.json({ limit: "20mb", strict: true }));
	registerJson(app, options.services);
	app.use("/api", (req, res) => sendIssues(res, [{ code: "not-found", path: `${req.method} ${req.originalUrl.slice(0, 100)}` }]));
	if (options.webRoot !== null && existsSync(options.webRoot)) serveInterface(app, options.webRoot);
	app.use(lastCatch(options.log));
	return app;
}

/** The server's own hand: what a first start, the demo and scripts do, they do as the first person. */
export function newContext(db: Db): Context {
	return {
		db,
		actor: { person: "local", admin: true },
		now: () => new Date().toISOString(),
		newId: () => uuid7(Date.now(), crypto.getRandomValues(new Uint8Array(10))),
	};
}

function registerJson(app: Express, services: Services): void {
	for (const [name, handler] of Object.entries(services.json)) {
		const route = ROUTES[name as RouteName];
		const method = route.method.toLowerCase() as "get" | "post" | "patch" | "delete";
		app[method](API_ROOT + route.path, requireSignIn(route), async (req: Request, res: Response) => {
			const input = readInput(route, req);
			if (!input.ok) return sendIssues(res, input.issues);
			const work = handler as (c: Context, i: unknown) => Promise<Result<unknown>>;
			const job = isLong(name) ? req.headers[JOB_HEADER.toLowerCase()] : undefined;
			if (job === undefined) return sendResult(res, await work(contextOf(res), input.value));
			await sendJob(res, services, String(job), (ctx) => work(ctx, input.value));
		});
	}
}

const isLong = (name: string): boolean => AS_JOB.some((route) => route === name);

/** A request that may take long is run as a job of this id; the answer is the job as it stands then. */
async function sendJob(
	res: Response,
	{ runJob }: Services,
	id: string,
	work: (ctx: Context) => Promise<Result<unknown>>,
): Promise<void> {
	if (!/^[0-9a-zA-Z-]{1,64}$/.test(id)) return sendIssues(res, [{ code: "bad-input", path: JOB_HEADER, expected: "an id" }]);
	const ctx = contextOf(res);
	const begun = await runJob(ctx, { id, kind: "request", owner: null }, (tell, signal) =>
		work({ ...ctx, work: { tell, signal } }),
	);
	if (begun.ok) res.status(202).json(begun);
	else sendIssues(res, begun.issues);
}

const isStream = (res: Response): boolean => String(res.getHeader("Content-Type")).startsWith("text/event-stream");

function serveInterface(app: Express, root: string): void {
	app.use("/assets", express.static(join(root, "assets"), { immutable: true, maxAge: "1y", fallthrough: false }));
	app.use(express.static(root, { index: false, maxAge: 0 }));
	// every other address is a place of the interface
	app.get(/.*/, (_req, res) => res.sendFile(join(root, "index.html"), { headers: { "Cache-Control": "no-cache" } }));
}

/** Where TLS ends here or at the proxy, browsers come back over TLS only. */
function overTls(req: Request, res: Response, next: NextFunction): void {
	if (req.secure) res.setHeader("Strict-Transport-Security", "max-age=31536000");
	next();
}

/** Data are nobody's to keep; a route whose answer may be kept says so itself. */
function unkept(_req: Request, res: Response, next: NextFunction): void {
	res.setHeader("Cache-Control", "no-store");
	next();
}

/** The one catch: a bug or a broken request becomes an issue, its cause goes to the log. */
function lastCatch(log: Logger) {
	return function onError(error: unknown, _req: Request, res: Response, next: NextFunction): void {
		if (res.headersSent) return next(error);
		const type = (error as { type?: string }).type;
		const status = (error as { status?: number }).status;
		if (type === "entity.too.large") return sendIssues(res, [{ code: "body-too-large", expected: "at most 20 MB" }]);
		if (type === "entity.parse.failed") return sendIssues(res, [{ code: "bad-input", path: "body", expected: "JSON" }]);
		if (status !== undefined && status >= 400 && status < 500 && status !== 404)
			return sendIssues(res, [{ code: "bad-input", path: "request", expected: "a request that can be read" }]);
		if (status === 404) return sendIssues(res, [{ code: "not-found", path: "The file" }]);
		const fault = faultOf(error);
		const request = res.locals.request as string;
		// never the address: it may hold a one-time secret
		log.error({ err: error, request, fault: fault?.code }, "request failed");
		// what the disk said is for the log; a page gets the sentence
		sendIssues(res, [
			fault === null
				? { code: "internal", actual: request, expected: "trying again; what you typed is kept in the page" }
				: { code: fault.code, ...(fault.code.startsWith("file-") ? { actual: fault.actual ?? "" } : {}) },
		]);
	};
}
