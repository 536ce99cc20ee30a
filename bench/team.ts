import { readFileSync } from "node:fs";
import { serverProcess } from "./lib/process";
import { assemble, quantile } from "./lib/team";

/** Twenty people edit, publish and assign for two minutes; nothing is lost, nobody sees a failure of ours. */
const SECONDS = Number(process.env.LOAD_SECONDS ?? 120);
const PEOPLE = Number(process.env.PEOPLE ?? 20);
const server = await serverProcess();
await server.start();
const team = await assemble(server.base, {
	sessions: PEOPLE,
	geometry: readFileSync("fixtures/nested.step"),
	seed: 1,
	kills: false,
});
setTimeout(team.stop, SECONDS * 1000);
await team.work();
const { reads_ms, writes_ms, refused, wrong } = team.figures;
const counts = { reads: reads_ms.length, writes: writes_ms.length };
const p95 = {
	reads_p95_ms: quantile(reads_ms, 0.95),
	writes_p95_ms: quantile(writes_ms, 0.95),
	writes_max_ms: quantile(writes_ms, 1),
	// one person's wait is another's: what reads gain writes may lose
	all_p95_ms: quantile([...reads_ms, ...writes_ms], 0.95),
	per_second: (counts.reads + counts.writes) / SECONDS,
};
const lost = await team.missing(true);
const code = await server.stop();
const verified = server.verify();
console.log(
	JSON.stringify({
		bench: "team",
		people: PEOPLE,
		seconds: SECONDS,
		...counts,
		...Object.fromEntries(Object.entries(p95).map(([k, v]) => [k, Number(v.toFixed(1))])),
		refused: Object.fromEntries(refused),
		failures: wrong.length,
		lost: lost.length,
		stopped_with: code,
		verified: verified === "" ? "clean" : verified,
	}),
);
for (const line of [...wrong.slice(0, 5), ...lost.slice(0, 5)]) console.error(line);
server.remove();
process.exitCode = wrong.length + lost.length === 0 && verified === "" && code === 0 ? 0 : 1;
