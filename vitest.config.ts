import { availableParallelism } from "node:os";
import { defineConfig } from "vitest/config";
import { programs } from "./scripts/postgres.mjs";

/** Every run draws the same cases of property-based tests. */
const SEED = ["scripts/test-seed.mjs"];

/** Tests that show the whole server at work on PostgreSQL, where it is installed. */
const THREAD = ["thread", "libraries", "publishing", "steps", "history"];

export default defineConfig({
	test: {
		// left to itself it keeps one core free, which of two is half
		maxWorkers: Math.max(2, availableParallelism() - 1),
		projects: [
			{
				test: {
					name: "core",
					include: ["packages/{core,contract,formats,standins,web}/src/**/*.test.{ts,tsx}", "scripts/*.test.mjs"],
					setupFiles: SEED,
					isolate: false,
					testTimeout: 60_000,
				},
			},
			{
				test: {
					name: "api",
					// deriving a key at today's cost takes longer than a whole test
					env: { ALVEK_TEST_SCRYPT_LOG2N: "10" },
					setupFiles: SEED,
					include: ["packages/{kernel,server,cli}/{src,test}/**/*.test.ts", "demo/src/**/*.test.ts"],
					globalSetup: ["packages/server/test/postgres-setup.ts"],
					testTimeout: 60_000,
					hookTimeout: 60_000,
				},
			},
			...(programs() === null
				? []
				: [
						{
							test: {
								name: "postgres",
								env: { ALVEK_TEST_SCRYPT_LOG2N: "10", ALVEK_TEST_ENGINE: "PostgreSQL" },
								include: THREAD.map((name) => `packages/server/test/${name}.test.ts`),
								globalSetup: ["packages/server/test/postgres-setup.ts"],
								testTimeout: 60_000,
								hookTimeout: 60_000,
							},
						},
					]),
		],
	},
});
