import { API_ROOT } from "@alvek/contract";
import { ROUTES, type Route } from "@alvek/contract/routes";
import { convertSchema } from "@sodaru/yup-to-json-schema";

type Json = Record<string, unknown>;

const ISSUE: Json = {
	type: "object",
	required: ["code", "message"],
	properties: { code: { type: "string" }, path: { type: "string" }, message: { type: "string" } },
};
const REFUSED: Json = {
	type: "object",
	required: ["ok", "issues"],
	properties: { ok: { const: false }, issues: { type: "array", items: ISSUE } },
};

/** The route table as OpenAPI 3.1: paths, inputs, rights and what refusals look like. */
export function openApi(): Json {
	const paths: Record<string, Json> = {};
	for (const [name, route] of Object.entries(ROUTES) as [string, Route][]) {
		const path = API_ROOT + route.path.replace(/:(\w+)/g, "{$1}");
		paths[path] = { ...paths[path], [route.method.toLowerCase()]: operation(name, route) };
	}
	return {
		openapi: "3.1.0",
		info: {
			title: "Alvek",
			version: "1",
			description: "Material libraries, parts and what they weigh. Numbers are SI, the unit in the key.",
		},
		components: {
			securitySchemes: {
				session: { type: "apiKey", in: "cookie", name: "alvek_session" },
				token: { type: "http", scheme: "bearer" },
			},
		},
		security: [{ session: [] }, { token: [] }],
		paths,
	};
}

function operation(name: string, route: Route): Json {
	const schema = convertSchema(route.input) as { properties?: Record<string, Json>; required?: string[] };
	const named = new Set([...route.path.matchAll(/:(\w+)/g)].map((m) => m[1] as string));
	const required = new Set(schema.required ?? []);
	const fields = Object.entries(schema.properties ?? {});
	const inQuery = route.method === "GET" || route.raw === "upload";
	const parameters = fields
		.filter(([field]) => named.has(field) || inQuery)
		.map(([field, of]) => ({
			name: field,
			in: named.has(field) ? "path" : "query",
			required: named.has(field) || required.has(field),
			schema: of,
		}));
	const body = fields.filter(([field]) => !named.has(field));
	const json = {
		type: "object",
		properties: Object.fromEntries(body),
		required: body.map(([f]) => f).filter((f) => required.has(f)),
	};
	const content =
		route.raw === "upload"
			? { "application/octet-stream": { schema: { type: "string", format: "binary" } } }
			: { "application/json": { schema: { ...json, additionalProperties: false } } };
	return {
		operationId: name,
		summary: route.summary,
		"x-right": route.action,
		...(route.open === true ? { security: [] } : {}),
		...(parameters.length === 0 ? {} : { parameters }),
		...(inQuery && route.raw !== "upload" ? {} : { requestBody: { content } }),
		responses: {
			200: {
				description: route.raw === "download" ? "the bytes" : "the answer",
				content:
					route.raw === "download"
						? { "application/octet-stream": {} }
						: {
								"application/json": {
									schema: { type: "object", required: ["ok", "value"], properties: { ok: { const: true }, value: {} } },
								},
							},
			},
			default: { description: "refused", content: { "application/json": { schema: REFUSED } } },
		},
	};
}
