import { unpackColumns } from "@alvek/core/table";
import { CROWD_PROPERTIES, random } from "./lib/crowd";
import { crowdInstallation } from "./lib/crowd-db";

/** Finding over HTTP among 100,000 materials x 40 properties; beside it the smallest request there is, in the same run. */
const N = Number(process.env.ROWS ?? 100_000);
const crowd = await crowdInstallation(N, null);
const next = random(3);
const packed = await fetch(
	`${crowd.base}/api/v1/materials-columns?properties=${CROWD_PROPERTIES.slice(0, 5)
		.map((p) => p.id)
		.join(",")}`,
	{ headers: crowd.headers },
);
const columns = await packed.arrayBuffer();
const unpacked = unpackColumns(columns);
if (!unpacked.ok) throw new Error("columns do not unpack");
const ranges = [...unpacked.value.columns].map(([property, { working }]) => ({ property, sorted: working.slice().sort() }));
const quantile = (x: readonly number[], q: number): number =>
	[...x].sort((a, b) => a - b)[Math.min(x.length - 1, Math.floor(x.length * q))] ?? 0;

async function ask(path: string): Promise<{ ms: number; total: number; bytes: number }> {
	const start = performance.now();
	const response = await fetch(`${crowd.base}/api/v1${path}`, { headers: { ...crowd.headers, "Accept-Encoding": "gzip" } });
	const text = await response.text();
	const ms = performance.now() - start;
	return { ms, total: (JSON.parse(text) as { value: { total?: number } }).value.total ?? 0, bytes: text.length };
}

/** Five other ranges each time, so that nothing but the text is known already. */
function question(): string {
	const where = ranges.map(({ property, sorted }) => {
		const at = (share: number): number => sorted[Math.floor(sorted.length * share)] as number;
		return `${property}:${at(0.1 * next())}..${at(0.75 + 0.2 * next())}`;
	});
	return `/materials?${new URLSearchParams({ text: "marine", library: "library-1,library-2,library-3", ready: "mass", where: where.join(","), limit: "60", values: "density,youngs_modulus,shear_modulus,specific_heat" })}`;
}

await ask(question());
const filters = { ms: [] as number[], total: [] as number[] };
const session: number[] = [];
const finder: number[] = [];
for (let i = 0; i < 60; i++) {
	const { ms, total } = await ask(question());
	filters.ms.push(ms);
	filters.total.push(total);
	session.push((await ask("/session")).ms);
	if (i % 3 === 0) finder.push((await ask(`/search?text=${i % 2 === 0 ? "havrin+mar" : "gugdeon"}`)).ms);
}
console.log(
	JSON.stringify({
		bench: "finding",
		rows: N,
		question: "five ranges, text, two facets chosen, ten facets counted, first 60 rows with four columns of values, over HTTP",
		hits_median: quantile(filters.total, 0.5),
		median_ms: Number(quantile(filters.ms, 0.5).toFixed(1)),
		p95_ms: Number(quantile(filters.ms, 0.95).toFixed(1)),
		goal: "< 50 ms",
		smallest_request_ms: Number(quantile(session, 0.5).toFixed(1)),
		finder_p95_ms: Number(quantile(finder.slice(2), 0.95).toFixed(1)),
		five_columns_bytes: columns.byteLength,
		load_ms: crowd.loadMs,
		rss_mb: Math.round(process.memoryUsage().rss / 1e6),
	}),
);
await crowd.close();
