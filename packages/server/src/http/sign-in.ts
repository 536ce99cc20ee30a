import { createHash } from "node:crypto";
import { API_ROOT, type RouteInput } from "@alvek/contract";
import { ROUTES } from "@alvek/contract/routes";
import type { Result } from "@alvek/core/result";
import express, { type Express, type Request, type Response } from "express";
import type { Services } from "../services";
import { clearSession, contextOf, requireSignIn, setSession } from "./authentication";
import { readInput } from "./input";
import { addressOf, GUESSES, slowGuesses } from "./limits";
import { sendIssues, sendResult } from "./reply";

/** The routes that set or clear the session's cookie. Guessing is slowed down before a password is looked at. */
export function registerSignIn(app: Express, services: Services["signIn"]): void {
	// a name and a password are short; whatever is longer is not even read
	for (const route of [ROUTES.signIn, ROUTES.signInAs, ROUTES.useTicket, ROUTES.signOut])
		app.post(API_ROOT + route.path, express.json({ limit: "20kb", strict: true }));
	const byAddress = slowGuesses(GUESSES.all, addressOf);
	const byName = slowGuesses(GUESSES.one, (req) => `${addressOf(req)} ${loginIn(req)}`);
	const byPerson = slowGuesses(GUESSES.one, (_req) => contextOf(_req.res as Response).actor.person);
	// the old password may not be guessed here either
	app.patch(
		API_ROOT + ROUTES.changeMe.path,
		requireSignIn(ROUTES.changeMe),
		express.json({ limit: "20kb", strict: true }),
		byPerson,
	);
	const enter = async (req: Request, res: Response, secret: Result<string>): Promise<void> => {
		if (!secret.ok) return sendIssues(res, secret.issues);
		setSession(req, res, secret.value);
		sendResult(res, await services.sessionOf(contextOf(res), secret.value));
	};
	const agent = (req: Request): string => req.headers["user-agent"] ?? "";

	app.post(API_ROOT + ROUTES.signIn.path, requireSignIn(ROUTES.signIn), byAddress, byName, async (req, res) => {
		const input = readInput(ROUTES.signIn, req);
		if (!input.ok) return sendIssues(res, input.issues);
		await enter(req, res, await services.signIn(contextOf(res), input.value as RouteInput<"signIn">, agent(req)));
	});
	app.post(API_ROOT + ROUTES.signInAs.path, requireSignIn(ROUTES.signInAs), async (req, res) => {
		const input = readInput(ROUTES.signInAs, req);
		if (!input.ok) return sendIssues(res, input.issues);
		await enter(req, res, await services.signInAs(contextOf(res), input.value as RouteInput<"signInAs">, agent(req)));
	});
	app.post(API_ROOT + ROUTES.useTicket.path, requireSignIn(ROUTES.useTicket), byAddress, async (req, res) => {
		const input = readInput(ROUTES.useTicket, req);
		if (!input.ok) return sendIssues(res, input.issues);
		await enter(req, res, await services.useTicket(contextOf(res), input.value as RouteInput<"useTicket">, agent(req)));
	});
	app.post(API_ROOT + ROUTES.signOut.path, requireSignIn(ROUTES.signOut), async (req, res) => {
		const input = readInput(ROUTES.signOut, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const out = await services.signOut(contextOf(res), input.value as RouteInput<"signOut">);
		clearSession(req, res);
		sendResult(res, out);
	});
}

/** The name as it is compared, however it was typed, and never more of it than a name has; a digest, so that none is kept. */
function loginIn(req: Request): string {
	const { login } = (req.body ?? {}) as { login?: unknown };
	const text = typeof login === "string" ? login.normalize("NFKC").trim().toLowerCase() : "";
	return createHash("sha256").update(text).digest("base64url");
}
