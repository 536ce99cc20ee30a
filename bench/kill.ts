import { readFileSync } from "node:fs";
import { random } from "./lib/crowd";
import { serverProcess } from "./lib/process";
import { assemble } from "./lib/team";

/** SIGKILL at random moments under load; after each start everything confirmed is there, and verify finds nothing. */
const KILLS = Number(process.env.KILLS ?? 50);
const LIMIT_MS = Number(process.env.LIMIT_MINUTES ?? 20) * 60_000;
const server = await serverProcess();
await server.start();
const next = random(Number(process.env.SEED ?? 5));
const team = await assemble(server.base, { sessions: 20, geometry: readFileSync("fixtures/nested.step"), seed: 2, kills: true });
const began = performance.now();
const lost: string[] = [];
const unclean: string[] = [];
const starts_ms: number[] = [];
let kills = 0;
for (; kills < KILLS && performance.now() - began < LIMIT_MS; kills++) {
	const work = team.work();
	await new Promise((r) => setTimeout(r, 100 + 1500 * next()));
	await server.kill();
	team.stop();
	await work;
	const complaints = server.verify();
	if (complaints !== "") unclean.push(complaints);
	const start = performance.now();
	await server.start();
	starts_ms.push(performance.now() - start);
	lost.push(...(await team.missing(kills === KILLS - 1)));
}
await server.stop();
console.log(
	JSON.stringify({
		bench: "kill",
		kills,
		writes: team.figures.writes_ms.length,
		lost: lost.length,
		unclean: unclean.length,
		failures: team.figures.wrong.length,
		start_ms: Math.round(starts_ms.reduce((a, b) => a + b, 0) / starts_ms.length),
		minutes: Number(((performance.now() - began) / 60_000).toFixed(1)),
	}),
);
for (const line of [...lost.slice(0, 5), ...unclean.slice(0, 3), ...team.figures.wrong.slice(0, 5)]) console.error(line);
server.remove();
process.exitCode = lost.length + unclean.length + team.figures.wrong.length === 0 ? 0 : 1;
