import { endingOf } from "@alvek/core/file";
import type { Attachment } from "@alvek/core/material";

export const PURPOSE_WORD = {
	certificate: "certificate",
	"test-report": "test report",
	"data-sheet": "data sheet",
	drawing: "drawing",
	"solver-file": "solver file",
	picture: "picture",
	other: "other",
} as const satisfies Record<Attachment["purpose"], string>;

const SOLVER_ENDINGS = new Set(["inp", "dat", "bdf", "nas", "cdb", "k", "key", "mat", "rad", "comm", "med"]);

/** The likeliest purpose by name and content; a person says otherwise with one choice. */
export function guessPurpose(name: string, format: string): Attachment["purpose"] {
	const text = name.toLowerCase();
	if (/cert|3\.1|zeugnis|mill.?test/.test(text)) return "certificate";
	if (/report|bericht|tensile|test/.test(text)) return "test-report";
	if (/data.?sheet|datenblatt|tds/.test(text)) return "data-sheet";
	if (SOLVER_ENDINGS.has(endingOf(name))) return "solver-file";
	if (["PNG", "JPEG", "WebP", "GIF", "TIFF"].includes(format)) return "picture";
	return format === "STEP" || /drawing|zeichnung/.test(text) ? "drawing" : "other";
}

/** `3.2 MB`, in steps of 1024. */
export function sizeText(bytes: number): string {
	if (bytes < 1024) return `${bytes} bytes`;
	const [value, unit] = bytes < 1024 * 1024 ? [bytes / 1024, "kB"] : [bytes / 1024 / 1024, "MB"];
	return `${Number(value.toPrecision(3))} ${unit}`;
}
