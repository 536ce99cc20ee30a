import { isIP } from "node:net";
import type { NextFunction, Request, Response } from "express";
import { sendIssues } from "./reply";

/**
 * Only this server's own pages may talk to it. A name that an outsider points at its address (DNS rebinding) shows in
 * Host; a page of another site shows in Origin.
 */
export function checkHost(allowedNames: readonly string[]) {
	return function hostGuard(req: Request, res: Response, next: NextFunction): void {
		const host = hostName(req.headers.host ?? "");
		const known = host === "localhost" || isIP(host) !== 0 || allowedNames.includes(host);
		if (!known)
			return sendIssues(res, [
				{ code: "bad-host", actual: host.slice(0, 80), expected: "localhost or an address of this computer" },
			]);
		const origin = req.headers.origin;
		if (origin !== undefined && originOf(origin) !== `${req.protocol}://${req.headers.host}`) {
			return sendIssues(res, [{ code: "bad-host", actual: origin.slice(0, 80), expected: "a page of this server" }]);
		}
		next();
	};
}

function hostName(host: string): string {
	if (host.startsWith("[")) return host.slice(1, host.indexOf("]"));
	return host.replace(/:\d+$/, "").toLowerCase();
}

/** Scheme and host: a page over http is another one than the same over TLS. */
function originOf(origin: string): string | null {
	try {
		const { protocol, host } = new URL(origin);
		return `${protocol}//${host}`;
	} catch {
		return null;
	}
}
