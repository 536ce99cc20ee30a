/** Where failures are told that no reply can tell: work after a commit, the end of a job. */
export type Report = (what: string, cause: unknown) => void;

/** One line on the console, with the stack where there is one. */
export const reportToConsole: Report = (what, cause) => {
	const error = cause instanceof Error ? (cause.stack ?? cause.message) : String(cause);
	console.error(JSON.stringify({ level: "error", at: new Date().toISOString(), msg: what, error }));
};
