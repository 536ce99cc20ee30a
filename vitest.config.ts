import { defineConfig } from "vitest/config";

export default defineConfig({
	test: {
		projects: [
			{
				test: {
					name: "core",
					include: ["packages/{core,contract,web}/src/**/*.test.{ts,tsx}"],
					isolate: false,
					testTimeout: 60_000,
				},
			},
			{
				test: {
					name: "api",
					// deriving a key at today's cost takes longer than a whole test
					env: { ALVEK_TEST_SCRYPT_LOG2N: "10" },
					include: ["packages/{kernel,server,cli}/{src,test}/**/*.test.ts", "demo/src/**/*.test.ts"],
					testTimeout: 60_000,
					hookTimeout: 60_000,
				},
			},
		],
	},
});
