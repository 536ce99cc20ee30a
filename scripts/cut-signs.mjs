// Cuts the few signs that the text font lacks out of a math font: the same on every machine, 4 kB instead of 500.
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { fileURLToPath } from "node:url";

export async function cutSigns() {
	const { default: subsetFont } = await import("subset-font");
	const require = createRequire(import.meta.url);
	const source = require.resolve("@fontsource/noto-sans-math/files/noto-sans-math-latin-400-normal.woff2");
	const signs = "⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻₀₁₂₃₄₅₆₇₈₉←→√≈≤≥";
	const cut = await subsetFont(await readFile(source), signs, { targetFormat: "woff2" });
	const target = fileURLToPath(new URL("../packages/web/src/fonts/signs.woff2", import.meta.url));
	await mkdir(fileURLToPath(new URL("../packages/web/src/fonts", import.meta.url)), { recursive: true });
	await writeFile(target, cut);
}
