export const API_ROOT = "/api/v1";
/** Names the steps that a request recorded, in the header of its reply. */
export const STEPS_HEADER = "X-Alvek-Steps";
export const UPLOAD_LIMIT_BYTES = 200 * 1024 * 1024;

/** The path with its `:names` filled in, and the input that is left for the query or the body. */
export function fillPath(
	route: { readonly path: string },
	input: Record<string, unknown>,
): { path: string; rest: Record<string, unknown> } {
	const rest = { ...input };
	const path = route.path.replace(/:(\w+)/g, (_, key: string) => {
		delete rest[key];
		return encodeURIComponent(String(input[key]));
	});
	return { path: API_ROOT + path, rest };
}
