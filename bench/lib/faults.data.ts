/** A fault that somebody might make: in which file, what it does to it, and the tests that have to notice. */
export type Fault = {
	readonly what: string;
	readonly file: string;
	/** Stands in the file exactly once. */
	readonly from: string;
	readonly to: string;
	/** Parts of the paths of test files. */
	readonly tests: readonly string[];
};

/** Faults that were planted once and lived, and one for each rule that came later. */
export const FAULTS: readonly Fault[] = [
	{
		what: "the end slope of the monotone interpolation is not cut back",
		file: "packages/core/src/curve/interpolate.ts",
		from: "Math.abs(slope) > Math.abs(3 * d0)) return 3 * d0;",
		to: "Math.abs(slope) > Math.abs(3 * d0)) return slope;",
		tests: ["core/src/curve"],
	},
	{
		what: "the end slope weighs the wrong interval",
		file: "packages/core/src/curve/interpolate.ts",
		from: "((2 * h0 + h1) * d0 - h0 * d1)",
		to: "((2 * h0 + h1) * d0 - h1 * d1)",
		tests: ["core/src/curve"],
	},
	{
		what: "the same edit twice is a conflict",
		file: "packages/core/src/material/edit.ts",
		from: "if (!sameContent(standing, edit.to)) clashes.set",
		to: "clashes.set",
		tests: ["core/src/material/edit"],
	},
	{
		what: "a review date is passed on its own day",
		file: "packages/core/src/table/table.ts",
		from: 'fails[i] += review !== "" && review < reviewBefore',
		to: 'fails[i] += review !== "" && review <= reviewBefore',
		tests: ["core/src/table/table.test"],
	},
	{
		what: "a publish brings parts of frozen projects forward",
		file: "packages/server/src/repo/assignment.ts",
		from: "AND p.frozen = 0 AND p.forward",
		to: "AND p.forward",
		tests: ["server/test/publishing"],
	},
	{
		what: "using a lock does not keep it open",
		file: "packages/server/src/access/lock.ts",
		from: "await useLock(sql, id, ctx.now());",
		to: "",
		tests: ["server/test/publishing"],
	},
	{
		what: "anybody may read anybody's job",
		file: "packages/server/src/runtime/jobs.ts",
		from: 'may(ctx.actor, "job.read", { kind: "job", person: row.person_id })',
		to: 'may(ctx.actor, "job.read", { kind: "job", person: ctx.actor.person })',
		tests: ["server/test/live"],
	},
	{
		what: "others may take back my drafts",
		file: "packages/server/src/undo/authorise.ts",
		from: "if (row.own === true && event.actor !== ctx.actor.person) return foreign;",
		to: "",
		tests: ["server/test/steps", "server/test/doors"],
	},
	{
		what: "a hand-over puts a weaker role in place of a stronger one",
		file: "packages/server/src/repo/grant.ts",
		from: "WHERE access_grant.role = 'reader' OR excluded.role IN ('steward', 'owner')",
		to: "WHERE true",
		tests: ["server/test/people", "server/test/repo"],
	},
	{
		what: "a plan does not tell that a project is frozen",
		file: "packages/server/src/publish/plan.ts",
		from: "frozen: frozen === 1,",
		to: "frozen: false,",
		tests: ["server/test/publishing"],
	},
	{
		what: "an unreachable server takes the typed value with it",
		file: "packages/web/src/draft/store.ts",
		from: 'if (LATER.has(code)) return { do: "unreachable" };',
		to: "",
		tests: ["web/src/draft/store"],
	},
	{
		what: "a conflict is not asked",
		file: "packages/web/src/draft/queue.ts",
		from: "const contested = [...state.contested, { step, clashes }];",
		to: "const contested = state.contested;",
		tests: ["web/src/draft/queue"],
	},
	{
		what: "an assembly weighs as much as its heaviest part",
		file: "packages/web/src/places/parts/tree.ts",
		from: "masses.reduce((a, b) => a + b, 0)",
		to: "Math.max(...masses)",
		tests: ["web/src/places/parts/tree"],
	},
	{
		what: "a page is told its own news",
		file: "packages/web/src/live/news.ts",
		from: "if (event.tab === TAB) {",
		to: "if (event.tab === null && event.tab === TAB) {",
		tests: ["web/src/live/news"],
	},
	{
		what: "a change whose reply was lost leaves the page as it was",
		file: "packages/web/src/live/news.ts",
		from: "if (useLostReplies.getState().lost) void askAgain",
		to: "if (false) void askAgain",
		tests: ["web/src/live/news"],
	},
	{
		what: "rows that may not be edited are edited",
		file: "packages/web/src/places/materials/cells/plan.ts",
		from: "edits: mayEditRow(world, row) ? (edits[i] ?? []) : []",
		to: "edits: edits[i] ?? []",
		tests: ["web/src/places/materials/cells"],
	},
	{
		what: "publishing does not look at the lock",
		file: "packages/web/src/places/libraries/publish/ready.ts",
		from: "ready: chosen.length > 0 && open && ",
		to: "ready: chosen.length > 0 && ",
		tests: ["web/src/places/libraries/publish"],
	},
	{
		what: "a page does not notice that it is signed out",
		file: "packages/web/src/api/client.ts",
		from: 'if (!result.ok && result.issues[0]?.code === "signed-out") useSignedOut.setState({ out: true });',
		to: "",
		tests: ["web/src/api/client"],
	},
	{
		what: "a lost import counts as done",
		file: "packages/web/src/live/jobs.ts",
		from: 'end = { state: "failed", issues: fail(...job.issues).issues };',
		to: 'end = { state: "done", issues: [] };',
		tests: ["web/src/live/jobs"],
	},
	{
		what: "columns that are out of date are not asked for again",
		file: "packages/web/src/places/materials/strips/useColumns.ts",
		from: "!known.isInvalidated && ",
		to: "",
		tests: ["web/src/places/materials/strips"],
	},
	{
		what: "who signs in on an open page sees what somebody else saw",
		file: "packages/web/src/places/entry/SignIn.tsx",
		from: "before !== undefined && before !== result.value.person?.id",
		to: "before === undefined",
		tests: ["web/src/places/entry"],
	},
	{
		what: "columns of strips are answered whatever may be read",
		file: "packages/server/src/materials/reading.ts",
		from: "const { bytes } = await queries.columns({ ...query.value, where: [] }, stripsOf(input), viewer);",
		to: 'const { bytes } = await queries.columns({ ...query.value, where: [] }, stripsOf(input), { ...viewer, libraries: new Set(["own", "sup"]) });',
		tests: ["server/test/many"],
	},
];
