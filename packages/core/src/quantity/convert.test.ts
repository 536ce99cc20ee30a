import { describe, expect, it } from "vitest";
import { convertText } from "./convert";

const answer = (text: string) => {
	const read = convertText(text);
	return read === null ? null : `${read.to} ${read.unit}`;
};

describe("a quantity asked for in another unit", () => {
	// factors of NIST SP 811: 1 ksi = 6.894757 MPa, 1 lb/in3 = 27679.9 kg/m3, 1 in = 25.4 mm exactly
	it.each([
		["35 ksi in MPa", "241.317 MPa"],
		["0,25 in to mm", "6.35 mm"],
		["25.4 mm in in", "1 in"],
		["7850 kg/m3 in lb/in3", "0.283599 lb/in3"],
		["2.70 g/cm3 as kg/m3", "2700 kg/m3"],
		["20-25 °C to °F", "68–77 °F"],
		["300 K in °C", "26.85 °C"],
		["10 lbf in N", "44.4822 N"],
		["44.4822 N in lb", "10 lb"],
		["1 P in mPa s", "100 mPa s"],
		[">= 200 MPa in ksi", "≥ 29.0075 ksi"],
		["~ 300 MPa in ksi", "~ 43.5113 ksi"],
		["-40 °C in °F", "-40 °F"],
	])("%s", (text, expected) => expect(answer(text)).toBe(expected));

	it.each(["gudgeon in bronze", "35 in MPa", "35 ksi in kg", "35 ksi in", "in MPa", "35 ksi", "bar in steel", "x".repeat(300)])(
		"%s asks nothing",
		(text) => expect(answer(text)).toBeNull(),
	);
});
