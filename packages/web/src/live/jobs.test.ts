import type { JobView } from "@alvek/contract";
import { fail, ok } from "@alvek/core/result";
import { describe, expect, it } from "vitest";
import { followJob, type JobPorts, tellFollowers } from "./jobs";

const view = (state: JobView["state"], progress = 0): JobView => ({
	id: "j1",
	kind: "import",
	state,
	progress,
	stage: "reading",
	issues: [],
});
const told = (job: JobView): void => tellFollowers({ type: "job", id: job.id, data: job });

/** A world in which time goes on only when the test says so. */
function world(answers: JobPorts["getJob"]) {
	const waiting: (() => void)[] = [];
	let asked = 0;
	const ports: JobPorts = {
		getJob: (input) => {
			asked++;
			return answers(input);
		},
		wait: () => new Promise((resolve) => waiting.push(resolve)),
	};
	return {
		ports,
		asked: () => asked,
		async pass() {
			for (const resolve of waiting.splice(0)) resolve();
			await new Promise((resolve) => setTimeout(resolve, 0));
		},
	};
}

describe("following a job", () => {
	it("hears its steps and its end from the stream, and asks for nothing", async () => {
		const { ports, asked } = world(async () => ok(view("running")));
		const steps: number[] = [];
		const { ended } = followJob("j1", ports, (job) => steps.push(job.progress));
		const end = ended();
		told(view("running", 0.25));
		told({ ...view("done", 1), id: "another" });
		told(view("running", 0.5));
		told(view("done", 1));
		expect((await end).state).toBe("done");
		expect(steps).toEqual([0.25, 0.5]);
		expect(asked()).toBe(0);
		// it follows no longer
		told(view("running", 0.1));
		expect(steps).toHaveLength(2);
	});

	it("an end told before anybody waited is not missed", async () => {
		const { ports } = world(async () => ok(view("running")));
		const { ended } = followJob("j1", ports, () => undefined);
		told(view("cancelled"));
		expect((await ended()).state).toBe("cancelled");
	});

	it("where the stream says nothing, asks now and then; away is waited out, gone is a failure", async () => {
		const answers = [fail({ code: "unreachable" }), ok(view("running", 0.5)), fail({ code: "not-found", path: "The job" })];
		const { ports, pass, asked } = world(async () => answers.shift() ?? ok(view("done")));
		const steps: number[] = [];
		const end = followJob("j1", ports, (job) => steps.push(job.progress)).ended();
		await pass();
		await pass();
		expect(steps).toEqual([0.5]);
		await pass();
		expect(await end).toMatchObject({ state: "failed", issues: [{ code: "not-found" }] });
		expect(asked()).toBe(3);
	});

	it("whoever stopped is told nothing more", () => {
		const { ports } = world(async () => ok(view("running")));
		const steps: number[] = [];
		const first = followJob("j1", ports, (job) => steps.push(job.progress));
		const second = followJob("j1", ports, (job) => steps.push(10 + job.progress));
		first.stop();
		told(view("running", 1));
		expect(steps).toEqual([11]);
		second.stop();
	});
});
