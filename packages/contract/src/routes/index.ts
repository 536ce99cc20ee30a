import type * as yup from "yup";
import { duplicatesRoutes } from "./duplicates";
import { installationRoutes } from "./installation";
import { librariesRoutes } from "./libraries";
import { materialsRoutes } from "./materials";
import { noticesRoutes } from "./notices";
import { partsRoutes } from "./parts";
import { peopleRoutes } from "./people";

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

export type { Route } from "./route";
