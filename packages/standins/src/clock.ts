import { type Answer, type Device, refused } from "./device";

/** A clock that others of the stand-ins go by, so that a test can let a device's day pass in a second. */
export type Clock = { now(): number };

const FASTEST = 1e6;
/** Dates that JavaScript knows end here, ms from 1970. */
const LATEST = 8.64e15;

/** @param real what time really is, ms from 1970 */
export function createClock(real: () => number = Date.now): Clock & Device {
	let since = { real: real(), shown: real(), rate: 1 };
	const now = (): number => Math.min(LATEST, since.shown + (real() - since.real) * since.rate);
	const view = (): Answer => ({ status: 200, body: { now: new Date(now()).toISOString(), rate: since.rate } });
	return {
		path: "clock",
		about: "The time that the devices go by: PUT { now, rate } sets it and how fast it runs.",
		now,
		answer({ method, rest, body }) {
			if (rest !== "") return null;
			if (method === "GET") return view();
			if (method !== "PUT") return { status: 405, body: { why: "GET or PUT" } };
			const wanted = readSetting(body, { now: now(), rate: since.rate });
			if (typeof wanted === "string") return refused(wanted);
			since = { real: real(), shown: wanted.now, rate: wanted.rate };
			return view();
		},
	};
}

type Setting = { readonly now: number; readonly rate: number };

/** What is to be shown, or why it is not. */
function readSetting(body: unknown, before: Setting): Setting | string {
	if (typeof body !== "object" || body === null) return "{ now, rate } is needed, each of them or both";
	const { now, rate } = body as { now?: unknown; rate?: unknown };
	const at = now === undefined ? before.now : typeof now === "string" ? Date.parse(now) : Number.NaN;
	if (Number.isNaN(at)) return "now is a time such as 2026-11-29T08:00:00Z";
	const speed = rate ?? before.rate;
	if (typeof speed !== "number" || !(speed >= 0 && speed <= FASTEST)) return `rate is a number from 0 to ${FASTEST}`;
	return { now: at, rate: speed };
}
