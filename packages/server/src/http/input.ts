import type { Route } from "@alvek/contract/routes";
import { fail, type Issue, ok, type Result } from "@alvek/core/result";
import type { Request } from "express";
import { ValidationError } from "yup";

/** Params, query and body as one input, checked against the route's shape; strict, nothing unknown. */
export function readInput(route: Pick<Route, "input" | "method">, req: Request): Result<Record<string, unknown>> {
	const body: unknown = route.method === "GET" || req.body === undefined ? {} : req.body;
	if (typeof body !== "object" || body === null || Array.isArray(body))
		return fail({ code: "wrong-type", path: "body", expected: "an object" });
	const poisoned = findPoisonedKey(body, 0);
	if (poisoned !== null) return fail(poisoned);
	const fromQuery = req.method === "GET" || req.headers["content-type"] === "application/octet-stream" ? req.query : {};
	const input = { ...fromQuery, ...body, ...req.params };
	try {
		return ok(route.input.validateSync(input, { abortEarly: false, strict: true }) as Record<string, unknown>);
	} catch (error) {
		if (!(error instanceof ValidationError)) throw error;
		const inner = error.inner.length > 0 ? error.inner : [error];
		return fail(
			...inner
				.slice(0, 20)
				.map((e): Issue => ({ code: "bad-input", path: e.path ?? "", expected: e.errors[0]?.slice(0, 200) ?? "" })),
		);
	}
}

/** `__proto__` and `constructor` as keys are refused wherever they stand. */
function findPoisonedKey(value: unknown, depth: number): Issue | null {
	if (typeof value !== "object" || value === null) return null;
	if (depth > 40) return { code: "bad-input", expected: "fewer nested objects" };
	for (const key of Object.keys(value)) {
		if (key === "__proto__" || key === "constructor" || key === "prototype")
			return { code: "bad-input", path: key, expected: "another key" };
		const below = findPoisonedKey((value as Record<string, unknown>)[key], depth + 1);
		if (below !== null) return below;
	}
	return null;
}
