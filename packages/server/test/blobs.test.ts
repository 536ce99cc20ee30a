import { createHash } from "node:crypto";
import { existsSync, mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable } from "node:stream";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Blobs, openBlobs } from "../src/runtime";

const dir = mkdtempSync(join(tmpdir(), "alvek-blobs-"));
const sha = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");
const pathOf = (hash: string): string => join(dir, hash.slice(0, 2), hash);
const incoming = (): string[] => readdirSync(join(dir, "incoming"));
let blobs: Blobs;
beforeAll(async () => {
	blobs = await openBlobs(dir);
});
afterAll(() => rmSync(dir, { recursive: true, force: true }));

describe("content-addressed files", () => {
	it("are named by their hash, kept once, and read back to the byte", async () => {
		const bytes = Buffer.from("a sheet");
		expect(await blobs.put(bytes)).toBe(sha(bytes));
		expect(await blobs.put(bytes)).toBe(sha(bytes));
		expect((await blobs.read(sha(bytes))).equals(bytes)).toBe(true);
		expect(incoming()).toEqual([]);
	});

	it("arrive as a stream in pieces", async () => {
		const pieces = Array.from({ length: 50 }, (_, i) => Buffer.alloc(1000, i));
		const received = await blobs.receive(Readable.from(pieces), 1e6, 50_000);
		const whole = Buffer.concat(pieces);
		expect(received).toEqual({ ok: true, value: { hash: sha(whole), size: 50_000 } });
		expect((await blobs.read(sha(whole))).equals(whole)).toBe(true);
	});

	it.each([
		["one larger than the limit", () => Readable.from([Buffer.alloc(600), Buffer.alloc(600)]), 1000, null, "upload-too-large"],
		["one shorter than announced", () => Readable.from([Buffer.alloc(10)]), 1000, 20, "upload-broken"],
		[
			"one that breaks off",
			() =>
				Readable.from(
					(async function* () {
						yield Buffer.alloc(10);
						throw new Error("connection lost");
					})(),
				),
			1000,
			null,
			"upload-broken",
		],
	] as const)("%s is refused, and nothing of it stays", async (_, stream, limit, expected, code) => {
		const before = readdirSync(dir).sort();
		const received = await blobs.receive(stream(), limit, expected);
		expect(received.ok ? "ok" : received.issues[0]?.code).toBe(code);
		expect(incoming()).toEqual([]);
		expect(readdirSync(dir).sort()).toEqual(before);
	});

	it("show how they begin, however short they are", async () => {
		const hash = await blobs.put(Buffer.from("PK"));
		expect(Buffer.from(await blobs.begin(hash, 4)).toString()).toBe("PK");
		expect(Buffer.from(await blobs.begin(await blobs.put(Buffer.from("ISO-10303")), 4)).toString()).toBe("ISO-");
	});

	it("half-received leftovers of an earlier run are gone after opening", async () => {
		writeFileSync(join(dir, "incoming", "receive-7"), "half");
		await openBlobs(dir);
		expect(incoming()).toEqual([]);
	});

	it("what nothing names is swept once it is an hour old, counted from when it last came in", async () => {
		const named = await blobs.put(Buffer.from("named"));
		const unnamed = await blobs.put(Buffer.from("unnamed"));
		const fresh = await blobs.put(Buffer.from("came in again"));
		for (const hash of [named, unnamed, fresh]) utimesSync(pathOf(hash), 0, 0);
		expect(await blobs.put(Buffer.from("came in again"))).toBe(fresh);
		const known = new Set([named]);
		expect(await blobs.sweep(known)).toBeGreaterThan(0);
		expect([named, unnamed, fresh].map((hash) => existsSync(pathOf(hash)))).toEqual([true, false, true]);
		expect(await blobs.sweep(known)).toBe(0);
		expect(incoming()).toEqual([]);
	});
});
