import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { broken } from "../../../scripts/house.mjs";

let root: string;
beforeEach(() => {
	root = mkdtempSync(join(tmpdir(), "alvek-house-"));
});
afterEach(() => rmSync(root, { recursive: true, force: true }));

function plant(files: Readonly<Record<string, string>>): readonly string[] {
	for (const [file, text] of Object.entries(files)) {
		mkdirSync(dirname(join(root, file)), { recursive: true });
		writeFileSync(join(root, file), text);
	}
	return broken(root) as readonly string[];
}

const CORE = "packages/core/src";
const SERVER = "packages/server/src";
const WEB = "packages/web/src";

describe("the rules of the house: a planted violation is caught", () => {
	it("folders that stand on one another in a ring, also over a third", () => {
		const ring = plant({
			[`${SERVER}/a/index.ts`]: 'import { b } from "../b";\nexport const a = b;\n',
			[`${SERVER}/b/index.ts`]: 'export { c as b } from "../c";\n',
			[`${SERVER}/c/index.ts`]: 'export const c = () => import("../a");\n',
		});
		expect(ring).toHaveLength(1);
		expect(ring[0]).toContain("in a ring: a -> b");
	});

	it("and none where they only meet", () => {
		expect(
			plant({
				[`${CORE}/a/index.ts`]: 'import { c } from "../c";\nexport const a = c;\n',
				[`${CORE}/b/index.ts`]: 'import { c } from "../c";\nimport { a } from "../a";\nexport const b = [a, c];\n',
				[`${CORE}/c/index.ts`]: "export const c = 1;\n",
			}),
		).toEqual([]);
	});

	it("a face that is reached past, and a place that imports another", () => {
		const past = plant({
			[`${SERVER}/a/index.ts`]: "export {};\n",
			[`${SERVER}/a/inside.ts`]: "export const x = 1;\n",
			[`${SERVER}/b/one.ts`]: 'import { x } from "../a/inside";\nexport const y = x;\n',
			[`${WEB}/places/sheet/Line.tsx`]: "export const Line = 1;\n",
			[`${WEB}/places/parts/Part.tsx`]: 'import { Line } from "../sheet/Line";\nexport const Part = Line;\n',
		});
		expect(past).toEqual([
			`${SERVER}/b/one.ts: reaches past the face of a (../a/inside)`,
			`${WEB}/places/parts/Part.tsx: a place imports another place (places/sheet)`,
		]);
	});

	it("pixels where the theme has steps", () => {
		expect(
			plant({
				[`${WEB}/ui/One.tsx`]: 'export const one = "gap-[7px] w-[calc(100%-8px)]";\n',
				[`${WEB}/ui/Two.tsx`]: 'export const two = "gap-1.5 grid-cols-[1fr_40px]";\n',
			}),
		).toEqual([`${WEB}/ui/One.tsx: pixels instead of a step of the theme`]);
	});

	it("a type that is forced and does not say why", () => {
		const lines = plant({
			[`${CORE}/a/one.ts`]: "export const a = 1 as never;\nexport const b = 1 as unknown as string;\n",
			[`${CORE}/a/two.ts`]: "// the two are one\nexport const a = 1 as never;\nexport const b = 1 as unknown;\n",
			[`${CORE}/a/two.test.ts`]: "export const a = 1 as never;\n",
		});
		expect(lines).toEqual([1, 2].map((n) => `${CORE}/a/one.ts:${n}: a type is forced and no comment says why`));
	});

	it("SQL that is written elsewhere than in db/ and repo/, and a file that is too long", () => {
		const statement = "export const q = 'SELECT id FROM material WHERE id = $id';\n";
		const lines = plant({
			[`${SERVER}/repo/material.ts`]: statement,
			[`${SERVER}/materials/rows.ts`]: statement,
			[`${SERVER}/materials/words.ts`]: "export const say = 'Select one from the list';\n",
			[`${CORE}/a/long.ts`]: "export {};\n".repeat(401),
			[`${CORE}/a/long.data.ts`]: "export {};\n".repeat(401),
		});
		expect(lines).toEqual([
			`${CORE}/a/long.ts: 401 lines, of 400 at most`,
			`${SERVER}/materials/rows.ts: SQL outside db/ and repo/`,
		]);
	});
});
