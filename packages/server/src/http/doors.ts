import { API_ROOT, ROUTES, type RouteInput } from "@alvek/contract";
import type { Result } from "@alvek/core/result";
import type { Express, Request, Response } from "express";
import { rateLimit } from "express-rate-limit";
import type { Services } from "../services";
import { readInput } from "./input";
import { sendIssues, sendResult } from "./reply";
import { clearSession, contextOf, gate, setSession } from "./who";

/** Wrong guesses that one address may make, for one name and altogether, in a quarter of an hour. */
const GUESSES = { one: 10, all: 100 } as const;
const WINDOW_MS = 15 * 60_000;

/** The routes that set or clear the session's cookie. Guessing is slowed down here, before a password is even looked at. */
export function registerDoors(app: Express, doors: Services["doors"]): void {
	const slow = (limit: number, key: (req: Request) => string) =>
		rateLimit({
			windowMs: WINDOW_MS,
			limit,
			keyGenerator: key,
			skipSuccessfulRequests: true,
			standardHeaders: "draft-8",
			legacyHeaders: false,
			validate: false,
			handler: (_req, res) => sendIssues(res, [{ code: "too-many-tries", expected: "a quarter of an hour" }]),
		});
	// behind a trusted proxy this is who asked it, else who asked us
	const address = (req: Request): string => req.ip ?? "";
	const byAddress = slow(GUESSES.all, address);
	const byName = slow(GUESSES.one, (req) => {
		const { login } = (req.body ?? {}) as { login?: unknown };
		return `${address(req)} ${String(login).toLowerCase()}`;
	});
	const enter = async (req: Request, res: Response, secret: Result<string>): Promise<void> => {
		if (!secret.ok) return sendIssues(res, secret.issues);
		setSession(req, res, secret.value);
		sendResult(res, await doors.sessionOf(contextOf(res), secret.value));
	};
	const agent = (req: Request): string => req.headers["user-agent"] ?? "";

	app.post(API_ROOT + ROUTES.signIn.path, gate(ROUTES.signIn), byAddress, byName, async (req, res) => {
		const input = readInput(ROUTES.signIn, req);
		if (!input.ok) return sendIssues(res, input.issues);
		await enter(req, res, await doors.signIn(contextOf(res), input.value as RouteInput<"signIn">, agent(req)));
	});
	app.post(API_ROOT + ROUTES.signInAs.path, gate(ROUTES.signInAs), async (req, res) => {
		const input = readInput(ROUTES.signInAs, req);
		if (!input.ok) return sendIssues(res, input.issues);
		await enter(req, res, await doors.signInAs(contextOf(res), input.value as RouteInput<"signInAs">, agent(req)));
	});
	app.post(API_ROOT + ROUTES.useTicket.path, gate(ROUTES.useTicket), byAddress, async (req, res) => {
		const input = readInput(ROUTES.useTicket, req);
		if (!input.ok) return sendIssues(res, input.issues);
		await enter(req, res, await doors.useTicket(contextOf(res), input.value as RouteInput<"useTicket">, agent(req)));
	});
	app.post(API_ROOT + ROUTES.signOut.path, gate(ROUTES.signOut), async (req, res) => {
		const input = readInput(ROUTES.signOut, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const out = await doors.signOut(contextOf(res), input.value as RouteInput<"signOut">);
		clearSession(req, res);
		sendResult(res, out);
	});
}
