import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cleanFileName, mismatch, sniff } from "./index";

const ascii = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const bytes = (...parts: (string | number[])[]): Uint8Array =>
	Uint8Array.from(parts.flatMap((p) => (typeof p === "string" ? [...ascii(p)] : p)));

// headers written out by hand after the specifications named in sniff.ts
const PNG = bytes([0x89], "PNG\r\n", [0x1a, 0x0a, 0, 0, 0, 13], "IHDR", [0, 0, 1, 0x40, 0, 0, 0, 0xf0, 8, 2, 0, 0, 0]);
const JPEG = bytes([0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 2, 0xff, 0xc0, 0, 11, 8, 0, 0xf0, 1, 0x40, 1, 0, 0, 0, 0, 0]);
const WEBP = bytes("RIFF", [0, 0, 0, 0], "WEBPVP8X", [10, 0, 0, 0, 0, 0, 0, 0, 0x3f, 1, 0, 0xef, 0, 0]);

describe("what a file looks like", () => {
	it.each([
		["PNG", PNG],
		["JPEG", JPEG],
		["WebP", WEBP],
	])("%s with its size, 320 by 240", (format, file) => {
		expect(sniff(file)).toEqual({ format, picture: { type: `image/${format.toLowerCase()}`, width: 320, height: 240 } });
	});

	it.each([
		["PDF", "%PDF-1.7 ..."],
		["HTML", "  <!DOCTYPE html><title>x</title>"],
		["HTML", "hello <script>alert(1)</script>"],
		["SVG", '<?xml version="1.0"?><svg xmlns="x"><script>alert(1)</script></svg>'],
		["XML", "<material/>"],
		["JSON", '{"a":1}'],
		["STEP", "ISO-10303-21;HEADER;"],
		["text", "density, 2700"],
		["ZIP", "PK\x03\x04rest"],
		["Windows program", "MZ\x90\x00"],
	])("%s by its content", (format, text) => {
		expect(sniff(ascii(text))).toEqual({ format, picture: null });
	});

	it("never takes anything else for a picture, and never throws", () => {
		fc.assert(
			fc.property(fc.uint8Array({ maxLength: 300 }), (file) => {
				const { picture } = sniff(file);
				if (picture !== null) expect(picture.width * picture.height).toBeGreaterThan(0);
			}),
		);
		// a picture that ends before it says its size
		expect(sniff(JPEG.subarray(0, 12)).picture).toBeNull();
		expect(sniff(PNG.subarray(0, 8)).format).toBe("unknown");
	});
});

describe("names of files", () => {
	it("lose folders, control characters and dots at the ends", () => {
		const clean = (name: string): string => {
			const read = cleanFileName(name);
			return read.ok ? read.value : (read.issues[0]?.code ?? "");
		};
		expect(clean("../../etc/passwd")).toBe("passwd");
		expect(clean("C:\\certs\\heat 0417.pdf")).toBe("heat 0417.pdf");
		expect(clean("a\u0000b\u202e.pdf")).toBe("ab.pdf");
		expect(clean('x"><b>.txt')).toBe("x___b_.txt");
		expect(clean("..")).toBe("name-missing");
		expect(clean("a/")).toBe("name-missing");
		expect(clean(`${"x".repeat(400)}.pdf`)).toMatch(/^x{116}\.pdf$/);
	});

	it("never become a path", () => {
		fc.assert(
			fc.property(fc.string({ maxLength: 300 }), (name) => {
				const read = cleanFileName(name);
				if (!read.ok) return;
				expect(read.value).not.toMatch(/[/\\]|\p{Cc}|^\./u);
				expect(read.value.length).toBeLessThanOrEqual(120);
			}),
		);
	});

	it("are told from content that says otherwise", () => {
		expect(mismatch("sheet.pdf", "HTML")).toContain("looks like HTML");
		expect(mismatch("sheet.pdf", "PDF")).toBeNull();
		expect(mismatch("model.inp", "text")).toBeNull();
		expect(mismatch("noending", "PDF")).toContain("ends in nothing");
	});
});
