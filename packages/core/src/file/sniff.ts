/** What the content of a file looks like, whatever its name says. */
export type Sniffed = {
	readonly format: string;
	/** Set for pictures that may be shown. */
	readonly picture: { readonly type: string; readonly width: number; readonly height: number } | null;
};

/** Endings that files of a format usually have; a format that is not here has any. */
export const ENDINGS: Readonly<Record<string, readonly string[]>> = {
	PDF: ["pdf"],
	ZIP: ["zip", "xlsx", "docx", "odt", "ods", "pptx", "jar", "3mf"],
	gzip: ["gz", "tgz"],
	"7-Zip": ["7z"],
	GIF: ["gif"],
	TIFF: ["tif", "tiff"],
	PNG: ["png"],
	JPEG: ["jpg", "jpeg"],
	WebP: ["webp"],
	"Windows program": ["exe", "dll"],
	"Linux program": ["", "so", "bin"],
	HDF5: ["h5", "hdf5"],
	STEP: ["step", "stp", "p21"],
	SVG: ["svg"],
	HTML: ["html", "htm"],
	XML: ["xml"],
	JSON: ["json"],
};

const SIGNATURES: readonly (readonly [format: string, bytes: readonly number[]])[] = [
	["PDF", [0x25, 0x50, 0x44, 0x46, 0x2d]],
	["ZIP", [0x50, 0x4b, 0x03, 0x04]],
	["gzip", [0x1f, 0x8b]],
	["7-Zip", [0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c]],
	["GIF", [0x47, 0x49, 0x46, 0x38]],
	["TIFF", [0x49, 0x49, 0x2a, 0x00]],
	["TIFF", [0x4d, 0x4d, 0x00, 0x2a]],
	["Windows program", [0x4d, 0x5a]],
	["Linux program", [0x7f, 0x45, 0x4c, 0x46]],
	["HDF5", [0x89, 0x48, 0x44, 0x46]],
];

/**
 * Tells the format by signature, and the size of a PNG, JPEG or WebP from its header. Never decodes anything.
 * @param bytes the whole file, or its first part
 */
export function sniff(bytes: Uint8Array): Sniffed {
	const picture = png(bytes) ?? jpeg(bytes) ?? webp(bytes);
	if (picture !== null) return picture;
	const found = SIGNATURES.find(([, signature]) => signature.every((b, i) => bytes[i] === b));
	if (found !== undefined) return { format: found[0], picture: null };
	const head = bytes.subarray(0, 4096);
	const isText = head.every((b) => b >= 0x20 || b === 0x09 || b === 0x0a || b === 0x0d);
	return {
		format: isText
			? formatOfText(
					String.fromCharCode(...head)
						.trimStart()
						.toLowerCase(),
				)
			: "unknown",
		picture: null,
	};
}

/** By how a text begins; anything that a browser might run is named before anything milder. */
function formatOfText(text: string): string {
	if (/^iso-10303-21/.test(text)) return "STEP";
	if (/<!doctype html|<html[\s>]|<script[\s>]|<body[\s>]|<iframe[\s>]/.test(text))
		return /^(<\?xml[^>]*>\s*)?<svg/.test(text) ? "SVG" : "HTML";
	if (/<svg[\s>]/.test(text)) return "SVG";
	if (/^<\?xml|^<[a-z]/.test(text)) return "XML";
	return /^[[{]/.test(text) ? "JSON" : "text";
}

function u16(b: Uint8Array, at: number): number {
	return (b[at] ?? 0) * 256 + (b[at + 1] ?? 0);
}

function shown(format: string, width: number, height: number): Sniffed | null {
	if (width === 0 || height === 0) return null;
	return { format, picture: { type: `image/${format.toLowerCase()}`, width, height } };
}

/** Signature, then IHDR with width and height (PNG specification, 5.2 and 11.2.2). */
function png(b: Uint8Array): Sniffed | null {
	const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
	if (!signature.every((x, i) => b[i] === x) || String.fromCharCode(...b.subarray(12, 16)) !== "IHDR") return null;
	const size = (at: number): number => u16(b, at) * 65536 + u16(b, at + 2);
	return shown("PNG", size(16), size(20));
}

/** Walks the segments to the start of frame, whose payload holds height and width (ITU-T T.81, B.2.2). */
function jpeg(b: Uint8Array): Sniffed | null {
	if (b[0] !== 0xff || b[1] !== 0xd8) return null;
	for (let at = 2; at + 9 < b.length; ) {
		if (b[at] !== 0xff) return null;
		const marker = b[at + 1] ?? 0;
		const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
		if (isFrame) return shown("JPEG", u16(b, at + 7), u16(b, at + 5));
		const length = u16(b, at + 2);
		if (length < 2) return null;
		at += 2 + length;
	}
	return null;
}

/** RIFF container with a VP8, VP8L or VP8X chunk (RFC 9649). */
function webp(b: Uint8Array): Sniffed | null {
	const text = (at: number): string => String.fromCharCode(...b.subarray(at, at + 4));
	if (text(0) !== "RIFF" || text(8) !== "WEBP") return null;
	const little = (at: number, bytes: number): number => {
		let x = 0;
		for (let i = bytes - 1; i >= 0; i--) x = x * 256 + (b[at + i] ?? 0);
		return x;
	};
	switch (text(12)) {
		case "VP8X":
			return shown("WebP", little(24, 3) + 1, little(27, 3) + 1);
		case "VP8L": {
			const bits = little(21, 4);
			return shown("WebP", (bits & 0x3fff) + 1, ((bits >>> 14) & 0x3fff) + 1);
		}
		case "VP8 ":
			return shown("WebP", little(26, 2) & 0x3fff, little(28, 2) & 0x3fff);
		default:
			return null;
	}
}
