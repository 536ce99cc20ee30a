import type { Route } from "@alvek/contract/routes";
import { mayCall } from "@alvek/core/rights";
import type { NextFunction, Request, RequestHandler, Response } from "express";
import type { Context } from "../db";
import { bySession, byToken, type Known, SESSION_DAYS } from "../people";
import { sendIssues } from "./reply";

const COOKIE = "alvek_session";

/** Nobody: what routes that are open to everybody see before somebody signs in. */
const NOBODY = { person: "", admin: false } as const;

/** Finds out who asks, by cookie or by token, and keeps the context for the routes. A wrong secret is like none. */
export function identify(base: Omit<Context, "actor">): RequestHandler {
	return async function authenticate(req, res, next): Promise<void> {
		const token = /^Bearer (\S{1,200})$/.exec(req.headers.authorization ?? "")?.[1];
		const cookie = sessionCookie(req);
		let known: Known | null = null;
		if (token !== undefined) known = await byToken(base, token);
		else if (cookie !== null) known = await bySession(base, cookie);
		const tab = req.headers["x-alvek-tab"];
		const from = typeof tab === "string" && /^[\w-]{1,64}$/.test(tab) ? { tab } : {};
		res.locals.context = { ...base, ...(known ?? { actor: NOBODY }), ...from, steps: new Set() } satisfies Context;
		next();
	};
}

/** Whether the secret of a request that is still open is good for anything any more. */
export async function stillIn(base: Omit<Context, "actor">, req: Request): Promise<boolean> {
	const token = /^Bearer (\S{1,200})$/.exec(req.headers.authorization ?? "")?.[1];
	const cookie = sessionCookie(req);
	if (token !== undefined) return (await byToken(base, token)) !== null;
	return cookie !== null && (await bySession(base, cookie)) !== null;
}

export const contextOf = (res: Response): Context => res.locals.context as Context;

/** Before a route: somebody has signed in, the token reaches as far, and no other site's page sends it. */
export function requireSignIn(route: Pick<Route, "action" | "method" | "open">): RequestHandler {
	return function signedIn(req: Request, res: Response, next: NextFunction): void {
		const { actor, session } = contextOf(res);
		if (actor.person === "") {
			if (route.open === true) return next();
			return sendIssues(res, [{ code: "signed-out" }]);
		}
		const reads = route.method === "GET";
		// browsers name the page that sends a change; a cookie without that may come from anywhere
		const named = req.headers.origin !== undefined || req.headers["sec-fetch-site"] === "same-origin";
		if (session !== undefined && !reads && !named)
			return sendIssues(res, [{ code: "bad-host", actual: "nowhere", expected: "a page of this server" }]);
		const refused = mayCall(actor, { action: route.action, reads });
		if (refused !== null) return sendIssues(res, [refused]);
		next();
	};
}

function sessionCookie(req: Request): string | null {
	return /(?:^|;\s*)alvek_session=([A-Za-z0-9_-]{43})(?:;|$)/.exec(req.headers.cookie ?? "")?.[1] ?? null;
}

/** Not readable by scripts, not sent with other sites' requests, over TLS only where there is TLS. */
export function setSession(req: Request, res: Response, secret: string): void {
	res.cookie(COOKIE, secret, { ...cookieOptions(req), maxAge: SESSION_DAYS * 86_400_000 });
}

export function clearSession(req: Request, res: Response): void {
	res.clearCookie(COOKIE, cookieOptions(req));
}

function cookieOptions(req: Request) {
	return { httpOnly: true, sameSite: "lax", secure: req.secure, path: "/" } as const;
}
