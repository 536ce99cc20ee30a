import { fileURLToPath } from "node:url";
import { newContext } from "./http/app";
import { setupLink } from "./people/tickets";
import { type Installation, listen, openInstallation } from "./server";

/**
 * Opens the installation and serves it until Ctrl+C. Settings come from the environment: `ALVEK_DATA`, `PORT`, `HOST`,
 * `ALVEK_HOSTS`, `ALVEK_PROXY` (1: behind a proxy that ends TLS).
 * @param root the checkout, with a slash at its end
 * @param prepare run before the first request: the demo fills its data here
 * @param demo its made-up people sign in with one click
 */
export async function start(root: URL, prepare: (installation: Installation) => Promise<void>, demo = false): Promise<void> {
	const dataDir = process.env.ALVEK_DATA ?? fileURLToPath(new URL("data", root));
	const port = Number(process.env.PORT ?? 4310);
	const host = process.env.HOST ?? "127.0.0.1";

	const installation = await openInstallation({
		dataDir,
		kernelWorker: new URL("packages/kernel/dist/worker.js", root),
		version: "0.1.0",
		demo,
	});

	await prepare(installation);

	try {
		const { server, port: bound } = await listen(installation, {
			port,
			host,
			webRoot: fileURLToPath(new URL("packages/web/dist", root)),
			behindProxy: process.env.ALVEK_PROXY === "1",
			hostNames: (process.env.ALVEK_HOSTS ?? "").split(",").filter((h) => h !== ""),
		});
		const address = `http://${host === "127.0.0.1" || host === "0.0.0.0" ? "localhost" : host}:${bound}`;
		const setup = demo ? null : await setupLink(newContext(installation.db));
		if (setup !== null) console.log(`Nobody can sign in yet. This link makes the administrator, once: ${address}${setup}`);
		console.log(`Alvek is at ${address}   (Ctrl+C stops it; data in ${dataDir})`);
		let stopping = false;
		const stop = async (): Promise<void> => {
			if (stopping) return;
			stopping = true;
			console.log("Stopping.");
			server.close();
			server.closeAllConnections();
			await installation.close();
			process.exit(0);
		};
		process.on("SIGINT", stop);
		process.on("SIGTERM", stop);
	} catch (error) {
		if ((error as { code?: string }).code === "EADDRINUSE") {
			console.error(`Port ${port} is busy. Stop what uses it, or choose another: PORT=4311 npm run demo`);
		} else console.error(String(error));
		await installation.close();
		process.exit(1);
	}
}
