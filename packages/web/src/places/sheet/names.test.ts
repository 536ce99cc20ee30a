import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { designationsIn, designationsText, linksIn, linksText } from "./names";

/** Words without the marks that part them. */
const word = fc.string({ unit: fc.constantFrom(..."aBz9-. /ü"), minLength: 1, maxLength: 12 }).map((s) => s.trim());
const name = word.filter((w) => w !== "");

describe("names typed in one line", () => {
	it("of a system, of a place, or of nothing", () => {
		expect(designationsIn("GB-5; OS 12: G-5")).toEqual([{ text: "GB-5" }, { system: "OS 12", text: "G-5" }]);
		expect(linksIn(" drawing office:BZ-5 ;4471;; 4471 ")).toEqual([
			{ scope: "drawing office", name: "BZ-5" },
			{ scope: "", name: "4471" },
		]);
	});

	it("keep a colon that nothing stands before or after", () => {
		expect(linksIn("a:; :b")).toEqual([
			{ scope: "", name: "a:" },
			{ scope: "", name: ":b" },
		]);
		expect(linksIn("drawing: sheet 7: B")).toEqual([{ scope: "drawing", name: "sheet 7: B" }]);
	});

	it("are read as they are shown", () => {
		const link = fc.record({ scope: fc.oneof(fc.constant(""), name), name });
		fc.assert(
			fc.property(fc.uniqueArray(link, { maxLength: 5, selector: (l) => `${l.scope}:${l.name}` }), (links) => {
				expect(linksIn(linksText(links))).toEqual(links);
				const designations = links.map((l) => (l.scope === "" ? { text: l.name } : { system: l.scope, text: l.name }));
				expect(designationsIn(designationsText(designations))).toEqual(designations);
			}),
		);
	});
});
