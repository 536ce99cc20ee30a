import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { describeIssue } from "../result";
import { occurrences, readStep } from "./index";
import { decodeText } from "./parameters";

const file = (name: string): string => readFileSync(new URL(`../../../../fixtures/${name}`, import.meta.url), "utf8");
const NESTED = file("nested.step");
const MOUNT = file("mount.step");

const code = (text: string): string | undefined => {
	const result = readStep(text);
	return result.ok ? "ok" : result.issues[0]?.code;
};

describe("reading a STEP file's text", () => {
	it("finds names, numbers, tree and units of a nested assembly", () => {
		const result = readStep(NESTED);
		if (!result.ok) throw new Error(result.issues.map(describeIssue).join());
		const expected = JSON.parse(file("nested.expected.json")) as {
			occurrences: { path: string; name: string; part_id: string }[];
		};
		const found = occurrences(result.value).filter((o) => (result.value.products[o.product]?.solids.length ?? 0) > 0);
		expect(found.map((o) => [o.path, result.value.products[o.product]?.name, result.value.products[o.product]?.id])).toEqual(
			expected.occurrences.map((o) => [o.path, o.name, o.part_id]),
		);
		expect(result.value.lengthUnit).toBe(1e-3);
	});

	it("reads nine flat parts with their colours", () => {
		const result = readStep(MOUNT);
		if (!result.ok) throw new Error();
		expect(result.value.roots.length).toBe(9);
		// 0.7618, 0.7741, 0.7954 of 255
		expect(result.value.products[0]?.solids[0]?.colour).toBe("#c2c5cb");
	});

	it("reads inches as 25.4 mm through a conversion-based unit", () => {
		const inch = NESTED.replace(
			"#5=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.));",
			"#5=(CONVERSION_BASED_UNIT('INCH',#9001)LENGTH_UNIT()NAMED_UNIT(#9002));#9001=LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(25.4),#9003);#9002=DIMENSIONAL_EXPONENTS(1.,0.,0.,0.,0.,0.,0.);#9003=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.));",
		);
		const result = readStep(inch);
		expect(result.ok && result.value.lengthUnit).toBeCloseTo(0.0254, 15);
	});

	it("undoes the encodings of strings", () => {
		expect(decodeText("Sheave \\X2\\00D8\\X0\\90")).toBe("Sheave Ø90");
		expect(decodeText("it''s \\X\\E9")).toBe("it's é");
		expect(decodeText("\\X4\\0001F600\\X0\\")).toBe("\u{1F600}");
	});
});

describe("files that must not reach a kernel", () => {
	const line = (text: string): number | undefined => {
		const result = readStep(text);
		return result.ok ? undefined : result.issues[0]?.line;
	};

	it.each([
		["a text file", "hello world", "not-step"],
		["an empty file", "", "not-step"],
		["a truncated file", NESTED.slice(0, 9000), "truncated"],
		["a file cut right before its end", NESTED.slice(0, NESTED.lastIndexOf("ENDSEC")), "truncated"],
		["a NaN coordinate", MOUNT.replace("(-60.,-90.,0.)", "(-60.,NaN,0.)"), "not-finite-coordinate"],
		["a coordinate beyond any double", MOUNT.replace("(-60.,-90.,0.)", "(-60.,1.E999,0.)"), "not-finite-coordinate"],
		["a printed NaN", MOUNT.replace("(-60.,-90.,0.)", "(-60.,-1.#IND,0.)"), "not-finite-coordinate"],
		["a dangling reference", NESTED.replace("#15=CARTESIAN_POINT('',(0.,0.,0.));", ""), "dangling-reference"],
		["a missing parameter", NESTED.replace("VECTOR('',#39,60.)", "VECTOR('',#39)"), "missing-parameter"],
		[
			"a solid that contains itself",
			NESTED.replace(/#240=MANIFOLD_SOLID_BREP\('([^']*)',#\d+\)/, "#240=MANIFOLD_SOLID_BREP('$1',#240)"),
			"reference-loop",
		],
		[
			"an assembly that contains itself",
			NESTED.replace("'PB-20-1','Sheave:1','',#555,#413,$", "'PB-20-1','Sheave:1','',#555,#593,$"),
			"assembly-loop",
		],
		["a file without solids", NESTED.replaceAll("MANIFOLD_SOLID_BREP", "SHELL_BASED_SURFACE_MODEL"), "no-solids"],
		["a broken list", NESTED.replace("(-30.,-50.,0.)", "(-30.,-50.,0."), "syntax"],
		["a word where a number belongs", NESTED.replace("(-30.,-50.,0.)", "(-30.,abc,0.)"), "syntax"],
		["a number used twice", NESTED.replace("#16=DIRECTION", "#15=DIRECTION"), "duplicate-entity"],
	])("%s is refused", (_, text, expected) => {
		expect(code(text)).toBe(expected);
	});

	it.each([
		["a mark of the encoding", `\uFEFF${NESTED}`],
		["blank lines", `\n \r\n${NESTED}`],
		["a comment", `/* exported\n by hand */\n${NESTED}`],
		["a long comment", `/*${"x".repeat(3900)}*/${NESTED}`],
		["a blank before the semicolon", NESTED.replace("ISO-10303-21;", "ISO-10303-21 ;")],
		["two comments", `/* a *//* b **/\n${NESTED}`],
		["all of it", `\uFEFF \n/**/ ${NESTED}`],
	])("begins with %s like any other", (_, text) => expect(code(text)).toBe("ok"));

	it.each([
		["something else before it", `x${NESTED}`],
		["words between two comments", `/* a */x/* b */${NESTED}`],
		["a comment without an end", `/* ${NESTED}`],
		["a comment longer than any", `/*${"x".repeat(5000)}*/${NESTED}`],
		["another number", NESTED.replace("ISO-10303-21;", "ISO-10303-210;")],
		["words behind it", NESTED.replace("ISO-10303-21;", "ISO-10303-21 x;")],
	])("begins with %s and is no STEP file", (_, text) => expect(code(text)).toBe("not-step"));

	it("takes numbers of entities up to what 31 bits hold", () => {
		const renamed = (n: string): string | undefined => code(NESTED.replaceAll(/#10\b(?!\d)/g, `#${n}`));
		expect(renamed("2147483647")).toBe("ok");
		expect(renamed("2147483648")).not.toBe("ok");
		expect(renamed("")).not.toBe("ok");
	});

	it("every refusal of a file ends by saying that nothing came of it", () => {
		for (const text of ["hello", NESTED.slice(0, 9000), NESTED.replace("VECTOR('',#39,60.)", "VECTOR('',#39)")]) {
			const result = readStep(text);
			expect(result.ok ? "" : result.issues.map(describeIssue).join(" ")).toMatch(/Nothing was imported\.$/);
		}
	});

	it("names the solid with the bad coordinate, and the line", () => {
		const result = readStep(MOUNT.replace("(-60.,-90.,0.)", "(-60.,NaN,0.)"));
		const issue = result.ok ? undefined : result.issues[0];
		expect(issue?.path).toBe("the solid “Base casting”");
		expect(issue?.line).toBe(MOUNT.slice(0, MOUNT.indexOf("(-60.,-90.,0.)")).split("\n").length);
	});

	it("names the products of a loop, and tells lines of grammar errors", () => {
		const loop = readStep(NESTED.replace("'PB-20-1','Sheave:1','',#555,#413,$", "'PB-20-1','Sheave:1','',#555,#593,$"));
		expect(loop.ok ? "" : loop.issues[0]?.actual).toBe("Sheave set → Pulley block → Sheave set");
		expect(line(NESTED.replace("(-30.,-50.,0.)", "(-30.,abc,0.)"))).toBe(
			NESTED.slice(0, NESTED.indexOf("(-30.,-50.,0.)")).split("\n").length,
		);
	});

	it("refuses an assembly that doubles itself beyond any use", () => {
		const levels = Array.from({ length: 20 }, (_, i) => {
			const [a, f, p] = [8000 + 10 * i, 8001 + 10 * i, 8002 + 10 * i];
			const child = i === 0 ? 13 : 8002 + 10 * (i - 1);
			const twice = [1, 2]
				.map((n) => `#${8002 + 10 * i + n}=NEXT_ASSEMBLY_USAGE_OCCURRENCE('n','n','',#${p},#${child},$);`)
				.join("");
			return `#${a}=PRODUCT('L${i}','L${i}','',(#3));#${f}=PRODUCT_DEFINITION_FORMATION('','',#${a});#${p}=PRODUCT_DEFINITION('d','',#${f},#4);${twice}`;
		}).join("\n");
		const at = NESTED.lastIndexOf("ENDSEC");
		expect(code(`${NESTED.slice(0, at)}${levels}\n${NESTED.slice(at)}`)).toBe("too-many-occurrences");
	});

	it("refuses a chain of products deeper than any assembly, instead of overflowing a stack", () => {
		const chain = Array.from({ length: 3000 }, (_, i) => {
			const [a, f, p] = [8000 + 4 * i, 8001 + 4 * i, 8002 + 4 * i];
			const child = i === 0 ? 13 : 8002 + 4 * (i - 1);
			return `#${a}=PRODUCT('C${i}','C${i}','',(#3));#${f}=PRODUCT_DEFINITION_FORMATION('','',#${a});#${p}=PRODUCT_DEFINITION('d','',#${f},#4);#${8003 + 4 * i}=NEXT_ASSEMBLY_USAGE_OCCURRENCE('n','n','',#${p},#${child},$);`;
		}).join("\n");
		const at = NESTED.lastIndexOf("ENDSEC");
		expect(code(`${NESTED.slice(0, at)}${chain}\n${NESTED.slice(at)}`)).toBe("too-many-occurrences");
	});

	it("answers every mutation of a good file with a result, never with a throw", () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 0, max: NESTED.length - 1 }),
				fc.constantFrom("", "(", ")", ",", ";", "'", "#", "$", "NaN", "#999999", "#1"),
				(at, insert) => {
					expect(readStep(NESTED.slice(0, at) + insert + NESTED.slice(at + 1))).toHaveProperty("ok");
				},
			),
			{ seed: 21, numRuns: 400 },
		);
	});
});
