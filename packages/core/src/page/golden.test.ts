import { readFileSync, writeFileSync } from "node:fs";
import { expect, it } from "vitest";
import { sheetsIn } from "../../../../fixtures/sheets";
import { readPage } from "./index";

/**
 * Everything that is read of every page, and not only the values that its answers name: what is asked and why, what each
 * number became, tables, curves, composition. A change of the reader shows here, to be looked at; then
 * `UPDATE_READ=1 npx vitest run --project core packages/core/src/page/golden` writes it anew.
 */
const FOLDERS = ["sheets", "sheets-new", "sheets-later", "sheets-last", "sheets-unseen", "pages"] as const;

it.each(FOLDERS)("pages of fixtures/%s read as they did", (folder) => {
	const file = new URL(`../../../../fixtures/read/${folder}.json`, import.meta.url);
	const read = Object.fromEntries(
		sheetsIn(folder).map(({ name, text }) => {
			const page = readPage(text);
			if (!page.ok) return [name, page.issues];
			const { lines: _, ...rest } = page.value;
			return [name, rest];
		}),
	);
	const written = JSON.stringify(read, null, "\t");
	if (process.env.UPDATE_READ !== undefined) writeFileSync(file, `${written}\n`);
	expect(JSON.parse(written)).toEqual(JSON.parse(readFileSync(file, "utf8")));
});
