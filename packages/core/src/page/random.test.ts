import { expect, it } from "vitest";
import { sheetsIn } from "../../../../fixtures/sheets";
import { seeded } from "../quantity/testing";
import { readPage } from "./index";
import { brokenPromise, mutatedPage } from "./testing";

const LINES = sheetsIn("sheets", "sheets-new", "sheets-later", "sheets-last", "sheets-unseen", "pages")
	.flatMap(({ text }) => text.split(/\r?\n/))
	.filter((l) => l.trim() !== "");

it("6,000 pages changed at random: every run of digits has one fate, and nothing throws", () => {
	const next = seeded(12);
	for (let i = 0; i < 6_000; i++) {
		const text = mutatedPage(next, LINES);
		const read = readPage(text);
		if (!read.ok) throw new Error(JSON.stringify(read.issues));
		expect(brokenPromise(read.value), `page ${i}: ${JSON.stringify(text)}`).toBeNull();
	}
});
