import { readFileSync, writeFileSync } from "node:fs";
import { expect, it } from "vitest";
import { API_ROOT } from "./index";
import { ROUTES } from "./routes";

const file = new URL("../../../docs/api.md", import.meta.url);

/** The list of routes as a page; `UPDATE_DOCS=1 npx vitest run packages/contract` writes it anew. */
function page(): string {
	const lines = Object.entries(ROUTES).map(([name, route]) => {
		const fields = Object.keys(route.input.fields).filter((f) => !route.path.includes(`:${f}`));
		const input = fields.length === 0 ? "" : fields.map((f) => `\`${f}\``).join(" ");
		return `| \`${route.method} ${route.path}\` | ${name} | ${input} | \`${route.action}\` | ${route.summary} |`;
	});
	return `# HTTP API

Everything under \`${API_ROOT}\`, the same that the interface uses; \`GET /api/health\` tells that the server answers.
This page is made from the route table in \`packages/contract/src/routes/\`, and a test keeps the two together.

A reply is \`{ "ok": true, "value": ... }\` or \`{ "ok": false, "issues": [{ "code", "path", "actual", "expected", "unit", "message" }] }\`.
Status: 403 not allowed, 404 not here (or not to be seen), 409 somebody else was first, 413 too large, 422 refused for its content.
\`GET\` takes its input as a query, everything else as a JSON body; \`importGeometry\` takes the file as the body
(\`application/octet-stream\`, at most 200 MB) and answers a job. Numbers are SI, with the unit in the key.
Moments of inertia: \`inertia_m5\` of a solid are second moments for density 1 about its own centroid, along the axes of its part;
\`inertia_kg_m2\` of the totals are about the centre of gravity, along the axes of the assembly. Off-diagonals are the negative
products, I_xy = -∫ x y dm. Centroids and centres are from the origin of the part, or of the assembly.
What can be taken back answers an \`event\`; \`POST /undo\` with it is the way back.

| route | name | input | right | what it does |
|---|---|---|---|---|
${lines.join("\n")}
`;
}

it("docs/api.md lists the route table as it is", () => {
	if (process.env.UPDATE_DOCS === "1") writeFileSync(file, page());
	expect(readFileSync(file, "utf8")).toBe(page());
});
