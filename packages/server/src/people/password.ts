import { randomBytes, type ScryptOptions, scrypt, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import { fail, ok, type Result } from "@alvek/core/result";
import { Fault } from "../db";

const derive = promisify(scrypt) as (password: string, salt: Buffer, length: number, options: ScryptOptions) => Promise<Buffer>;

/**
 * Costs of scrypt (RFC 7914): 128 MB and some tenths of a second for one guess, the first of the settings that the OWASP
 * Password Storage Cheat Sheet recommends (N 2^17, r 8, p 1). They are stored with each hash. Tests lower the exponent.
 */
const COST = { N: 2 ** Number(process.env.ALVEK_TEST_SCRYPT_LOG2N ?? 17), r: 8, p: 1 } as const;

/** Each takes 128 MB, so few run at once; whoever comes when too many wait is asked to come again. */
const AT_ONCE = 2;
const MOST_WAITING = 20;
const LENGTH = 32;

const SHORTEST = 10;
const LONGEST = 200;

/** What a password has to be; nothing about kinds of characters, length is what counts. */
export function checkPassword(password: string, login: string): Result<string> {
	const text = password.normalize("NFKC");
	if (text.length < SHORTEST || text.length > LONGEST)
		return fail({ code: "password-length", actual: text.length, expected: `${SHORTEST} to ${LONGEST} characters` });
	// a name of two letters stands in many words
	if (login.length > 3 && text.toLowerCase().includes(login.toLowerCase()))
		return fail({ code: "password-is-name", expected: "something else than the name" });
	return ok(text);
}

/** `scrypt$N$r$p$salt$hash`, salt and hash in base64. */
export async function hashPassword(password: string): Promise<string> {
	const salt = randomBytes(16);
	const hash = await derived(password, salt, COST);
	return ["scrypt", COST.N, COST.r, COST.p, salt.toString("base64"), hash.toString("base64")].join("$");
}

/** Takes as long for somebody who has no password as for a wrong one, so that names cannot be told by the clock. */
export async function passwordFits(password: string, secret: string | null): Promise<boolean> {
	const [, n, r, p, salt, hash] = (secret ?? DUMMY).split("$");
	const cost = { N: Number(n), r: Number(r), p: Number(p) };
	const expected = Buffer.from(hash as string, "base64");
	const actual = await derived(password, Buffer.from(salt as string, "base64"), cost);
	return timingSafeEqual(actual, expected) && secret !== null;
}

/** Was this kept at a lower cost than passwords are kept at today? */
export const isOutdated = (secret: string): boolean => Number(secret.split("$")[1]) < COST.N;

const DUMMY = [
	"scrypt",
	COST.N,
	COST.r,
	COST.p,
	Buffer.alloc(16).toString("base64"),
	Buffer.alloc(LENGTH).toString("base64"),
].join("$");

let running = 0;
const waiting: (() => void)[] = [];

/** @throws Fault `sign-in-busy` when too many wait already */
async function derived(password: string, salt: Buffer, cost: { N: number; r: number; p: number }): Promise<Buffer> {
	if (running >= AT_ONCE) {
		if (waiting.length >= MOST_WAITING) throw new Fault({ code: "sign-in-busy" });
		await new Promise<void>((resolve) => waiting.push(resolve));
	} else running++;
	try {
		return await derive(password.normalize("NFKC"), salt, LENGTH, { ...cost, maxmem: 256 * cost.N * cost.r });
	} finally {
		// the turn goes to whoever waits longest, or back
		const next = waiting.shift();
		if (next === undefined) running--;
		else next();
	}
}
