import { randomBytes, type ScryptOptions, scrypt, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import { fail, ok, type Result } from "@alvek/core/result";

const derive = promisify(scrypt) as (password: string, salt: Buffer, length: number, options: ScryptOptions) => Promise<Buffer>;

/** Costs of scrypt (RFC 7914): 32 MB and about a tenth of a second for one guess. They are stored with each hash. */
const COST = { N: 2 ** 15, r: 8, p: 1 } as const;
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

const DUMMY = [
	"scrypt",
	COST.N,
	COST.r,
	COST.p,
	Buffer.alloc(16).toString("base64"),
	Buffer.alloc(LENGTH).toString("base64"),
].join("$");

function derived(password: string, salt: Buffer, cost: { N: number; r: number; p: number }): Promise<Buffer> {
	return derive(password.normalize("NFKC"), salt, LENGTH, { ...cost, maxmem: 256 * cost.N * cost.r });
}
