import { createHash } from "node:crypto";
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable } from "node:stream";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Blobs, openBlobs } from "../src/runtime";

const dir = mkdtempSync(join(tmpdir(), "alvek-blobs-"));
const sha = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");
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

	it("half-received leftovers of an earlier run are gone after opening; what nothing names is swept", async () => {
		writeFileSync(join(dir, "incoming", "receive-7"), "half");
		const kept = await blobs.put(Buffer.from("kept"));
		const lost = await blobs.put(Buffer.from("lost"));
		const again = await openBlobs(dir);
		expect(incoming()).toEqual([]);
		await again.sweep(new Set([kept]));
		expect(existsSync(join(dir, kept.slice(0, 2), kept))).toBe(true);
		expect(existsSync(join(dir, lost.slice(0, 2), lost))).toBe(false);
	});
});
