import { isIP } from "node:net";
import type { Request, RequestHandler } from "express";
import { ipKeyGenerator, rateLimit } from "express-rate-limit";
import { contextOf } from "./authentication";
import { sendIssues } from "./reply";

/** Wrong guesses that one address may make, for one name and altogether, in a quarter of an hour. */
export const GUESSES = { one: 10, all: 100 } as const;
const GUESS_MS = 15 * 60_000;

/** Requests of one person (or of one address, before anybody signed in) in so long; a hurried person makes some ten a second. */
const FAIR_MS = 10_000;
export const FAIR = 1_500;

/**
 * Where a request comes from: one address of IPv4, or the network of 64 bits that one subscriber of IPv6 has. Behind a
 * trusted proxy this is who asked it, else who asked us.
 */
export function addressOf(req: Request): string {
	const ip = (req.ip ?? "").replace(/^::ffff:(?=\d+\.)/i, "");
	return isIP(ip) === 6 ? ipKeyGenerator(ip, 64) : ip;
}

/** Guessing is slowed down before a password is even looked at; what succeeds does not count. */
export function slowGuesses(limit: number, key: (req: Request) => string): RequestHandler {
	return rateLimit({
		windowMs: GUESS_MS,
		limit,
		keyGenerator: key,
		skipSuccessfulRequests: true,
		standardHeaders: "draft-8",
		legacyHeaders: false,
		validate: false,
		handler: (_req, res) => sendIssues(res, [{ code: "too-many-tries", expected: "a quarter of an hour" }]),
	});
}

/** One person's script does not take the server from everybody else. */
export function fairShare(limit: number): RequestHandler {
	return rateLimit({
		windowMs: FAIR_MS,
		limit,
		// the same reply, by the types of another version
		keyGenerator: (req, res) => contextOf(res as never).actor.person || addressOf(req),
		standardHeaders: "draft-8",
		legacyHeaders: false,
		validate: false,
		handler: (_req, res) => sendIssues(res, [{ code: "too-many-requests", expected: "ten seconds" }]),
	});
}
