import { type MaterialValue, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { changeNote, tellApart } from "./apart";

function value(extra: Partial<MaterialValue> = {}, text = "8.7 g/cm3"): MaterialValue {
	const made = makeValue("density", text, {}, extra as never);
	if (!made.ok) throw new Error(JSON.stringify(made.issues));
	return made.value;
}
const base = { name: "Havrin 4", uid: "u", revision: 3 };

describe("telling two contents of a value apart", () => {
	it("names the evidence when that alone was changed", () => {
		expect(tellApart(value({ evidence: "data-sheet" }), value({ evidence: "measured" }), "engineering")).toEqual([
			["data sheet"],
			["measured"],
		]);
		expect(tellApart(value(), value({ evidence: "measured", basis: "mean" }), "engineering")).toEqual([
			["no evidence"],
			["measured", "mean"],
		]);
	});

	it("says nothing of what both share, also where the numbers differ", () => {
		const said = { evidence: "measured", condition: "at 20 °C" } as const;
		expect(tellApart(value(said), value(said, "8.8 g/cm3"), "engineering")).toEqual([[], []]);
	});

	it("names sources, what works and what follows", () => {
		expect(tellApart(value({ source: "sheet 7" }), value({ sourceId: "lab" }), "engineering")).toEqual([
			["source sheet 7"],
			["source of the record"],
		]);
		const range = "8.6-8.8 g/cm3";
		expect(tellApart(value({}, range), value({ working: { any: "low" } } as never, range), "engineering")[1]).toEqual([
			"works with 8.6, chosen",
		]);
		expect(tellApart(value({ carried: base }), value(), "engineering")).toEqual([["carried over from Havrin 4"], []]);
		expect(tellApart(value({ follows: base }), value({ follows: { ...base, revision: 4 } }), "engineering")).toEqual([
			["follows Havrin 4, revision 3"],
			["follows Havrin 4, revision 4"],
		]);
	});

	it("beside a blank tells only that it was carried over or follows", () => {
		expect(tellApart(null, value({ evidence: "measured", basis: "mean" }), "engineering")).toEqual([[], []]);
		expect(tellApart(null, value({ evidence: "measured", carried: base }), "engineering")).toEqual([
			[],
			["carried over from Havrin 4"],
		]);
	});
});

describe("what kind of change a line tells", () => {
	const note = (from: MaterialValue | null, to: MaterialValue | null) => changeNote({ at: "density", from, to } as never);

	it("is a share of the number it works with", () => {
		expect(note(value({}, "8.0 g/cm3"), value({}, "8.2 g/cm3"))).toBe("+2.5 %");
		expect(note(value({}, "8.0 g/cm3"), value({}, "7.2 g/cm3"))).toBe("−10 %");
		// the same number in another unit is no change
		expect(note(value({}, "8.0 g/cm3"), value({}, "8000 kg/m3"))).toBe("");
		// the middle of 8.0 to 8.4 is 8.2
		expect(note(value({}, "8.0 g/cm3"), value({}, "8.0-8.4 g/cm3"))).toBe("+2.5 %");
		expect(note(value({}, "1 kg/m3"), value({}, "1 g/cm3"))).toBe("+99900 %");
	});

	it("is none for temperatures, whose scale begins anywhere", () => {
		const melts = (text: string): MaterialValue => {
			const made = makeValue("solidus_temperature", text);
			if (!made.ok) throw new Error();
			return made.value;
		};
		expect(changeNote({ at: "solidus_temperature", from: melts("500 °C"), to: melts("510 °C") } as never)).toBe("");
	});

	it("is a word where nothing can be divided", () => {
		expect([note(null, value()), note(value(), null)]).toEqual(["added", "removed"]);
		expect(note(value({ carried: base }), value())).toBe("confirmed");
		expect(changeNote({ at: "field:notes", from: "a", to: "b" } as never)).toBe("words");
		expect(changeNote({ at: "field:colour", from: "#111111", to: "#222222" } as never)).toBe("look");
	});
});
