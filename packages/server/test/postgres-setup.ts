import type { TestProject } from "vitest/node";
import { startPostgres } from "../../../scripts/postgres.mjs";

declare module "vitest" {
	export interface ProvidedContext {
		/** Address of an empty PostgreSQL; null where none is installed. */
		postgres: string | null;
	}
}

/** Starts PostgreSQL once for all tests, where it is installed; it is never installed by them. */
export default async function setup(project: TestProject): Promise<() => void> {
	const running = (await startPostgres()) as { url: string; stop: () => void } | null;
	if (running === null) console.log("PostgreSQL is not installed: its tests are left out (npm run test:postgres installs it)");
	project.provide("postgres", running?.url ?? null);
	return () => running?.stop();
}
