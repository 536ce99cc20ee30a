import type { RouteName } from "@alvek/contract";
import { PATHS } from "@alvek/contract";
import { vi } from "vitest";

/** A request as a test sees it: which route, and what it was asked with. */
export type Asked = { readonly name: RouteName; readonly input: Record<string, unknown> };

/** What a route answers in a test: its value, or a refusal by its code. */
export type Answer = { readonly value: unknown; readonly steps?: string } | { readonly code: string; readonly actual?: unknown };

/**
 * A server made of answers by route. An answer may be a function of what was asked; a route without one is not there.
 * @returns every request in order
 */
export function serverOf(answers: Partial<Record<RouteName, Answer | ((asked: Asked) => Answer | Promise<Answer>)>>): Asked[] {
	const asked: Asked[] = [];
	vi.stubGlobal("fetch", async (address: string, init: RequestInit = {}) => {
		const [path = "", query = ""] = address.split("?");
		const method = init.method ?? "GET";
		const body = typeof init.body === "string" ? (JSON.parse(init.body) as Record<string, unknown>) : {};
		for (const [name, route] of Object.entries(PATHS)) {
			const params = route.method === method ? paramsOf(`/api/v1${route.path}`, path) : null;
			if (params === null) continue;
			const request = {
				name: name as RouteName,
				input: { ...params, ...Object.fromEntries(new URLSearchParams(query)), ...body },
			};
			asked.push(request);
			const given = answers[request.name] ?? { code: "not-found" };
			const answer = typeof given === "function" ? await given(request) : given;
			if ("code" in answer) return Response.json({ ok: false, issues: [answer] }, { status: 422 });
			return Response.json({ ok: true, value: answer.value }, { headers: { "X-Alvek-Steps": answer.steps ?? "" } });
		}
		throw new TypeError(`no route ${method} ${address}`);
	});
	return asked;
}

/** The parts of a path that a pattern names; null when it is another path. */
function paramsOf(pattern: string, path: string): Record<string, string> | null {
	const [wanted, given] = [pattern.split("/"), path.split("/")];
	if (wanted.length !== given.length) return null;
	const params: Record<string, string> = {};
	for (const [i, part] of wanted.entries()) {
		if (part.startsWith(":")) params[part.slice(1)] = decodeURIComponent(given[i] ?? "");
		else if (part !== given[i]) return null;
	}
	return params;
}
