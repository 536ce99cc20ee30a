import type * as yup from "yup";
import { duplicatesRoutes } from "./duplicates";
import { installationRoutes } from "./installation";
import { librariesRoutes } from "./libraries";
import { materialsRoutes } from "./materials";
import { noticesRoutes } from "./notices";
import { partsRoutes } from "./parts";
import { peopleRoutes } from "./people";
import type { Route } from "./route";

/** The one table: it drives Express, the client, the list in the docs and the test of rights. */
export const ROUTES = {
	...installationRoutes,
	...peopleRoutes,
	...librariesRoutes,
	...materialsRoutes,
	...duplicatesRoutes,
	...partsRoutes,
	...noticesRoutes,
} as const;

export type RouteName = keyof typeof ROUTES;
export type RouteInput<N extends RouteName> = yup.InferType<(typeof ROUTES)[N]["input"]>;
export type RouteReply<N extends RouteName> = Exclude<(typeof ROUTES)[N]["_reply"], undefined>;

export const API_ROOT = "/api/v1";
/** Names the steps that a request recorded, in the header of its reply. */
export const STEPS_HEADER = "X-Alvek-Steps";
export const UPLOAD_LIMIT_BYTES = 200 * 1024 * 1024;

/** The path with its `:names` filled in, and the input that is left for the query or the body. */
export function fillPath(
	route: Pick<Route, "path">,
	input: Record<string, unknown>,
): { path: string; rest: Record<string, unknown> } {
	const rest = { ...input };
	const path = route.path.replace(/:(\w+)/g, (_, key: string) => {
		delete rest[key];
		return encodeURIComponent(String(input[key]));
	});
	return { path: API_ROOT + path, rest };
}

export type { Route } from "./route";
