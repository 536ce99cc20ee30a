import { describe, expect, it } from "vitest";
import { browserFiles, cpuSeconds, report, unitFiles } from "./test-times.mjs";

describe("where the time of a run went", () => {
	it("reads processor time of ended children also behind a name with brackets and blanks", () => {
		const stat = `7 (a ) b) S ${Array.from({ length: 30 }, (_, i) => i + 4).join(" ")}`;
		// proc(5) counts from 1: cutime is field 16, cstime 17, in hundredths
		expect(cpuSeconds(stat)).toBeCloseTo((16 + 17) / 100, 10);
		expect(cpuSeconds("")).toBeNaN();
	});

	it("adds a browser file's tests, tries and groups; a Vitest file is its own span", () => {
		const spec = (...ms) => ({ tests: [{ results: ms.map((duration) => ({ duration })) }] });
		expect(browserFiles([{ file: "a.spec.ts", specs: [spec(1000, 2000)], suites: [{ specs: [spec(500)] }] }])).toEqual([
			{ name: "a.spec.ts", seconds: 3.5, browser: true },
		]);
		expect(unitFiles({ testResults: [{ name: "/x", startTime: 1000, endTime: 3500 }] })[0].seconds).toBe(2.5);
	});

	it("tells the slowest first, and browser files over their limit, other files not", () => {
		const files = [
			{ name: "quick", seconds: 1, browser: true },
			{ name: "long", seconds: 91, browser: true },
			{ name: "model", seconds: 500, browser: false },
			...Array.from({ length: 10 }, (_, i) => ({ name: `f${i}`, seconds: 2, browser: false })),
		];
		const text = report({ steps: [{ name: "unit", wall: 61, cpu: Number.NaN }], files, wall: 75.4 });
		expect(text).toContain("unit: 1 min 01 s\n");
		expect(text).toContain("all: 1 min 15 s");
		expect(text.indexOf("model")).toBeLessThan(text.indexOf("long"));
		expect(text).not.toContain("quick");
		expect(text.match(/split it/g)).toHaveLength(1);
		expect(text).toContain("long takes over 90 s");
	});
});
