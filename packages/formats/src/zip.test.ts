import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isZip, openZip, ZIP_LIMITS } from "./index";
import { type Packed, zipOf } from "./testing";

const text = (s: string): Uint8Array => new TextEncoder().encode(s);
const opened = async (bytes: Uint8Array, limits = ZIP_LIMITS) => {
	const zip = await openZip(bytes, limits);
	if (!zip.ok) throw new Error(JSON.stringify(zip.issues));
	return zip.value;
};
const codeOf = (result: { ok: boolean; issues?: readonly { code: string }[] }): string =>
	result.ok ? "ok" : (result.issues?.[0]?.code ?? "");

describe("a ZIP", () => {
	it("gives back every file to the byte, whatever it was packed by", async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.uniqueArray(
					fc.record({
						name: fc.stringMatching(/^[a-zäß中 _-]{1,12}$/),
						data: fc.uint8Array({ maxLength: 300 }),
						deflate: fc.boolean(),
					}),
					{ selector: (f) => f.name, maxLength: 6 },
				),
				async (files) => {
					const zip = await opened(zipOf(files.map(({ deflate, ...f }) => ({ ...f, method: deflate ? 8 : 0 }))));
					expect(zip.entries.map((e) => [e.name, e.size])).toEqual(files.map((f) => [f.name, f.data.length]));
					for (const [i, entry] of zip.entries.entries()) {
						const content = await entry.read();
						expect(content.ok && [...content.value]).toEqual([...(files[i]?.data ?? [])]);
					}
				},
			),
			{ numRuns: 60 },
		);
	});

	it("that another program made is read the same", async () => {
		const zip = await opened(readFileSync(new URL("../../../fixtures/two-lists.zip", import.meta.url)));
		const contents = await Promise.all(zip.entries.map((e) => e.read()));
		expect(zip.entries.map((e) => e.name)).toEqual(["ärla/list.csv", "plain.csv"]);
		expect(contents.map((c) => c.ok && new TextDecoder().decode(c.value))).toEqual(["a;b\n".repeat(50), "x"]);
	});

	it("is told by its content; folders are no files; names of old programs are read by their code page", async () => {
		expect([isZip(zipOf([])), isZip(text("PK")), isZip(text("ISO-10303-21;"))]).toEqual([true, false, false]);
		const zip = await opened(
			zipOf([
				{ name: "parts/" },
				{ name: "parts/drum.step", data: text("x") },
				{ name: Buffer.from([0x84, 0x2e, 0x63]), flags: 0 },
			]),
		);
		// 0x84 is ä in code page 437, which the format was made with
		expect(zip.entries.map((e) => e.name)).toEqual(["parts/drum.step", "ä.c"]);
		expect(zip.findings).toEqual([]);
	});

	it.each<[string, readonly Packed[], string, string]>([
		["a name that leads out", [{ name: "../x.csv" }], "zip-path", "../x.csv"],
		["one that leads out by the other slash", [{ name: "a\\..\\..\\x.csv" }], "zip-path", "a/../../x.csv"],
		["one from the root", [{ name: "/etc/passwd" }], "zip-path", "/etc/passwd"],
		["one of a drive", [{ name: "C:x.csv" }], "zip-path", "C:x.csv"],
		["a link", [{ name: "x.csv", mode: 0o120777 }], "zip-link", "x.csv"],
		["a locked file", [{ name: "x.csv", flags: 0x801 }], "zip-locked", "x.csv"],
		["another method", [{ name: "x.csv", method: 14 }], "zip-method", "x.csv"],
		["one beyond the limit of a file", [{ name: "x.csv", says: { size: 300 * 1024 * 1024 } }], "zip-part-too-large", "x.csv"],
	])("names %s and offers the rest", async (_, files, code, name) => {
		const zip = await opened(zipOf([...files, { name: "good.csv", data: text("1") }]));
		expect(zip.entries.map((e) => e.name)).toEqual(["good.csv"]);
		expect(zip.findings).toMatchObject([{ code, severity: "wrong", place: { path: name }, actual: name }]);
	});

	it("offers none of two that have the same name", async () => {
		const zip = await opened(zipOf([{ name: "a.csv" }, { name: "b.csv" }, { name: "a.csv" }]));
		expect(zip.entries.map((e) => e.name)).toEqual(["b.csv"]);
		expect(zip.findings.map((f) => f.code)).toEqual(["zip-entry-twice", "zip-entry-twice"]);
	});

	it("is refused before anything is unpacked when it would become too large, or holds too many", async () => {
		const limits = { entries: 2, part: 10, unpacked: 15 };
		const of = (...sizes: number[]) => zipOf(sizes.map((n, i) => ({ name: `${i}`, data: new Uint8Array(n) })));
		expect(codeOf(await openZip(of(10, 5), limits))).toBe("ok");
		expect(codeOf(await openZip(of(10, 6), limits))).toBe("unpacks-too-large");
		expect(codeOf(await openZip(of(1, 1, 1), limits))).toBe("too-many-entries");
	});

	it("stops at a file that is larger or other than it says", async () => {
		const read = async (file: Packed) => {
			const [entry] = (await opened(zipOf([file]))).entries;
			const result = await entry?.read();
			return result?.ok === false ? result.issues[0] : result;
		};
		// a bomb: a megabyte of zeros that says it is ten bytes
		expect(await read({ name: "bomb", data: new Uint8Array(1_000_000), says: { size: 10 } })).toMatchObject({
			code: "zip-broken",
			path: "bomb",
		});
		expect(await read({ name: "short", data: text("abc"), says: { size: 10 } })).toMatchObject({ code: "zip-broken" });
		expect(await read({ name: "other", data: text("abc"), says: { crc: 1 } })).toMatchObject({
			code: "zip-broken",
			path: "other",
		});
	});

	it("cut off or changed anywhere is refused or read, and never throws", async () => {
		const whole = zipOf([
			{ name: "a.csv", data: text("name;density\nAlfa;7.85") },
			{ name: "b.csv", data: text("x"), method: 0 },
		]);
		for (let n = 0; n < whole.length; n++) {
			expect(codeOf(await openZip(whole.subarray(0, n)))).toBe("zip-broken");
			for (const change of [0xff, 0x01]) {
				const changed = Uint8Array.from(whole, (b, i) => (i === n ? b ^ change : b));
				const zip = await openZip(changed);
				if (zip.ok) for (const entry of zip.value.entries) await entry.read();
			}
		}
	});
});
