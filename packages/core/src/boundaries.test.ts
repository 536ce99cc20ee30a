import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, describe, expect, it } from "vitest";

const root = fileURLToPath(new URL("../../../", import.meta.url));

const bench = mkdtempSync(join(tmpdir(), "alvek-boundaries-"));
const config = JSON.parse(readFileSync(join(root, "biome.json"), "utf8")) as Record<string, unknown>;
writeFileSync(join(bench, "biome.json"), JSON.stringify({ ...config, $schema: undefined, vcs: { enabled: false } }));
afterAll(() => rmSync(bench, { recursive: true, force: true }));

/** Lints a planted line in a copy of the layout, under the project's own rules. */
function lint(file: string, source: string): string {
	mkdirSync(dirname(join(bench, file)), { recursive: true });
	writeFileSync(join(bench, file), source);
	const run = spawnSync(join(root, "node_modules/.bin/biome"), ["lint", file, "--colors=off"], { cwd: bench, encoding: "utf8" });
	rmSync(join(bench, file));
	return run.stdout + run.stderr;
}

describe("boundaries: a planted violation is caught", () => {
	it.each([
		["packages/core/src/mass/planted.ts", 'import { readFileSync } from "node:fs";\nexport const x = readFileSync;\n'],
		["packages/core/src/mass/planted.ts", 'import { x } from "../quantity/unit";\nexport const y = x;\n'],
		["packages/contract/src/planted.ts", 'import { start } from "@alvek/server";\nexport const y = start;\n'],
		["packages/web/src/planted.ts", 'import { start } from "@alvek/server";\nexport const y = start;\n'],
		["packages/web/src/planted.ts", 'import { ROUTES } from "@alvek/contract/routes";\nexport const y = ROUTES;\n'],
		["packages/server/src/planted.ts", 'import { App } from "@alvek/web/App";\nexport const y = App;\n'],
	])("%s: %s", (file, source) => {
		expect(lint(file, source)).toContain("noRestrictedImports");
	});

	it.each([
		["useMaxParams", "export const f = (a: number, b: number, c: number, d: number, e: number): number => a + b + c + d + e;\n"],
		["noExcessiveLinesPerFunction", `export function f(): number {\n${"\tf();\n".repeat(81)}\treturn 1;\n}\n`],
		["noFloatingPromises", "const wait = async (): Promise<void> => undefined;\nexport function f(): void {\n\twait();\n}\n"],
	])("%s", (rule, source) => {
		expect(lint("packages/core/src/mass/planted.ts", source)).toContain(rule);
	});

	it("and what is allowed passes", () => {
		expect(
			lint("packages/core/src/mass/planted.ts", 'import { unitOf } from "../quantity";\nexport const y = unitOf;\n'),
		).not.toContain("noRestrictedImports");
	});
});
