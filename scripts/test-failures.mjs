// What went wrong in a test run, said once more at its end, where it is looked for first.

/** So much of a message is enough to know what it is about; the whole of it stands above. */
const MESSAGE_LINES = 12;

/** Failed tests of a Vitest report, and files that failed before or after their tests. */
export function unitFailures({ testResults }) {
	return testResults
		.filter((f) => f.status === "failed")
		.flatMap((f) => {
			const tests = f.assertionResults.filter((t) => t.status === "failed");
			if (tests.length === 0) return [{ file: f.name, name: "(the file itself)", message: f.message ?? "" }];
			return tests.map((t) => ({ file: f.name, name: t.fullName, message: t.failureMessages.join("\n") }));
		});
}

/** Failed tests of a Playwright report, and those that only passed when tried again. */
export function browserFailures(suites) {
	const specs = suites.flatMap(function all(s) {
		return [...s.specs.map((spec) => ({ ...spec, file: s.file })), ...(s.suites ?? []).flatMap(all)];
	});
	return specs.flatMap((spec) =>
		spec.tests
			.filter((t) => t.status === "unexpected" || t.status === "flaky")
			.map((t) => ({
				file: spec.file,
				name: spec.title,
				message: t.results.find((r) => r.error !== undefined)?.error.message ?? "",
				again: t.status === "flaky",
			})),
	);
}

/** The lines about them: first what stays failed, then what needed a second try and should be mended. */
export function describeFailures(failures) {
	const part = (title, some) =>
		some.length === 0 ? [] : ["", title, ...some.flatMap((f) => [`  ${f.file} > ${f.name}`, ...beginning(f.message)])];
	return [
		...part(
			"failed",
			failures.filter((f) => !f.again),
		),
		...part(
			"needed a second try",
			failures.filter((f) => f.again),
		),
	].join("\n");
}

/** Without the colours of a terminal. */
function beginning(message) {
	// biome-ignore lint/suspicious/noControlCharactersInRegex: escape sequences begin with one
	const plain = message.replaceAll(/\u001b\[[0-9;]*m/g, "");
	return plain
		.split("\n")
		.slice(0, MESSAGE_LINES)
		.map((line) => `      ${line}`);
}
