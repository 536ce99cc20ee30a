import { describe, expect, it } from "vitest";
import { guessPurpose, sizeText } from "../../../shared/fileWords";

describe("attachments in words", () => {
	it("guesses a purpose from name and content", () => {
		const guesses = [
			"Heat 0417 cert.pdf",
			"tensile 3 specimens.csv",
			"TDS bronze.pdf",
			"bush.inp",
			"fracture.jpg",
			"plate.step",
			"x.bin",
		];
		const formats = ["PDF", "text", "PDF", "text", "JPEG", "STEP", "unknown"];
		expect(guesses.map((name, i) => guessPurpose(name, formats[i] as string))).toEqual([
			"certificate",
			"test-report",
			"data-sheet",
			"solver-file",
			"picture",
			"drawing",
			"other",
		]);
	});

	it("says sizes shortly", () => {
		expect([900, 2048, 3.25 * 1024 * 1024].map(sizeText)).toEqual(["900 bytes", "2 kB", "3.25 MB"]);
	});
});
