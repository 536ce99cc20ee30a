import { type Report, reportToConsole } from "../db";

const FIRST_AFTER_MS = 60_000;
const EVERY_MS = 24 * 3_600_000;

/** Does a work a minute after the start and once a day from then on; a failure is told, and the next day it is tried again. */
export function daily(
	name: string,
	work: () => Promise<unknown>,
	{ report = reportToConsole, firstAfterMs = FIRST_AFTER_MS, everyMs = EVERY_MS }: DailyOptions = {},
): { stop(): Promise<void> } {
	let running: Promise<unknown> = Promise.resolve();
	let stopped = false;
	let timer = setTimeout(run, firstAfterMs).unref();
	function run(): void {
		running = work()
			.catch((cause) => report(name, cause))
			.finally(() => {
				if (!stopped) timer = setTimeout(run, everyMs).unref();
			});
	}
	return {
		async stop() {
			stopped = true;
			clearTimeout(timer);
			await running;
		},
	};
}

export type DailyOptions = { readonly report?: Report | undefined; readonly firstAfterMs?: number; readonly everyMs?: number };
