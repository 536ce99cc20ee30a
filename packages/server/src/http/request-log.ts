import { randomBytes } from "node:crypto";
import type { NextFunction, Request, RequestHandler, Response } from "express";
import type { Logger } from "pino";
import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from "prom-client";
import type { Health } from "../health";
import { contextOf } from "./authentication";

/** What is counted, in the open text format that monitoring reads. */
export type Metrics = { readonly registry: Registry; readonly observe: (req: Request, res: Response, seconds: number) => void };

export function createMetrics(health: () => Promise<Health>, live: () => number): Metrics {
	const registry = new Registry();
	collectDefaultMetrics({ register: registry });
	const labels = ["method", "route", "status"] as const;
	const requests = new Counter({
		name: "alvek_requests_total",
		help: "Requests answered",
		labelNames: labels,
		registers: [registry],
	});
	const seconds = new Histogram({
		name: "alvek_request_seconds",
		help: "Time until a request was answered",
		labelNames: ["method", "route"],
		buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.3, 1, 3, 10],
		registers: [registry],
	});
	const gauge = (name: string, help: string, read: (h: Health) => number): void => {
		new Gauge({
			name,
			help,
			registers: [registry],
			async collect() {
				this.set(read(await health()));
			},
		});
	};
	gauge("alvek_writes_waiting", "Writes that wait for the database or run", (h) => h.queue.waiting);
	gauge("alvek_commits", "Writes committed since the start", (h) => h.database.commits);
	gauge("alvek_database_ok", "1 while the database answers and is whole", (h) => (h.database.ok ? 1 : 0));
	gauge("alvek_disk_free_bytes", "Room left where the data lie", (h) => h.disk.free_bytes);
	gauge("alvek_backup_age_seconds", "Age of the newest scheduled backup; -1: none", (h) => h.backup?.age_s ?? -1);
	new Gauge({
		name: "alvek_live_streams",
		help: "Open event streams",
		registers: [registry],
		collect() {
			this.set(live());
		},
	});
	return {
		registry,
		observe(req, res, took) {
			const route = routeOf(req);
			requests.inc({ method: req.method, route, status: String(res.statusCode) });
			seconds.observe({ method: req.method, route }, took);
		},
	};
}

/** The pattern of the route, never the address: addresses hold one-time secrets, names and ids. */
const routeOf = (req: Request): string => (req.route as { path?: unknown } | undefined)?.path?.toString() ?? "other";

/** Gives every request an id, which the reply carries, and writes one line for each when it was answered. */
export function requestLog(log: Logger, metrics: Metrics): RequestHandler {
	return function watched(req: Request, res: Response, next: NextFunction): void {
		const id = randomBytes(6).toString("hex");
		const began = process.hrtime.bigint();
		res.locals.request = id;
		res.setHeader("X-Request-Id", id);
		res.on("close", () => {
			const took = Number(process.hrtime.bigint() - began) / 1e9;
			metrics.observe(req, res, took);
			const context = contextOf(res) as ReturnType<typeof contextOf> | undefined;
			const line = {
				request: id,
				method: req.method,
				route: routeOf(req),
				status: res.statusCode,
				ms: Math.round(took * 1000),
				person: context?.actor.person ?? "",
			};
			if (res.statusCode >= 500) log.error(line, "refused");
			else log.info(line, res.writableFinished ? "answered" : "broken off");
		});
		next();
	};
}
